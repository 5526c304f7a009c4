import { LIGHT_NODE, type Light } from '../../light/schema';
import type { Scene } from '../../scene/schema';
import { putNumbers, type LinkResult } from '../links/linked';
import { inForceAt } from './moments';

/**
 * The light of a scene at a time; null where it has none of its own. What of it changes with time, or follows what other
 * things measure, is put in.
 * @param time seconds @param links what became of the scene's links, in its order
 */
export function lightAt(scene: Scene, time: number, links: readonly LinkResult[]): Light | null {
  if (!scene.light) return null;
  const numbers = [
    ...scene.timed.flatMap((t) =>
      t.node === LIGHT_NODE ? [{ ...t, value: inForceAt(t.moments, false, time) }] : [],
    ),
    ...scene.links.flatMap((link) => {
      const value = link.node === LIGHT_NODE ? links.find((l) => l.id === link.id)?.value : null;
      return typeof value === 'number' ? [{ ...link, value }] : [];
    }),
  ];
  return numbers.length > 0 ? putNumbers(scene, numbers).light : scene.light;
}
