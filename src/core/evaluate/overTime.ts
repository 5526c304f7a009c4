import { Fineness } from '../arrange/fineness';
import type { Scene } from '../scene/schema';
import type { Evaluator, SceneResult } from './scene';

/**
 * The scene at each of several times, for one animation: a bent prop is sliced alike at all of them, as finely as any
 * asks for, so that its shapes can be morphed into each other.
 * @param times seconds
 */
export function evaluateOver(evaluator: Evaluator, scene: Scene, times: readonly number[]): SceneResult[] {
  const fine = new Fineness();
  const all = () => times.map((time) => evaluator.evaluate(scene, undefined, time, fine));
  const results = all();
  if (!results.some((r) => r.arrangements.some((a) => a.placements.bent))) return results;
  // That told how finely; now all slice so.
  fine.round++;
  return all();
}
