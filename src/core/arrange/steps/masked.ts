import { channel, randomBase, randomOf } from '../../math/random';
import type { MaskField } from '../../mesh/mask/field';
import { placesNear, type MaskPlaces } from '../../mesh/mask/places';
import type { ArrangeContext } from '../context';
import type { KeepsOut } from './keepsOut';

/** What masks make of the places of an arrangement. */

const MASKED = channel('gaps.mask');

/** Tells whether something stands at a place: where a draw of its own is below what the mask gives there. */
export function standsBy(seed: number): (value: number, slot: number) => boolean {
  const base = randomBase(seed, MASKED);
  return (value, slot) => value >= 1 || (value > 0 && randomOf(base, slot) < value);
}

/** What masks read of places in the scene: of each that of the surfaces of its arrangement that is nearest to it. */
export const maskPlacesOf = (id: string, position: Float64Array, context: ArrangeContext): MaskPlaces =>
  placesNear(position, context.maskGrounds?.(id) ?? []);

/** The values of a mask at places of an arrangement; null where the scene has no such mask. */
function maskValues(
  mask: string,
  id: string,
  position: Float64Array,
  context: ArrangeContext,
): Float64Array | null {
  const field: MaskField | undefined = context.mask?.(mask);
  return field ? field.at(maskPlacesOf(id, position, context)) : null;
}

/** Keeps out by a mask: the more it gives a place, the likelier something stands there. Undefined without that mask. */
export function keptOutByMask(
  mask: string,
  { id, seed }: { id: string; seed: number },
  context: ArrangeContext,
): KeepsOut | undefined {
  if (!context.mask?.(mask)) return undefined;
  const values = (position: Float64Array) => maskValues(mask, id, position, context)!;
  const stands = standsBy(seed);
  const keeps: KeepsOut = (at, slot) => !stands(values(Float64Array.from(at))[0], slot);
  keeps.all = (position, slots) => {
    const value = values(position);
    return Uint8Array.from(slots, (slot, i) => (stands(value[i], slot) ? 0 : 1));
  };
  return keeps;
}
