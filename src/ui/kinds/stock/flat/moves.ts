import type { StockLayout } from '@/core/arrange/result';
import type { FacingValues } from '@/store/commands/stock';

/** What a drag in the shelf does to the order of facings: which prop stands in which from then on. */

type Facings = StockLayout['facings'];
type Change = Record<string, FacingValues>;
/** The id of the prop in a facing; null for a pause. */
type PropOf = (facing: number) => string | null;

/** A facing taken to the place of another one: those between move by one; on another shelf the two change places. */
export function movedTo(facings: Facings, propOf: PropOf, from: number, to: number): Change {
  const out: Change = {};
  const put = (f: number, prop: string | null) => {
    if (prop !== null) out[facings[f].name] = { prop };
  };
  if (facings[from].shelf !== facings[to].shelf) {
    put(from, propOf(to));
    put(to, propOf(from));
    return out;
  }
  const step = to > from ? 1 : -1;
  for (let f = from; f !== to; f += step) put(f, propOf(f + step));
  put(to, propOf(from));
  return out;
}

/**
 * The edge between two groups, right of facing `left`, taken to another place: the group that grows has those that the
 * other one loses.
 * @param to the facing that comes right after the edge then
 */
export function widened(facings: Facings, propOf: PropOf, left: number, to: number): Change {
  const out: Change = {};
  const { shelf } = facings[left];
  const put = (f: number, prop: string | null) => {
    if (prop !== null && facings[f]?.shelf === shelf) out[facings[f].name] = { prop };
  };
  for (let f = left + 1; f < to; f++) put(f, propOf(left));
  for (let f = left; f >= to; f--) put(f, propOf(left + 1));
  return out;
}

/** The last facing of the group that one is in. */
export function lastOfGroup(facings: Facings, propOf: PropOf, of: number): number {
  let last = of;
  while (facings[last + 1]?.shelf === facings[of].shelf && propOf(last + 1) === propOf(of)) last++;
  return last;
}

/** The facing of a shelf that begins right of a place, in the order of the layout; the one after its last at the end. */
export function rightOf(facings: Facings, shelf: number, at: number): number {
  let next = -1;
  for (let f = 0; f < facings.length; f++) {
    if (facings[f].shelf !== shelf) continue;
    if ((facings[f].x0 + facings[f].x1) / 2 > at) return f;
    next = f + 1;
  }
  return next;
}
