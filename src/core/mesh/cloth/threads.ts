import type { Topology } from '../lines/topology';

/** What holds cloth together: lengths that stay. */
export interface Threads {
  /** Two particles a thread. */
  ends: Uint32Array;
  length: Float64Array;
  /** From this thread on they only keep it from folding. */
  folds: number;
}

/**
 * A thread along every edge, and across every edge between two faces one between the corners that it parts: that
 * resists folding. @param p xyz a particle, one each welded vertex
 */
export function threadsOf(topology: Topology, indices: Uint32Array, p: Float64Array): Threads {
  const { edges, faces, weld } = topology;
  const pairs: number[] = [...edges];
  const folds = pairs.length / 2;
  const third = (face: number, a: number, b: number): number => {
    for (let k = 0; k < 3; k++) {
      const v = weld[indices[face * 3 + k]];
      if (v !== a && v !== b) return v;
    }
    return -1;
  };
  for (let e = 0; e * 2 < edges.length; e++) {
    const [f, g] = [faces[e * 2], faces[e * 2 + 1]];
    if (g < 0) continue;
    const [c, d] = [third(f, edges[e * 2], edges[e * 2 + 1]), third(g, edges[e * 2], edges[e * 2 + 1])];
    if (c >= 0 && d >= 0 && c !== d) pairs.push(c, d);
  }
  const ends = Uint32Array.from(pairs);
  const length = Float64Array.from({ length: ends.length / 2 }, (_, i) => {
    const [a, b] = [ends[i * 2] * 3, ends[i * 2 + 1] * 3];
    const [x, y, z] = [p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]];
    return Math.sqrt(x * x + y * y + z * z);
  });
  return { ends, length, folds };
}
