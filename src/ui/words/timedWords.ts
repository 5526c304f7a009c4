import { LIGHT_NODE } from '@/core/light/schema';
import type { Timed } from '@/core/scene/timedSchema';
import type { Scene } from '@/core/scene/schema';
import { plainName } from './settingWords';

/** "Quay bollards: speed". */
export function timedName(scene: Scene, { node, field }: Pick<Timed, 'node' | 'field'>): string {
  if (node === LIGHT_NODE) return `Light: ${plainName(field[field.length - 1]).toLowerCase()}`;
  const of = [...scene.arrangements, ...scene.surfaces, ...scene.paths, ...scene.lamps].find(
    (n) => n.id === node,
  );
  return `${of?.name ?? 'Gone'}: ${plainName(field[field.length - 1]).toLowerCase()}`;
}
