import { nearestPlace, noHit } from '../bvhQuery';
import { uvChart } from '../chart/uvChart';
import type { TriMesh } from '../triMesh';

/** Where stamps lie in the texture of a surface. */

/**
 * Numbers that a stamp is drawn by: its middle in u and v (0, 1); two rows that take what is off it there to shares of
 * the stamp, −½ to ½, from left to right (2, 3) and from top to bottom (4, 5); whose picture it shows (6); metres for one
 * of its relief (7); its tint (8 to 10); its strength (11).
 */
export const STAMP_STRIDE = 12;

/** A stamp as it stands in the scene: its middle, and how far and where its whole picture goes, metres. */
export interface StandingStamp {
  middle: ArrayLike<number>;
  right: ArrayLike<number>;
  down: ArrayLike<number>;
}

/** A surface that stamps may lie on. */
export interface StampGround {
  id: string;
  mesh: TriMesh;
  /** Once round along u and v in texture coordinates; 0 where it does not close that way. */
  round: [number, number];
}

/** A surface as a ground for stamps; null where it has no texture coordinates. */
export function stampGround(id: string, mesh: TriMesh): StampGround | null {
  const chart = uvChart(mesh, mesh, 1, { u: [0, 1], v: [0, 1] });
  if (!chart) return null;
  const round = (closed: boolean, [low, high]: [number, number]) => (closed ? high - low : 0);
  return { id, mesh, round: [round(chart.closedU, chart.u), round(chart.closedV, chart.v)] };
}

/** Further off than so many times its larger side it does not lie on a surface. */
const REACH = 0.5;
/** Most lie as near as this, and are found at once. */
const NEAR = 0.02;

const hit = noHit();
const laid = new Float64Array(6);

/**
 * Lays a stamp on the nearest of some surfaces: its first six numbers, where it crosses the seam of a surface that goes
 * round once more on the other side. By the texture of the one face that its middle lies on, which is exact where the
 * texture is stretched evenly under it.
 * @param write gets its numbers, which are written over afterwards
 * @returns whether any is near, and its texture has an extent there
 */
export function layStamp(
  { middle: m, right, down }: StandingStamp,
  grounds: readonly StampGround[],
  write: (on: StampGround, numbers: ArrayLike<number>) => void,
): boolean {
  const size = Math.sqrt(Math.max(dot(right, right), dot(down, down)));
  let on: StampGround | null = null;
  let face = -1;
  let b = 0;
  let c = 0;
  for (let share = NEAR; !on && share <= REACH; share *= REACH / NEAR) {
    let most = share * size;
    for (const ground of grounds) {
      if (!nearestPlace(ground.mesh.tree(), m[0], m[1], m[2], most, hit)) continue;
      on = ground;
      face = hit.face;
      b = hit.u;
      c = hit.v;
      most = hit.t;
    }
  }
  if (!on || !writeNumbers(on.mesh, face, b, c, right, down)) return false;
  write(on, laid);
  if (on.round[0] > 0 || on.round[1] > 0) writeBeyondSeams(on, write);
  return true;
}

/** Once more on the other side of each seam that it reaches over. */
function writeBeyondSeams(
  on: StampGround,
  write: (on: StampGround, numbers: ArrayLike<number>) => void,
): void {
  const [wide, high] = reachOf(laid);
  const [u0, v0] = lowest(on.mesh.uvs!);
  const [ru, rv] = on.round;
  const [u, v] = laid;
  const beside = (at: number, far: number, from: number, round: number) =>
    round === 0 || (at + far > from && at - far < from + round);
  for (let i = ru > 0 ? -1 : 0; i <= (ru > 0 ? 1 : 0); i++)
    for (let k = rv > 0 ? -1 : 0; k <= (rv > 0 ? 1 : 0); k++) {
      if (i === 0 && k === 0) continue;
      if (!beside(u + i * ru, wide, u0, ru) || !beside(v + k * rv, high, v0, rv)) continue;
      laid[0] = u + i * ru;
      laid[1] = v + k * rv;
      write(on, laid);
    }
}

const lows = new WeakMap<Float32Array, [number, number]>();
/** Least u and v of texture coordinates, looked for once. */
function lowest(uvs: Float32Array): [number, number] {
  let low = lows.get(uvs);
  if (low) return low;
  low = [Infinity, Infinity];
  for (let i = 0; i < uvs.length; i++) low[i % 2] = Math.min(low[i % 2], uvs[i]);
  lows.set(uvs, low);
  return low;
}

/** How far a stamp reaches along u and v to either side of its middle. @param n its numbers */
export function reachOf(n: ArrayLike<number>, o = 0): [number, number] {
  const det = 2 * Math.abs(n[o + 2] * n[o + 5] - n[o + 3] * n[o + 4]);
  return [(Math.abs(n[o + 5]) + Math.abs(n[o + 3])) / det, (Math.abs(n[o + 2]) + Math.abs(n[o + 4])) / det];
}

/** Writes the numbers of a stamp whose middle is on a face, by the weights of its second and third corner. */
function writeNumbers(
  { positions: p, indices, uvs }: TriMesh,
  face: number,
  b: number,
  c: number,
  right: ArrayLike<number>,
  down: ArrayLike<number>,
): boolean {
  const i = indices[face * 3];
  const j = indices[face * 3 + 1];
  const k = indices[face * 3 + 2];
  const ex = p[j * 3] - p[i * 3];
  const ey = p[j * 3 + 1] - p[i * 3 + 1];
  const ez = p[j * 3 + 2] - p[i * 3 + 2];
  const fx = p[k * 3] - p[i * 3];
  const fy = p[k * 3 + 1] - p[i * 3 + 1];
  const fz = p[k * 3 + 2] - p[i * 3 + 2];
  const eu = uvs![j * 2] - uvs![i * 2];
  const ev = uvs![j * 2 + 1] - uvs![i * 2 + 1];
  const fu = uvs![k * 2] - uvs![i * 2];
  const fv = uvs![k * 2 + 1] - uvs![i * 2 + 1];
  const ee = ex * ex + ey * ey + ez * ez;
  const ff = fx * fx + fy * fy + fz * fz;
  const ef = ex * fx + ey * fy + ez * fz;
  const area = ee * ff - ef * ef;
  // From directions in the scene to weights of the corners, from those to u and v.
  let x = ex * right[0] + ey * right[1] + ez * right[2];
  let y = fx * right[0] + fy * right[1] + fz * right[2];
  let s = (ff * x - ef * y) / area;
  let t = (ee * y - ef * x) / area;
  const ru = s * eu + t * fu;
  const rv = s * ev + t * fv;
  x = ex * down[0] + ey * down[1] + ez * down[2];
  y = fx * down[0] + fy * down[1] + fz * down[2];
  s = (ff * x - ef * y) / area;
  t = (ee * y - ef * x) / area;
  const du = s * eu + t * fu;
  const dv = s * ev + t * fv;
  const det = ru * dv - rv * du;
  laid[0] = uvs![i * 2] + b * eu + c * fu;
  laid[1] = uvs![i * 2 + 1] + b * ev + c * fv;
  laid[2] = dv / det;
  laid[3] = -du / det;
  laid[4] = -rv / det;
  laid[5] = ru / det;
  return Number.isFinite(laid[2] + laid[3] + laid[4] + laid[5]);
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
