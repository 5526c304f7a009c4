import { nearestPlace, noHit } from '../bvhQuery';
import { Front } from '../front';
import { topologyOf } from '../lines/topology';
import type { TriMesh } from '../triMesh';
import type { MaskPlaces } from './places';

/**
 * Distances along a surface: a front that starts from what lies nearest and goes from vertex to vertex over the faces,
 * each time from the two corners that it has reached (Kimmel and Sethian 1998). Between vertices they run evenly: on a
 * mesh of a hundred faces across they are within about one in a hundred, and where fronts meet within a face.
 */

/** How far a corner is that is reached over a face whose other two, a and b, are known; xyz in `p`. */
function across(p: ArrayLike<number>, a: number, b: number, c: number, da: number, db: number): number {
  let ab = 0;
  let ac = 0;
  let dot = 0;
  let bc = 0;
  for (let k = 0; k < 3; k++) {
    const e = p[b * 3 + k] - p[a * 3 + k];
    const f = p[c * 3 + k] - p[a * 3 + k];
    ab += e * e;
    ac += f * f;
    dot += e * f;
    bc += (f - e) * (f - e);
  }
  const straight = Math.min(da + Math.sqrt(ac), db + Math.sqrt(bc));
  const long = Math.sqrt(ab);
  if (!(long > 0)) return straight;
  // Laid flat with a at the origin and b on the first axis, the front comes from one source on the other side.
  const x = dot / long;
  const y = Math.sqrt(Math.max(0, ac - x * x));
  const sx = (da * da - db * db + ab) / (2 * long);
  const below = da * da - sx * sx;
  if (below < 0) return straight;
  const sy = -Math.sqrt(below);
  // Where the line from the source crosses the side: outside of it the front comes round a corner.
  const cross = y - sy > 0 ? sx + ((x - sx) * -sy) / (y - sy) : -1;
  if (cross < 0 || cross > long) return straight;
  return Math.sqrt((x - sx) * (x - sx) + (y - sy) * (y - sy));
}

/**
 * Metres along a mesh from some of its places to each vertex; Infinity where no way leads.
 * @param seeds welded vertices that are known to begin with, and how far they are
 */
function marched(mesh: TriMesh, seeds: Map<number, number>): Float64Array {
  const t = topologyOf(mesh);
  const count = t.position.length / 3;
  const out = new Float64Array(count).fill(Infinity);
  const done = new Uint8Array(count);
  const front = new Front();
  const offer = (v: number, d: number) => {
    if (!(d < out[v])) return;
    out[v] = d;
    front.push(d, v);
  };
  for (const [v, d] of seeds) offer(v, d);
  const facesAt = facesAround(mesh, t.weld, count);
  for (let next = front.pop(); next; next = front.pop()) {
    const { d, v } = next;
    if (done[v] || d > out[v]) continue;
    done[v] = 1;
    for (let k = facesAt.start[v]; k < facesAt.start[v + 1]; k++) {
      const f = facesAt.face[k] * 3;
      const corners = [0, 1, 2].map((c) => t.weld[mesh.indices[f + c]]);
      const others = corners.filter((c) => c !== v);
      if (others.length !== 2) continue;
      const [a, b] = others;
      for (const [c, known] of [
        [a, b],
        [b, a],
      ])
        offer(c, across(t.position, v, known, c, d, done[known] ? out[known] : Infinity));
    }
  }
  return Float64Array.from(t.weld, (w) => out[w]);
}

function facesAround({ indices }: TriMesh, weld: Uint32Array, count: number) {
  const start = new Uint32Array(count + 1);
  for (const i of indices) start[weld[i] + 1]++;
  for (let v = 0; v < count; v++) start[v + 1] += start[v];
  const at = start.slice();
  const face = new Uint32Array(indices.length);
  indices.forEach((i, corner) => (face[at[weld[i]]++] = (corner - (corner % 3)) / 3));
  return { start, face };
}

