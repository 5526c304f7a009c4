import { indexIn } from '../indexIn';
import { putNumbers } from '../links/linked';
import type { Timed } from '../../scene/timedSchema';
import type { Scene } from '../../scene/schema';
import { isReadWithin, isSimulated } from '../simulated/simulation';
import { inForceAt } from './moments';

/** Numbers that change with time: put in before a scene is worked out at a moment. */

/** Fields that are multiplied by the time where they are used. */
const isSpeed = ({ field }: Pick<Timed, 'field'>): boolean => field[field.length - 1] === 'speed';

/**
 * Whether a number can change with time. What is worked out frame by frame from its beginning, a fall, a cloth or what sags, goes by
 * what its own numbers are at the beginning; but for the wind of a cloth, which it reads at every frame.
 */
export function isTimeable(scene: Scene, { node, field }: Pick<Timed, 'node' | 'field'>): boolean {
  if (field[0] === 'release') return false;
  const surface = scene.surfaces.find((s) => s.id === node);
  const deformers = surface?.deformers ?? [];
  const simulated = deformers.findIndex((d) => d.on && isSimulated(d));
  // A cloth hangs where its surface is at the beginning, and begins as what comes before it is.
  if (surface && isReadWithin(surface, field)) return true;
  return simulated < 0 || (field[0] === 'deformers' && indexIn(deformers, field[1]) > simulated);
}

/** The number of a value in time at a moment, seconds. */
function timedNumber(scene: Scene, timed: Timed, time: number): number {
  const surface = scene.surfaces.find((s) => s.id === timed.node);
  // What a simulation reads by itself begins as the scene does: it is not simulated anew at every moment.
  const goes = isTimeable(scene, timed) && !(surface && isReadWithin(surface, timed.field));
  return inForceAt(timed.moments, isSpeed(timed), goes ? time : 0);
}

/** A scene as it is at a time. The same object again for the same scene and time. */
export class InTime {
  private last: { scene: Scene; time: number; made: Scene } | null = null;

  at(scene: Scene, time: number): Scene {
    if (scene.timed.length === 0) return scene;
    const { last } = this;
    if (last?.scene === scene && last.time === time) return last.made;
    const numbers = scene.timed.map((t) => ({ ...t, value: timedNumber(scene, t, time) }));
    const made = putNumbers(scene, numbers);
    this.last = { scene, time, made };
    return made;
  }
}
