import { acos, atan2 } from '../math/portable';
import type { Vec3 } from '../math/vec3';
import { sliceAlong, type Sliced } from './slice';
import { triMeshBounds } from './triMesh';

/** Texture coordinates for a mesh that has none, or others than its own. */
export type UvKind = 'plane' | 'cylinder' | 'sphere';

const TURN = 2 * Math.PI;

/**
 * Lays a mesh's faces over u and v: seen along the axis that most of it faces; round its upright axis; or round its
 * middle. Round ones are cut where they come back to their beginning, and are counted 0 to 1 from +X towards −Z.
 * @param mesh in a frame whose Y is up @returns the same shape, with vertices of their own along the cut
 */
export function withUv(mesh: Sliced, kind: UvKind): Sliced & { uvs: Float32Array } {
  const bounds = triMeshBounds(mesh) ?? { min: [0, 0, 0] as Vec3, max: [0, 0, 0] as Vec3 };
  const middle = bounds.min.map((v, a) => (v + bounds.max[a]) / 2) as Vec3;
  const size = bounds.max.map((v, a) => v - bounds.min[a] || 1) as Vec3;
  if (kind === 'plane') return { ...mesh, uvs: flatUv(mesh, bounds.min, size) };
  const cut = sliceAlong(centred(mesh, middle), 2, [0]);
  const corners = cut.indices.length;
  const uvs = new Float32Array(corners * 2);
  const spread = <T extends Float64Array | Float32Array>(from: T, width: number): T => {
    const out = new (from.constructor as new (n: number) => T)(corners * width);
    cut.indices.forEach((v, i) => out.set(from.subarray(v * width, v * width + width), i * width));
    return out;
  };
  const p = spread(cut.positions, 3);
  const hair = 1e-9 * (size[0] + size[1] + size[2]);
  for (let f = 0; f < corners; f += 3) {
    // Which side of the cut a face lies on tells whether its corners on the cut begin or end the round.
    const side = p[f * 3 + 2] + p[f * 3 + 5] + p[f * 3 + 8];
    let sum = 0;
    let known = 0;
    const us = [0, 1, 2].map((k) => {
      const [x, z] = [p[(f + k) * 3], p[(f + k) * 3 + 2]];
      if (x * x + z * z <= hair * hair) return NaN;
      let u = Math.abs(z) <= hair ? (x > 0 ? 0 : 0.5) : atan2(-z, x) / TURN;
      if (u < 0) u += 1;
      if (u === 0 && side > 0) u = 1;
      sum += u;
      known++;
      return u;
    });
    us.forEach((u, k) => {
      const [x, y, z] = [p[(f + k) * 3], p[(f + k) * 3 + 1], p[(f + k) * 3 + 2]];
      const r = Math.sqrt(x * x + y * y + z * z) || 1;
      // A pole has every u; it takes that of the other corners.
      uvs[(f + k) * 2] = Number.isNaN(u) ? (known > 0 ? sum / known : 0) : u;
      uvs[(f + k) * 2 + 1] =
        kind === 'cylinder' ? y / size[1] + 0.5 : 1 - acos(Math.max(-1, Math.min(1, y / r))) / Math.PI;
    });
  }
  for (let o = 0; o < p.length; o++) p[o] += middle[o % 3];
  return {
    positions: p,
    normals: spread(cut.normals, 3),
    uvs,
    ...(cut.colors && { colors: spread(cut.colors, 3) }),
    indices: Uint32Array.from({ length: corners }, (_, i) => i),
    groups: cut.groups,
  };
}

const centred = (mesh: Sliced, middle: Vec3): Sliced => ({
  ...mesh,
  positions: mesh.positions.map((v, i) => v - middle[i % 3]),
});

/** Seen along the axis that most of the mesh faces: u to the right, v up (away from the viewer, from above). */
function flatUv({ positions: p, normals, indices }: Sliced, min: Vec3, size: Vec3): Float32Array {
  const facing: Vec3 = [0, 0, 0];
  for (const i of indices) for (let a = 0; a < 3; a++) facing[a] += Math.abs(normals[i * 3 + a]);
  const axis = facing.indexOf(Math.max(...facing));
  const [across, up] = [
    [2, 1],
    [0, 2],
    [0, 1],
  ][axis];
  const uvs = new Float32Array((p.length / 3) * 2);
  for (let i = 0; i < p.length / 3; i++) {
    uvs[i * 2] = (p[i * 3 + across] - min[across]) / size[across];
    const v = (p[i * 3 + up] - min[up]) / size[up];
    uvs[i * 2 + 1] = axis === 1 ? 1 - v : v;
  }
  return uvs;
}
