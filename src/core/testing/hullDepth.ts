import { quatRotate, type Quat } from '../math/quat';
import { cross, dot, normalize, sub, type Vec3 } from '../math/vec3';
import type { Mesh } from '../mesh/mesh';

/** How far two convex things are in each other, by separating axes: exact, and as slow as that is. */

interface Hull {
  corners: Vec3[];
  normals: Vec3[];
  edges: Vec3[];
}

export interface Stands {
  p: Vec3;
  q: Quat;
}

const FLAT = 1e-7;

/** The hull of a mesh: its planes are those that three of its corners span and none is beyond. */
export function hullOf({ positions: v }: Mesh): Hull {
  const all = new Map<string, Vec3>();
  for (let o = 0; o < v.length; o += 3) {
    const corner: Vec3 = [v[o], v[o + 1], v[o + 2]];
    all.set(corner.map((c) => c.toFixed(9)).join(), corner);
  }
  const corners = [...all.values()];
  const planes: { normal: Vec3; on: Set<Vec3> }[] = [];
  for (const a of corners)
    for (const b of corners)
      for (const c of corners) {
        const n = cross(sub(b, a), sub(c, a));
        if (Math.hypot(...n) < 1e-9) continue;
        const normal = normalize(n);
        const isOuter = corners.every((d) => dot(normal, sub(d, a)) < FLAT);
        if (!isOuter || planes.some((p) => dot(p.normal, normal) > 1 - 1e-9)) continue;
        planes.push({ normal, on: new Set(corners.filter((d) => dot(normal, sub(d, a)) > -FLAT)) });
      }
  const edges: Vec3[] = [];
  for (const [i, a] of planes.entries())
    for (const b of planes.slice(i + 1)) {
      if ([...a.on].filter((corner) => b.on.has(corner)).length < 2) continue;
      const edge = normalize(cross(a.normal, b.normal));
      if (edges.every((e) => Math.abs(dot(e, edge)) < 1 - 1e-9)) edges.push(edge);
    }
  return { corners, normals: planes.map((p) => p.normal), edges };
}

/** By how much one would have to be moved to be out of the other, metres; 0 where they are apart. */
export function hullDepth(hull: Hull, a: Stands, b: Stands): number {
  const [inA, inB] = [a, b].map(({ p, q }) =>
    hull.corners.map((c) => quatRotate(q, c).map((x, k) => x + p[k]) as Vec3),
  );
  const over = (axis: Vec3): number => {
    const [one, other] = [inA, inB].map((corners) => corners.map((c) => dot(axis, c)));
    return Math.min(Math.max(...one) - Math.min(...other), Math.max(...other) - Math.min(...one));
  };
  const turned = (list: Vec3[], { q }: Stands) => list.map((v) => quatRotate(q, v));
  let least = Infinity;
  for (const axis of [...turned(hull.normals, a), ...turned(hull.normals, b)]) {
    least = Math.min(least, over(axis));
    if (least <= 0) return 0;
  }
  const others = turned(hull.edges, b);
  for (const one of turned(hull.edges, a))
    for (const other of others) {
      const axis = cross(one, other);
      if (Math.hypot(...axis) > 1e-6) least = Math.min(least, over(normalize(axis)));
      if (least <= 0) return 0;
    }
  return least;
}
