import type { BentMesh } from '../../mesh/bend';
import type { Placements } from '../result';

/** So many shapes of one key are compared with: the latest ones. */
const LATEST = 64;

/**
 * Shapes that rows have of their own, those that are alike only once. Two are alike where their keys are the same and
 * no number of their profiles differs by more than `within`: a profile is what bends them, as seen from their rows.
 *
 * @example
 * const shapes = new Shapes(0.2 * tolerance);
 * shapes.give(out, row, `${prop} ${pieces}`, profile, () => bendMesh(mesh, bending));
 */
export class Shapes {
  private known = new Map<string, { profile: ArrayLike<number>; index: number }[]>();

  constructor(private within = 0) {}

  /** @param make called where no shape that is there is alike */
  give(out: Placements, row: number, key: string, profile: ArrayLike<number>, make: () => BentMesh): void {
    out.bent ??= [];
    out.shape ??= new Int32Array(out.count).fill(-1);
    let alike = this.known.get(key);
    if (!alike) this.known.set(key, (alike = []));
    let index = alike.find((k) => this.isAlike(k.profile, profile))?.index;
    if (index === undefined) {
      index = out.bent.length;
      out.bent.push(make());
      alike.unshift({ profile, index });
      if (alike.length > LATEST) alike.pop();
    }
    out.shape[row] = index;
  }

  private isAlike(a: ArrayLike<number>, b: ArrayLike<number>): boolean {
    for (let i = 0; i < a.length; i++) if (!(Math.abs(a[i] - b[i]) <= this.within)) return false;
    return true;
  }
}
