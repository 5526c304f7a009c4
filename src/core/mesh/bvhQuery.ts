import { DEEPEST, type Bvh } from './bvh';

/** What is asked of a tree over a mesh: rays, and nearest places. */

/** A place on a triangle: its number, the weights of its second and third corner, and how far away it is. */
export interface MeshHit {
  face: number;
  u: number;
  v: number;
  /** Along the ray in lengths of its direction; for the nearest place, metres. */
  t: number;
}

/** A hit to be written over by {@link firstHit}; it has met nothing yet. */
export const noHit = (): MeshHit => ({ face: -1, u: 0, v: 0, t: Infinity });

const stack = new Int32Array(DEEPEST * 2 + 8);
const stackNear = new Float64Array(DEEPEST * 2 + 8);
/** Weights may fall short of a triangle by this much, so that no ray slips between two that share an edge. */
const EDGE = 1e-12;

/**
 * Boxes are met a hair early and left a hair late, this share of the whole tree's size, so that neither rounding nor
 * {@link EDGE} hides what lies on their sides.
 */
const SLACK = 4e-12;

/**
 * Where a ray enters the box at `o`, between two lengths; Infinity where it passes by (Williams and others: An
 * efficient and robust ray-box intersection algorithm, 2005). For each axis: where the entry and the leaving side
 * stand within the box's numbers, where the ray begins, a hair towards each, and 1 / direction. On a ray square to
 * an axis this is infinite: sides beyond it give an infinite length, and one that it runs along gives none at all
 * and is not held against it.
 */
function enters(
  box: Float64Array,
  o: number,
  sx: number,
  sy: number,
  sz: number,
  ax: number,
  ay: number,
  az: number,
  bx: number,
  by: number,
  bz: number,
  ix: number,
  iy: number,
  iz: number,
  near: number,
  far: number,
): number {
  const inX = (box[o + sx] - ax) * ix;
  const inY = (box[o + 1 + sy] - ay) * iy;
  const inZ = (box[o + 2 + sz] - az) * iz;
  if (inX > near) near = inX;
  if (inY > near) near = inY;
  if (inZ > near) near = inZ;
  const outX = (box[o + 3 - sx] - bx) * ix;
  const outY = (box[o + 4 - sy] - by) * iy;
  const outZ = (box[o + 5 - sz] - bz) * iz;
  if (outX < far) far = outX;
  if (outY < far) far = outY;
  if (outZ < far) far = outZ;
  return near <= far ? near : Infinity;
}

/**
 * Whether two sides of a triangle lie on one line but for rounding, as where corners of a pole differ by their last
 * bits. A ray in the plane of such a one would meet it anywhere.
 */
function isSliver(ex: number, ey: number, ez: number, fx: number, fy: number, fz: number): boolean {
  const nx = ey * fz - ez * fy;
  const ny = ez * fx - ex * fz;
  const nz = ex * fy - ey * fx;
  const longest = Math.max(ex * ex + ey * ey + ez * ez, fx * fx + fy * fy + fz * fz);
  return !(nx * nx + ny * ny + nz * nz > 1e-20 * longest * longest);
}

/**
 * The first place where a ray meets a triangle from either side, at least `least` and at most `most` lengths of its
 * direction away (Möller and Trumbore 1997). Of equally near ones the lowest number wins, so the answer never depends
 * on how the tree was built.
 * @param any the first one that is found will do @returns whether there is one; it is written to `hit`
 */
