import { findSpan, parameterAt } from './arcLength';
import type { CompiledPath } from './compile';

/** A place on a path while walking along it: nothing is made anew at a step. */
export interface Walker {
  /** Position of the last step. */
  readonly p: Float64Array;
  /** Unit direction of the last step; at a sharp corner that of the side after it. */
  readonly t: Float64Array;
  /**
   * Steps to length `s`. A closed path wraps; an open one goes on straight beyond its ends, so that lengths can be
   * laid off over them.
   */
  to(s: number): void;
}

/** Steps along a path one place after the other; rising lengths are fastest. */
export function walkerOn(path: CompiledPath): Walker {
  const p = new Float64Array(3);
  const t = new Float64Array(3);
  const { table, powers, endTangents, length } = path;
  let span = 0;
  const to = (s: number) => {
    let at = s;
    let beyond = 0;
    if (path.closed) {
      at %= length;
      if (at < 0) at += length;
    } else if (s < 0) {
      beyond = s;
      at = 0;
    } else if (s > length) {
      beyond = s - length;
      at = length;
    }
    span = findSpan(table, at, span);
    const k = table.segment[span];
    const u = parameterAt(table, powers, span, at);
    const o = k * 12;
    let square = 0;
    for (let a = 0; a < 3; a++) {
      const c3 = powers[o + a];
      const c2 = powers[o + 3 + a];
      const c1 = powers[o + 6 + a];
      p[a] = ((c3 * u + c2) * u + c1) * u + powers[o + 9 + a];
      t[a] = (3 * c3 * u + 2 * c2) * u + c1;
      square += t[a] * t[a];
    }
    const l = Math.sqrt(square);
    const end = k * 6 + (u > 0.5 ? 3 : 0);
    for (let a = 0; a < 3; a++) {
      t[a] = l > 1e-12 * length ? t[a] / l : endTangents[end + a];
      if (beyond !== 0) p[a] += beyond * t[a];
    }
  };
  return { p, t, to };
}
