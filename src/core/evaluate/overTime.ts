import { Fineness } from '../arrange/fineness';
import type { Scene } from '../scene/schema';
import type { Evaluator, SceneResult } from './scene';

/**
 * The scene at each of several times, for one animation: a bent prop is sliced alike at all of them, as finely as any
 * asks for, so that its shapes can be morphed into each other.
 * @param times seconds @param progress told the share that is done, 0–1, and what is worked on
 */
export function evaluateOver(
  evaluator: Evaluator,
  scene: Scene,
  times: readonly number[],
  progress?: (done: number, name: string) => void,
): SceneResult[] {
  const fine = new Fineness();
  const bends = (r: SceneResult) => r.arrangements.some((a) => a.placements.bent);
  /** Twice over all frames where anything is bent: mostly the first one tells. */
  let rounds = 1;
  const all = () =>
    times.map((time, k) => {
      const done = Math.min(1, (fine.round - 1 + k / times.length) / rounds);
      progress?.(done, `frame ${k + 1} of ${times.length}`);
      const result = evaluator.evaluate(scene, undefined, time, fine);
      if (k === 0 && bends(result)) rounds = 2;
      return result;
    });
  const results = all();
  if (!results.some(bends)) return results;
  // That told how finely; now all slice so.
  fine.round++;
  return all();
}
