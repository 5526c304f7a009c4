import type { Arrangement } from '../arrange/registry';
import type { Prop } from '../mesh/propSchema';
import type { Scene } from './schema';

/** Who wears which material made by hand. */

/** What tells the id of the material that a prop wears; null: its own look. */
export type WornBy = (prop: Pick<Prop, 'material'>, placedBy: readonly string[]) => string | null;

/**
 * Who wears what among some arrangements.
 * @returns asked with the ids of those that placed a prop, from outside in: the outermost one that has a material decides
 */
export function wornAmong(arrangements: readonly Pick<Arrangement, 'id' | 'material'>[]): WornBy {
  // Few have one, and this is asked for each picture of all of them.
  const own = new Map<string, Arrangement['material']>();
  for (const a of arrangements) if (a.material !== undefined) own.set(a.id, a.material);
  return ({ material }, placedBy) => {
    const outermost = placedBy.find((id) => own.has(id));
    return (outermost === undefined ? undefined : own.get(outermost)) ?? material;
  };
}

/** What wears a material. */
export function wearers({ props, surfaces, arrangements }: Scene, id: string) {
  return [...props, ...surfaces, ...arrangements].filter((n) => n.material === id);
}