/** Welded vertices of the faces that something lies on, with how far each is from it straight. */
function seedsAt(mesh: TriMesh, from: TriMesh): Map<number, number> {
  const { weld, position } = topologyOf(mesh);
  const hit = noHit();
  const seeds = new Map<number, number>();
  const { indices } = from;
  const faces = new Set<number>();
  // Pieces are followed in steps so short that no face on the way is stepped over unseen.
  const step = meanSide(mesh) / 2;
  for (let f = 0; f < indices.length; f += 3) {
    const corner = (k: number) => from.positions.subarray(indices[f + k] * 3, indices[f + k] * 3 + 3);
    const [a, b, c] = [0, 1, 2].map(corner);
    const long = (p: Float64Array, q: Float64Array) =>
      Math.sqrt(
        (q[0] - p[0]) * (q[0] - p[0]) + (q[1] - p[1]) * (q[1] - p[1]) + (q[2] - p[2]) * (q[2] - p[2]),
      );
    const n = Math.min(200, Math.max(1, Math.ceil(Math.max(long(a, b), long(a, c)) / step)));
    const wide = indices[f + 1] === indices[f + 2] ? 0 : n;
    for (let i = 0; i <= n; i++)
      for (let j = 0; j <= Math.min(wide, n - i); j++) {
        const at = [0, 1, 2].map((k) => a[k] + ((b[k] - a[k]) * i + (c[k] - a[k]) * j) / n);
        if (nearestPlace(mesh.tree(), at[0], at[1], at[2], step * 4, hit)) faces.add(hit.face);
      }
  }
  const tree = from.tree();
  for (const f of faces)
    for (let k = 0; k < 3; k++) {
      const v = weld[mesh.indices[f * 3 + k]];
      const [x, y, z] = position.subarray(v * 3, v * 3 + 3);
      if (!seeds.has(v) && nearestPlace(tree, x, y, z, Infinity, hit)) seeds.set(v, hit.t);
    }
  return seeds;
}

/** The length of sides in the mean, metres. */
function meanSide(mesh: TriMesh): number {
  const { edges, position } = topologyOf(mesh);
  let sum = 0;
  for (let e = 0; e < edges.length; e += 2) {
    let d2 = 0;
    for (let k = 0; k < 3; k++) {
      const d = position[edges[e] * 3 + k] - position[edges[e + 1] * 3 + k];
      d2 += d * d;
    }
    sum += Math.sqrt(d2);
  }
  return edges.length > 0 ? (2 * sum) / edges.length : 1;
}

/**
 * Metres along the surfaces that places are on to what `from` gives for each; Infinity where no way leads. Nearer than
 * a side of a face they are straight.
 */
export function distancesAlong(
  places: MaskPlaces,
  from: (mesh: TriMesh) => readonly TriMesh[],
): Float64Array {
  const { position, grounds, face, u, v } = places;
  const out = new Float64Array(places.count).fill(Infinity);
  const hit = noHit();
  grounds.forEach(({ read }, g) => {
    const sources = from(read);
    const seeds = new Map<number, number>();
    for (const mesh of sources)
      for (const [vertex, d] of seedsAt(read, mesh)) if (!(seeds.get(vertex)! <= d)) seeds.set(vertex, d);
    const at = marched(read, seeds);
    const near = meanSide(read);
    for (let i = 0; i < out.length; i++) {
      if (places.ground[i] !== g) continue;
      const f = face[i] * 3;
      const [a, b, c] = [0, 1, 2].map((k) => at[read.indices[f + k]]);
      const even = a * (1 - u[i] - v[i]) + b * u[i] + c * v[i];
      const [x, y, z] = position.subarray(i * 3, i * 3 + 3);
      let straight = Infinity;
      for (const { tree } of sources) if (nearestPlace(tree(), x, y, z, straight, hit)) straight = hit.t;
      // No way along is shorter than the straight one.
      out[i] =
        straight <= near ? straight : Math.max(straight, Number.isFinite(even) ? even : Math.min(a, b, c));
    }
  });
  return out;
}
