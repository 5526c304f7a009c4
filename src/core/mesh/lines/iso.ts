import type { Mesh } from '../mesh';
import { carriedPoints, chain, topologyOf, type MeshLine } from './topology';

/**
 * Lines on a mesh where one texture coordinate stays the same, run towards rising values of the other, from the
 * lowest value to the highest. Crossings of one welded edge are one point, so that lines go on over the seam of a
 * closed surface and close there.
 * @param along which coordinate stays @returns one list a value; empty where the mesh has no uv
 */
export function isoLines(mesh: Mesh, along: 'u' | 'v', values: number[]): MeshLine[][] {
  const { uvs } = mesh;
  if (!uvs) return values.map(() => []);
  const axis = along === 'u' ? 0 : 1;
  const [low, high] = uvRange(mesh, axis);
  const hair = (high - low) * 1e-7;
  return values.map((value) => {
    // A line through vertices would meet edges end on: a hair beside them every crossing is inside an edge.
    const inside = Math.min(high - hair, Math.max(low + hair, value));
    return isoLine(mesh, uvs, axis, inside === value ? value + hair * 0.37 : inside);
  });
}

/** Least and greatest u (0) or v (1) of a mesh. */
export function uvRange(mesh: Mesh, axis: 0 | 1): [number, number] {
  let low = Infinity;
  let high = -Infinity;
  for (let i = axis; i < (mesh.uvs?.length ?? 0); i += 2) {
    low = Math.min(low, mesh.uvs![i]);
    high = Math.max(high, mesh.uvs![i]);
  }
  return low <= high ? [low, high] : [0, 0];
}

/** A line as it crosses edges, wherever those are. */
type Crossed = Omit<MeshLine, 'points'>;

/** Where lines cross depends on uv and faces alone: while a surface only moves they are looked up. */
const kept = new WeakMap<Float32Array, { indices: Uint32Array; lines: Map<string, Crossed[]> }>();

function isoLine(mesh: Mesh, uvs: Float32Array, axis: number, value: number): MeshLine[] {
  let have = kept.get(uvs);
  if (have?.indices !== mesh.indices) kept.set(uvs, (have = { indices: mesh.indices, lines: new Map() }));
  const key = `${axis} ${value}`;
  let lines = have.lines.get(key);
  if (!lines) {
    // A slider dragged over many values is no reason to keep them all.
    if (have.lines.size > 200) have.lines.clear();
    have.lines.set(key, (lines = crossings(mesh, uvs, axis, value)));
  }
  return lines.map((line) => ({ ...line, points: carriedPoints(line, mesh.positions) }));
}

/** More crossings than any mesh has: two numbers in one key. */
const STRIDE = 0x4000000;

function crossings(mesh: Mesh, uvs: Float32Array, axis: number, value: number): Crossed[] {
  const t = topologyOf(mesh);
  const count = t.position.length / 3;
  const known = new Map<number, number>();
  const points: { i: number; j: number; u: number }[] = [];
  const pieces: [number, number][] = [];
  const faceOf = new Map<number, number>();
  const { indices } = mesh;
  for (let f = 0; f * 3 < indices.length; f++) {
    const found: { id: number; other: number }[] = [];
    for (let k = 0; k < 3; k++) {
      const [i, j] = [indices[f * 3 + k], indices[f * 3 + ((k + 1) % 3)]];
      const [a, b] = [uvs[i * 2 + axis], uvs[j * 2 + axis]];
      if (a < value === b < value) continue;
      const u = (value - a) / (b - a);
      const [v, w] = [t.weld[i], t.weld[j]];
      const key = Math.min(v, w) * count + Math.max(v, w);
      let id = known.get(key);
      if (id === undefined) {
        known.set(key, (id = points.length));
        points.push({ i, j, u });
      }
      const other = 1 - axis;
      found.push({ id, other: uvs[i * 2 + other] * (1 - u) + uvs[j * 2 + other] * u });
    }
    if (found.length !== 2 || found[0].id === found[1].id) continue;
    const [a, b] = found[0].other <= found[1].other ? found : [found[1], found[0]];
    pieces.push([a.id, b.id]);
    faceOf.set(a.id * STRIDE + b.id, f);
  }
  const at = (a: number, b: number) => faceOf.get(a * STRIDE + b) ?? -1;
  return chain(pieces)
    .filter((c) => c.ids.length > 1)
    .map(({ ids, ...c }) => {
      const closed = c.closed && ids.length > 2;
      const n = closed ? ids.length : ids.length - 1;
      return {
        vertices: Uint32Array.from(ids.flatMap((id) => [points[id].i, points[id].j])),
        weights: Float64Array.from(ids, (id) => points[id].u),
        closed,
        faces: Int32Array.from({ length: n }, (_, i) => at(ids[i], ids[(i + 1) % ids.length])),
      };
    });
}