export function firstHit(
  tree: Bvh,
  ox: number,
  oy: number,
  oz: number,
  dx: number,
  dy: number,
  dz: number,
  least: number,
  most: number,
  hit: MeshHit,
  any = false,
): boolean {
  const { bounds, start, count, order, positions: p, indices } = tree;
  hit.face = -1;
  hit.t = most;
  if (tree.nodes === 0) return false;
  const ix = 1 / dx;
  const iy = 1 / dy;
  const iz = 1 / dz;
  const sx = ix < 0 ? 3 : 0;
  const sy = iy < 0 ? 3 : 0;
  const sz = iz < 0 ? 3 : 0;
  const hair =
    SLACK *
    Math.max(
      bounds[3] - bounds[0] + Math.abs(bounds[0] - ox),
      bounds[4] - bounds[1] + Math.abs(bounds[1] - oy),
      bounds[5] - bounds[2] + Math.abs(bounds[2] - oz),
    );
  const ax = ix < 0 ? ox - hair : ox + hair;
  const ay = iy < 0 ? oy - hair : oy + hair;
  const az = iz < 0 ? oz - hair : oz + hair;
  const bx = ix < 0 ? ox + hair : ox - hair;
  const by = iy < 0 ? oy + hair : oy - hair;
  const bz = iz < 0 ? oz + hair : oz - hair;
  let best = most;
  let top = 0;
  stackNear[0] = enters(bounds, 0, sx, sy, sz, ax, ay, az, bx, by, bz, ix, iy, iz, least, best);
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    if (!(stackNear[top] <= best)) continue;
    if (count[node] === 0) {
      const a = node + 1;
      const b = start[node];
      const toA = enters(bounds, a * 6, sx, sy, sz, ax, ay, az, bx, by, bz, ix, iy, iz, least, best);
      const toB = enters(bounds, b * 6, sx, sy, sz, ax, ay, az, bx, by, bz, ix, iy, iz, least, best);
      // The nearer one is looked at first.
      const inOrder = toA <= toB;
      const late = inOrder ? toB : toA;
      const early = inOrder ? toA : toB;
      if (late < Infinity) {
        stackNear[top] = late;
        stack[top++] = inOrder ? b : a;
      }
      if (early < Infinity) {
        stackNear[top] = early;
        stack[top++] = inOrder ? a : b;
      }
      continue;
    }
    for (let i = start[node]; i < start[node] + count[node]; i++) {
      const f = order[i];
      const a = indices[f * 3] * 3;
      const b = indices[f * 3 + 1] * 3;
      const c = indices[f * 3 + 2] * 3;
      const ex = p[b] - p[a];
      const ey = p[b + 1] - p[a + 1];
      const ez = p[b + 2] - p[a + 2];
      const fx = p[c] - p[a];
      const fy = p[c + 1] - p[a + 1];
      const fz = p[c + 2] - p[a + 2];
      const qx = dy * fz - dz * fy;
      const qy = dz * fx - dx * fz;
      const qz = dx * fy - dy * fx;
      const det = ex * qx + ey * qy + ez * qz;
      if (det === 0) continue;
      const inv = 1 / det;
      const wx = ox - p[a];
      const wy = oy - p[a + 1];
      const wz = oz - p[a + 2];
      const u = (wx * qx + wy * qy + wz * qz) * inv;
      if (!(u >= -EDGE && u <= 1 + EDGE)) continue;
      const rx = wy * ez - wz * ey;
      const ry = wz * ex - wx * ez;
      const rz = wx * ey - wy * ex;
      const v = (dx * rx + dy * ry + dz * rz) * inv;
      if (!(v >= -EDGE && u + v <= 1 + EDGE)) continue;
      const t = (fx * rx + fy * ry + fz * rz) * inv;
      if (!(t >= least) || t > best || (t === best && hit.face >= 0 && f > hit.face)) continue;
      if (isSliver(ex, ey, ez, fx, fy, fz)) continue;
      hit.face = f;
      hit.u = u;
      hit.v = v;
      hit.t = best = t;
      if (any) return true;
    }
  }
  return hit.face >= 0;
}

/**
 * The nearest place of all triangles, no further than `most` metres. Of equally near ones the lowest number wins.
 * @returns whether there is one; it is written to `hit`
 */
export function nearestPlace(
  tree: Bvh,
  x: number,
  y: number,
  z: number,
  most: number,
  hit: MeshHit,
): boolean {
  const { bounds, start, count, order } = tree;
  hit.face = -1;
  let best = most * most;
  hit.t = most;
  if (tree.nodes === 0 || boxAway(bounds, 0, x, y, z) > best * AS_NEAR) return false;
  let top = 0;
  let node = 0;
  for (;;) {
    // Down to the leaf that is nearest by its boxes; what is passed by waits.
    while (count[node] === 0) {
      const a = node + 1;
      const b = start[node];
      const toA = boxAway(bounds, a * 6, x, y, z);
      const toB = boxAway(bounds, b * 6, x, y, z);
      const inOrder = toA <= toB;
      const late = inOrder ? toB : toA;
      if (late <= best * AS_NEAR) {
        stackNear[top] = late;
        stack[top++] = inOrder ? b : a;
      }
      node = inOrder ? a : b;
    }
    const end = start[node] + count[node];
    for (let i = start[node]; i < end; i++) {
      const f = order[i];
      nearestOnTriangle(tree, f, x, y, z, place);
      if (place.square > best || (place.square === best && hit.face >= 0 && f > hit.face)) continue;
      best = place.square;
      hit.face = f;
      hit.u = place.u;
      hit.v = place.v;
    }
    // Back to what waits and may still hold a nearer one.
    while (top > 0 && stackNear[top - 1] > best * AS_NEAR) top--;
    if (top === 0) break;
    node = stack[--top];
  }
  hit.t = Math.sqrt(best);
  return hit.face >= 0;
}

