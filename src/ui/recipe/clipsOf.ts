import { needsOf, type Arrangement } from '@/core/arrange/registry';
import { isWheel, WHEELS } from '@/core/arrange/poses/wheels';
import type { Scene } from '@/core/scene/schema';
import { engine } from '@/store/engine';

/** The animations that the props of an arrangement bring along, each name once. */
export function clipsOf(a: Arrangement, scene: Scene): { name: string; duration: number }[] {
  const out = new Map<string, number>();
  for (const id of needsOf(a).props) {
    const prop = scene.props.find((p) => p.id === id);
    if (prop?.snapPoints.some(isWheel)) out.set(WHEELS, 0);
    for (const { name, duration } of prop ? engine().clipsOf(prop.mesh) : [])
      if (!out.has(name)) out.set(name, duration);
  }
  return [...out].map(([name, duration]) => ({ name, duration }));
}
