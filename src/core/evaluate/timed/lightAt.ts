import { LIGHT_NODE } from '../../light/schema';
import type { Scene } from '../../scene/schema';
import { putNumbers, type LinkResult } from '../links/linked';
import { inForceAt } from './moments';

/**
 * The light of a scene at a time, and the lights put into it by hand. What of them changes with time, or follows what
 * other things measure, is put in.
 * @param time seconds @param links what became of the scene's links, in its order
 */
export function lightAt(
  scene: Scene,
  time: number,
  links: readonly LinkResult[],
): Pick<Scene, 'light' | 'lamps'> {
  const isOfLight = ({ node }: { node: string }) =>
    node === LIGHT_NODE ? scene.light !== null : scene.lamps.some((l) => l.id === node);
  const numbers = [
    ...scene.timed.flatMap((t) => (isOfLight(t) ? [{ ...t, value: inForceAt(t.moments, false, time) }] : [])),
    ...scene.links.flatMap((link) => {
      const value = isOfLight(link) ? links.find((l) => l.id === link.id)?.value : null;
      return typeof value === 'number' ? [{ ...link, value }] : [];
    }),
  ];
  const { light, lamps } = numbers.length > 0 ? putNumbers(scene, numbers) : scene;
  return { light, lamps };
}
