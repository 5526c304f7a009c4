import { topologyOf } from '../lines/topology';
import type { TriMesh } from '../triMesh';

const kept = new WeakMap<TriMesh, Float64Array>();

/**
 * Mean curvature at each vertex of a mesh, 1 / m, ridges positive, hollows negative: half the trace of the symmetric
 * tensor that best says, by least squares, how the normal turns along the edges there. Of a sphere of radius r it is
 * 1 / r, of a tube half of that, however the edges run. Vertices in one place count as one, with their normals in the
 * mean, so that flat faces and seams read as what they stand for.
 */
export function curvatureOf(mesh: TriMesh): Float64Array {
  const have = kept.get(mesh);
  if (have) return have;
  const { weld, position, edges } = topologyOf(mesh);
  const normal = weldedNormals(mesh, weld, position.length);
  const sums = new Float64Array((position.length / 3) * SUMS);
  for (let e = 0; e < edges.length; e += 2)
    for (const [from, to] of [
      [edges[e], edges[e + 1]],
      [edges[e + 1], edges[e]],
    ])
      addEdge(sums, position, normal, from, to);
  const made = Float64Array.from(weld, (w) => halfTrace(sums.subarray(w * SUMS, (w + 1) * SUMS)));
  kept.set(mesh, made);
  return made;
}

/** Mean normals of the vertices in one place, of unit length. */
function weldedNormals({ normals }: TriMesh, weld: Uint32Array, size: number): Float64Array {
  const out = new Float64Array(size);
  for (let i = 0; i < weld.length; i++)
    for (let a = 0; a < 3; a++) out[weld[i] * 3 + a] += normals[i * 3 + a];
  for (let o = 0; o < size; o += 3) {
    const [x, y, z] = out.subarray(o, o + 3);
    const l = Math.sqrt(x * x + y * y + z * z);
    if (l > 0) for (let a = 0; a < 3; a++) out[o + a] /= l;
  }
  return out;
}

/** What is kept of the edges at a vertex: six sums of the normal equations, three of their right side, and a plain mean. */
const SUMS = 11;

/**
 * Adds one edge: along the direction at an angle t in the tangent plane the normal turns by
 * a cos² t + b 2 cos t sin t + c sin² t a metre.
 */
function addEdge(sums: Float64Array, p: Float64Array, n: Float64Array, from: number, to: number): void {
  const [nx, ny, nz] = n.subarray(from * 3, from * 3 + 3);
  const d = [0, 1, 2].map((k) => p[to * 3 + k] - p[from * 3 + k]);
  const long = d[0] * d[0] + d[1] * d[1] + d[2] * d[2];
  if (!(long > 0)) return;
  const turn = [0, 1, 2].reduce((sum, k) => sum + d[k] * (n[to * 3 + k] - n[from * 3 + k]), 0) / long;
  // Any two directions square to the normal and to each other, the same for all edges at the vertex.
  const first = Math.abs(nx) < 0.7 ? [0, nz, -ny] : [-nz, 0, nx];
  const l = Math.sqrt(first[0] * first[0] + first[1] * first[1] + first[2] * first[2]);
  if (!(l > 0)) return;
  const [x1, y1, z1] = first.map((v) => v / l);
  const second = [ny * z1 - nz * y1, nz * x1 - nx * z1, nx * y1 - ny * x1];
  const c = d[0] * x1 + d[1] * y1 + d[2] * z1;
  const s = d[0] * second[0] + d[1] * second[1] + d[2] * second[2];
  const flat = c * c + s * s;
  if (!(flat > 0)) return;
  const row = [(c * c) / flat, (2 * c * s) / flat, (s * s) / flat];
  const o = from * SUMS;
  let at = 0;
  for (let i = 0; i < 3; i++) for (let j = i; j < 3; j++) sums[o + at++] += row[i] * row[j];
  for (let i = 0; i < 3; i++) sums[o + 6 + i] += row[i] * turn;
  sums[o + 9] += turn;
  sums[o + 10]++;
}

/** (a + c) / 2 of the best fit; the plain mean where too few edges say what it is. */
function halfTrace([a, b, c, d, e, f, x, y, z, sum, count]: Float64Array): number {
  const det = a * (d * f - e * e) - b * (b * f - e * c) + c * (b * e - d * c);
  if (!(det > 1e-9 * count * count * count)) return count > 0 ? sum / count : 0;
  const first = x * (d * f - e * e) - b * (y * f - e * z) + c * (y * e - d * z);
  const third = a * (d * z - e * y) - b * (b * z - y * c) + x * (b * e - d * c);
  return (first + third) / (2 * det);
}
