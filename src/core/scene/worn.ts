import type { Prop } from '../mesh/propSchema';
import type { Scene } from './schema';

/** Who wears which material made by hand. */

/**
 * Id of the material that a prop wears where it is placed; null: its own look.
 * @param placedBy materials of the arrangements that placed it, from outside in: the outermost one that has any decides
 */
export const materialWorn = (
  { material }: Pick<Prop, 'material'>,
  placedBy: readonly (string | undefined)[],
): string | null => placedBy.find((id) => id !== undefined) ?? material;

/** What wears a material. */
export function wearers({ props, surfaces, arrangements }: Scene, id: string) {
  return [...props, ...surfaces, ...arrangements].filter((n) => n.material === id);
}
