import type { ArrangeContext } from '../context';
import type { Sites } from '../sites';
import { maskPlacesOf } from './masked';
import type { Pose } from './onSurface';
import { CHANNELS, restOf, type Variation } from './schema';
import { VARIED, type Varied } from './variation';

/** What masks make of what stands on sites: one entry a place. */
export interface SiteMasks {
  /** How much of all ranges of variation counts, 0–1. */
  amount: Float64Array | null;
  /** A factor of size. */
  size: Float64Array | null;
}

/** The masks of a recipe's variation at its places; null where it has none that the scene has. */
export function masksOnSites(
  sites: Sites,
  { id, variation }: { id: string; variation?: Variation },
  context: ArrangeContext,
): SiteMasks | null {
  const of = (mask: string | null | undefined) => (mask ? context.mask?.(mask) : undefined);
  const [amount, size] = [of(variation?.mask), of(variation?.sizeMask)];
  if (!variation || (!amount && !size)) return null;
  const places = sites.reads ?? maskPlacesOf(id, positionsOf(sites), context);
  const least = variation.sizeLeast;
  return {
    amount: amount ? amount.at(places) : null,
    size: size ? size.at(places).map((v) => least + (1 - least) * v) : null,
  };
}

/** Where the places are, those too that say so only when they are asked. */
function positionsOf(sites: Sites): Float64Array {
  if (!sites.asks || !sites.moved) return sites.position;
  const out = new Float64Array(sites.slot.length * 3);
  const pose: Pose = { position: [0, 0, 0], front: [0, 0, 1], up: [0, 1, 0] };
  for (let i = 0; i < sites.slot.length; i++)
    if (sites.moved(i, 0, 0, pose) === true) out.set(pose.position, i * 3);
  return out;
}

/** Brings what was drawn for a slot nearer to what it is where nothing varies. @param amount 0 just that, 1 as drawn */
export function lessen(v: Varied, amount: number): void {
  for (const c of CHANNELS) v[VARIED[c]] = restOf(c) + (v[VARIED[c]] - restOf(c)) * amount;
}
