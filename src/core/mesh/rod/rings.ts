import type { Topology } from '../lines/topology';

/** A tube as rings behind each other: its v runs along it, its u around. */
export interface Rings {
  /** The ring of each welded vertex. */
  of: Int32Array;
  count: number;
  /** Rings of one tube are behind each other: the first, one after the last, and whether it closes. */
  tubes: { from: number; to: number; closed: boolean }[];
}

/** Fewer vertices are the tip of an end, and go with the ring beside it. */
const LEAST_ROUND = 3;

const kept = new WeakMap<Topology, Rings | null>();

/**
 * The rings of a mesh, tube by tube, found once; null for one that is not made of tubes: rows of the same v that close
 * around, one after the other.
 * @param uvs of the mesh that the topology is of
 */
export function ringsOf(uvs: Float32Array, topology: Topology): Rings | null {
  let have = kept.get(topology);
  if (have === undefined) kept.set(topology, (have = findRings(uvs, topology)));
  return have;
}

function findRings(uvs: Float32Array, topology: Topology): Rings | null {
  const { first, edges } = topology;
  const n = first.length;
  const v = Float64Array.from(first, (at) => uvs[at * 2 + 1]);
  const part = partsOf(n, edges);
  const byPart = new Map<number, number[]>();
  for (let i = 0; i < n; i++) {
    const list = byPart.get(part[i]);
    if (list) list.push(i);
    else byPart.set(part[i], [i]);
  }
  const of = new Int32Array(n).fill(-1);
  const tubes: Rings['tubes'] = [];
  let count = 0;
  for (const list of byPart.values()) {
    const rows = rowsOf(list, v);
    const from = count;
    for (const row of rows)
      if (row.length >= LEAST_ROUND) {
        for (const i of row) of[i] = count;
        count++;
      }
    if (count - from < 3) return null;
    let near = from;
    for (const row of rows) {
      if (row.length >= LEAST_ROUND) near = of[row[0]];
      else for (const i of row) of[i] = near;
    }
    tubes.push({ from, to: count, closed: false });
  }
  const around = new Int32Array(count);
  const rim = new Int32Array(count);
  for (let i = 0; i < n; i++) around[of[i]]++;
  for (let e = 0; e < edges.length; e += 2) {
    const [a, b] = [of[edges[e]], of[edges[e + 1]]];
    if (a === b) rim[a]++;
    for (const tube of tubes)
      if (Math.min(a, b) === tube.from && Math.max(a, b) === tube.to - 1) tube.closed = true;
  }
  for (let k = 0; k < count; k++) if (rim[k] < around[k]) return null;
  return tubes.length > 0 ? { of, count, tubes } : null;
}

/** Vertices of one part by their v, in order. */
function rowsOf(list: number[], v: Float64Array): number[][] {
  const sorted = list.toSorted((a, b) => v[a] - v[b] || a - b);
  const near = (v[sorted[sorted.length - 1]] - v[sorted[0]]) * 1e-6;
  const rows: number[][] = [];
  sorted.forEach((i, k) => {
    if (k > 0 && v[i] - v[sorted[k - 1]] <= near) rows[rows.length - 1].push(i);
    else rows.push([i]);
  });
  return rows;
}

/** A number for each vertex, the same for all that edges join. */
function partsOf(n: number, edges: Uint32Array): Uint32Array {
  const up = Uint32Array.from({ length: n }, (_, i) => i);
  const top = (i: number): number => {
    while (up[i] !== i) i = up[i] = up[up[i]];
    return i;
  };
  for (let e = 0; e < edges.length; e += 2) {
    const [a, b] = [top(edges[e]), top(edges[e + 1])];
    if (a !== b) up[Math.max(a, b)] = Math.min(a, b);
  }
  return up.map((_, i) => top(i));
}