/** Boxes as near as the best so far may hold an equally near face of a lower number, whatever was rounded. */
const AS_NEAR = 1 + 1e-12;

/** What is nearest on a triangle, written over by each that is asked. */
const place = { u: 0, v: 0, square: 0 };

/** How far a place is from a box, squared; 0 within it. */
function boxAway(box: Float64Array, o: number, x: number, y: number, z: number): number {
  let dx = 0;
  let dy = 0;
  let dz = 0;
  if (x < box[o]) dx = box[o] - x;
  else if (x > box[o + 3]) dx = x - box[o + 3];
  if (y < box[o + 1]) dy = box[o + 1] - y;
  else if (y > box[o + 4]) dy = y - box[o + 4];
  if (z < box[o + 2]) dz = box[o + 2] - z;
  else if (z > box[o + 5]) dz = z - box[o + 5];
  return dx * dx + dy * dy + dz * dz;
}

/** Weights of the nearest place of a triangle (Ericson: Real-Time Collision Detection, 5.1.5). */
function nearestOnTriangle(
  { positions: p, indices }: Bvh,
  f: number,
  x: number,
  y: number,
  z: number,
  out: { u: number; v: number; square: number },
): void {
  const a = indices[f * 3] * 3;
  const b = indices[f * 3 + 1] * 3;
  const c = indices[f * 3 + 2] * 3;
  const abx = p[b] - p[a];
  const aby = p[b + 1] - p[a + 1];
  const abz = p[b + 2] - p[a + 2];
  const acx = p[c] - p[a];
  const acy = p[c + 1] - p[a + 1];
  const acz = p[c + 2] - p[a + 2];
  const apx = x - p[a];
  const apy = y - p[a + 1];
  const apz = z - p[a + 2];
  const d1 = abx * apx + aby * apy + abz * apz;
  const d2 = acx * apx + acy * apy + acz * apz;
  const ab = abx * abx + aby * aby + abz * abz;
  const mix = abx * acx + aby * acy + abz * acz;
  const ac = acx * acx + acy * acy + acz * acz;
  const d3 = d1 - ab;
  const d4 = d2 - mix;
  const d5 = d1 - mix;
  const d6 = d2 - ac;
  const vc = d1 * d4 - d3 * d2;
  const vb = d5 * d2 - d1 * d6;
  const va = d3 * d6 - d5 * d4;
  let u: number;
  let v: number;
  if (d1 <= 0 && d2 <= 0) u = v = 0;
  else if (d3 >= 0 && d4 <= d3) {
    u = 1;
    v = 0;
  } else if (vc <= 0 && d1 >= 0 && d3 <= 0) {
    u = d1 / (d1 - d3);
    v = 0;
  } else if (d6 >= 0 && d5 <= d6) {
    u = 0;
    v = 1;
  } else if (vb <= 0 && d2 >= 0 && d6 <= 0) {
    u = 0;
    v = d2 / (d2 - d6);
  } else if (va <= 0 && d4 - d3 >= 0 && d5 - d6 >= 0) {
    const w = (d4 - d3) / (d4 - d3 + (d5 - d6));
    u = 1 - w;
    v = w;
  } else {
    const k = 1 / (va + vb + vc);
    u = vb * k;
    v = vc * k;
  }
  const dx = apx - abx * u - acx * v;
  const dy = apy - aby * u - acy * v;
  const dz = apz - abz * u - acz * v;
  out.u = u;
  out.v = v;
  out.square = dx * dx + dy * dy + dz * dz;
}
