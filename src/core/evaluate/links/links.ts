import { dequal } from 'dequal/lite';
import type { Scene } from '../../scene/schema';
import type { Plan } from '../plan';
import {
  inForce,
  linkValues,
  mostRounds,
  ringsOf,
  sameValues,
  withValues,
  type LinkResult,
  type Worked,
} from './linked';

type Values = ReadonlyMap<string, number>;

const NONE: LinkResult[] = [];

/** The links of the scenes of one evaluator, with the numbers that they came to last. */
export class Links {
  /** What became of them; the same list as before where none is another. */
  results: readonly LinkResult[] = NONE;
  private values: Values = new Map();
  private last: { scene: Scene; values: Values; made: Scene } | null = null;

  /**
   * Works a scene out with the numbers of its links put in, until they are those that come out of it. With the numbers
   * of before mostly that is once: they are put in, and held against what comes out.
   * @param plan in which order the scene was worked out last
   */
  through<R extends Worked>(scene: Scene, work: (given: Scene) => R, plan: () => Plan): R {
    if (scene.links.length === 0) {
      this.results = NONE;
      return work(scene);
    }
    for (let round = mostRounds(scene.links); ; round--) {
      const { values } = this;
      const given = this.put(scene, values);
      const result = work(given);
      const made = linkValues(scene, result, ringsOf(scene.links, plan()));
      const now = inForce(made.links, given);
      if (!dequal(now, this.results)) this.results = now;
      this.values = made.values;
      if (sameValues(made.values, values) || round <= 0) return result;
    }
  }

  /** A scene with such numbers; the same object again for the same ones. */
  private put(scene: Scene, values: Values): Scene {
    const { last } = this;
    if (last?.scene === scene && sameValues(last.values, values)) return last.made;
    const made = withValues(scene, values);
    this.last = { scene, values, made };
    return made;
  }
}
