import type { ArrangeContext } from '../context';
import type { Sites } from '../sites';
import { masksOnSites } from '../steps/maskedSites';
import type { Facing } from './lay';
import type { FacingMasks } from './measure';
import type { Stock } from './schema';

/**
 * What the masks of its variation say of each facing, read where it would stand without them: how wide it is follows
 * from that, and so where the next one stands. All in a facing are read there. Null where no mask counts.
 */
export function facingMasks(
  stock: Stock,
  boards: readonly { facings: readonly Facing[] }[],
  context: ArrangeContext,
) {
  const { variation } = stock;
  if (!variation.mask && !variation.sizeMask) return null;
  const list = boards.flatMap(({ facings }) => facings);
  const position = Float64Array.from(list.flatMap((f) => f.frame.origin));
  const slot = new Float64Array(list.length);
  const sites = { slot, position } as unknown as Sites;
  const read = masksOnSites(sites, stock, context);
  if (!read) return null;
  const at = new Map(list.map((f, i) => [f.name, i]));
  const known = (name: string) => Math.min(list.length - 1, at.get(name) ?? list.length - 1);
  return {
    of: (name: string): FacingMasks => {
      const i = known(name);
      return { amount: read.amount?.[i] ?? 1, size: read.size?.[i] ?? 1 };
    },
    /** Where each row of these is read. */
    placesOf(laid: typeof boards, rows: number): Float64Array {
      const out = new Float64Array(rows * 3);
      for (const { facings } of laid)
        for (const f of facings) {
          const from = known(f.name) * 3;
          for (let i = f.start; i < f.end; i++) out.set(position.subarray(from, from + 3), i * 3);
        }
      return out;
    },
  };
}
