import type { Vec3 } from '../../math/vec3';
import { turnedOver } from '../bend';
import type { Mesh } from '../mesh';
import { flatFaces } from './flatFaces';
import type { Grid } from './grid';

/** A flat ring that closes a border: each of its edges runs against that of the face which it meets there. */
export type Lid = Vec3[];

/** The uv of what is flat at the ends, metres, begin here: beside those of the surface, over none of them. */
export const BESIDE = 1.05;

/** A border of a grid, to be run through as a lid beside it is: `v0` is the line on which v is 0. */
export function borderOf({ columns, rows, at }: Grid, border: 'u0' | 'u1' | 'v0' | 'v1'): Lid {
  const n = border[0] === 'u' ? rows : columns;
  const backwards = border === 'v0' || border === 'u1';
  return Array.from({ length: n + 1 }, (_, i) => {
    const t = (backwards ? n - i : i) / n;
    return at(border[0] === 'u' ? Number(border[1]) : t, border[0] === 'u' ? t : Number(border[1])).position;
  });
}

/** A mesh with lids, and turned inside out where its faces looked inwards: with them it is a body. */
export function withLids(mesh: Mesh, lids: readonly Lid[]): Mesh {
  const positions = Array.from(mesh.positions);
  const normals = Array.from(mesh.normals);
  const uvs = Array.from(mesh.uvs ?? []);
  const indices = Array.from(mesh.indices);
  let beside = BESIDE;
  for (const lid of lids) {
    const ring = distinct(lid);
    if (ring.length < 3) continue;
    const normal = newell(ring);
    const drop = normal.map(Math.abs).indexOf(Math.max(...normal.map(Math.abs)));
    // Seen from where it looks to: the two other axes, so that it runs counterclockwise.
    const [h, v] = [(drop + 1) % 3, (drop + 2) % 3];
    const flat = ring.map((p): [number, number] => (normal[drop] > 0 ? [p[h], p[v]] : [p[v], p[h]]));
    const base = positions.length / 3;
    const [left, low] = [0, 1].map((k) => flat.reduce((least, p) => Math.min(least, p[k]), Infinity));
    ring.forEach((p, i) => {
      positions.push(...p);
      normals.push(...normal);
      uvs.push(flat[i][0] - left + beside, flat[i][1] - low);
    });
    beside += flat.reduce((most, p) => Math.max(most, p[0] - left), 0);
    for (const corner of flatFaces(flat)) indices.push(base + corner);
  }
  const out = {
    ...mesh,
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    ...(mesh.uvs && { uvs: Float32Array.from(uvs) }),
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
  };
  if (within(out) >= 0) return out;
  return { ...out, indices: turnedOver(out.indices), normals: out.normals.map((v) => -v) };
}

/** Places in a row without those that are as the one before, the first taken for the one after the last. */
function distinct(lid: Lid): Lid {
  const same = (a: Vec3, b: Vec3) => a.every((c, k) => Math.abs(c - b[k]) <= 1e-9);
  const kept = lid.filter((p, i) => i === 0 || !same(p, lid[i - 1]));
  while (kept.length > 1 && same(kept[0], kept.at(-1)!)) kept.pop();
  return kept;
}

/** The unit normal of a ring (Newell’s sum). */
function newell(ring: Lid): Vec3 {
  const n: Vec3 = [0, 0, 0];
  ring.forEach((p, i) => {
    const q = ring[(i + 1) % ring.length];
    for (let k = 0; k < 3; k++) {
      const [a, b] = [(k + 1) % 3, (k + 2) % 3];
      n[k] += (p[a] - q[a]) * (p[b] + q[b]);
    }
  });
  const l = Math.sqrt(n[0] * n[0] + n[1] * n[1] + n[2] * n[2]) || 1;
  return [n[0] / l, n[1] / l, n[2] / l];
}

/** Six times what faces hold, from their first corner, by the divergence theorem. */
function within({ positions: p, indices }: Mesh): number {
  let six = 0;
  const [ox, oy, oz] = p;
  for (let f = 0; f < indices.length; f += 3) {
    const [a, b, c] = [indices[f] * 3, indices[f + 1] * 3, indices[f + 2] * 3];
    const [ax, ay, az] = [p[a] - ox, p[a + 1] - oy, p[a + 2] - oz];
    const [bx, by, bz] = [p[b] - ox, p[b + 1] - oy, p[b + 2] - oz];
    const [cx, cy, cz] = [p[c] - ox, p[c + 1] - oy, p[c + 2] - oz];
    six += ax * (by * cz - bz * cy) + ay * (bz * cx - bx * cz) + az * (bx * cy - by * cx);
  }
  return six;
}
