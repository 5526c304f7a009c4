import { cos, sin } from '../../math/portable';
import { faceCross } from '../face';
import type { Topology, Triangles } from '../lines/topology';

/** The band that closes a shell along the borders of its surface. */
export interface Rim {
  /** xyz a vertex, and its unit normal. */
  positions: number[];
  normals: number[];
  /** Corners of its triangles; the band's first vertex is 0. */
  indices: number[];
  /** For each vertex that of the surface which it goes with. */
  from: number[];
  /** For each triangle the face that it goes along. */
  face: number[];
}

/** One side of a face with nothing beyond it, its face on the left. */
interface Side {
  face: number;
  /** Vertices of the mesh. */
  a: number;
  b: number;
}

function bordersOf({ edges, faces, sides }: Topology, indices: Uint32Array): Side[] {
  const out: Side[] = [];
  for (let i = 0; i < sides.length; i++) {
    const e = sides[i];
    if (e < 0 || faces[e * 2 + 1] !== -1 || edges.length === 0) continue;
    const face = Math.floor(i / 3);
    out.push({ face, a: indices[i], b: indices[face * 3 + ((i + 1) % 3)] });
  }
  return out;
}

/**
 * Ways out of the surface at its border vertices, square to their sides: where two sides meet, the way on which both
 * would come out as far. xyz a welded vertex.
 */
function waysOut({ positions: p, indices }: Triangles, { weld, position }: Topology, sides: Side[]) {
  const of = sides.map(({ face, a, b }) => {
    const n = new Float64Array(3);
    faceCross(p, indices, face, n);
    const [x, y, z] = [0, 1, 2].map((k) => p[b * 3 + k] - p[a * 3 + k]);
    const way = [y * n[2] - z * n[1], z * n[0] - x * n[2], x * n[1] - y * n[0]];
    const long = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]) || 1;
    return way.map((v) => v / long);
  });
  const sum = new Float64Array(position.length);
  const count = new Uint8Array(position.length / 3);
  sides.forEach(({ a, b }, i) => {
    for (const v of [weld[a], weld[b]]) {
      count[v]++;
      for (let k = 0; k < 3; k++) sum[v * 3 + k] += of[i][k];
    }
  });
  for (let v = 0; v < count.length; v++) {
    const [x, y, z] = sum.subarray(v * 3, v * 3 + 3);
    // Of two unit ways u and w: (u + w) / (1 + u·w), and |u + w|² = 2 + 2 u·w. Sharp ones are held.
    const by = Math.max(0.5, (x * x + y * y + z * z) / count[v]);
    for (let k = 0; k < 3; k++) sum[v * 3 + k] /= by;
  }
  return { mitred: sum, of };
}

/**
 * The band between two skins of a surface.
 * @param surface faces, and places between the skins @param skin, back xyz a vertex of both skins
 * @param steps 1: straight across; more: a half round of so many parts
 */
export function rimOf(
  surface: Triangles & { indices: Uint32Array },
  topology: Topology,
  skin: Float64Array,
  back: Float64Array,
  steps: number,
): Rim {
  const sides = bordersOf(topology, surface.indices);
  const { mitred, of } = waysOut(surface, topology, sides);
  const rim: Rim = { positions: [], normals: [], indices: [], from: [], face: [] };
  sides.forEach(({ face, a, b }, i) => {
    const base = rim.from.length;
    for (let s = 0; s <= steps; s++) {
      for (const v of [a, b]) across(v, s, of[i]);
      if (s === 0) continue;
      const [p, q, r, t] = [-2, -1, 0, 1].map((k) => base + 2 * s + k);
      rim.indices.push(q, p, r, q, r, t);
      rim.face.push(face, face);
    }
  });
  return rim;

  function across(v: number, step: number, flat: number[]): void {
    rim.from.push(v);
    // Half a turn from the skin to the back.
    const isEnd = step === 0 || step === steps;
    const c = step === 0 ? 1 : step === steps ? -1 : cos((Math.PI * step) / steps);
    const s = isEnd ? 0 : sin((Math.PI * step) / steps);
    const out = topology.weld[v] * 3;
    const half = [0, 1, 2].map((k) => (skin[v * 3 + k] - back[v * 3 + k]) / 2);
    const radius = Math.sqrt(half[0] * half[0] + half[1] * half[1] + half[2] * half[2]);
    const normal = [0, 1, 2].map((k) =>
      steps === 1 ? flat[k] : (c * half[k]) / (radius || 1) + s * mitred[out + k],
    );
    const long = Math.sqrt(normal[0] * normal[0] + normal[1] * normal[1] + normal[2] * normal[2]) || 1;
    for (let k = 0; k < 3; k++) {
      const [near, far] = [skin[v * 3 + k], back[v * 3 + k]];
      // Both ends are just where the skins end, to the last bit: else it would not be closed.
      const between = (near + far) / 2 + c * half[k] + s * radius * mitred[out + k];
      rim.positions.push(step === 0 ? near : step === steps ? far : between);
      rim.normals.push(normal[k] / long);
    }
  }
}
