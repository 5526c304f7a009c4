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

/**
 * Lays a stamp on the nearest of some surfaces: its first six numbers, where it crosses the seam of a surface that goes
 * round once more on the other side. By the texture of the one face that its middle lies on, which is exact where the
 * texture is stretched evenly under it.
 * @returns the surface, and how many were written; null where none is near, or its texture has no extent there
 */
export function layStamp(
  stamp: StandingStamp,
  grounds: readonly StampGround[],
  write: (on: StampGround, numbers: ArrayLike<number>) => void,
): StampGround | null {
  const { middle: m, right, down } = stamp;
  const hit = noHit();
  let on: StampGround | null = null;
  let [face, b, c] = [-1, 0, 0];
  let most = REACH * Math.sqrt(Math.max(square(right), square(down)));
  for (const ground of grounds) {
    if (!nearestPlace(ground.mesh.tree(), m[0], m[1], m[2], most, hit)) continue;
    [on, face, b, c, most] = [ground, hit.face, hit.u, hit.v, hit.t];
  }
  if (!on) return null;
  const laid = numbersOf(on.mesh, face, b, c, right, down);
  if (!laid) return null;
  write(on, laid);
  const [wide, high] = reachOf(laid);
  const range = [on.round[0], on.round[1]];
  const { uvs } = on.mesh;
  if (range[0] > 0 || range[1] > 0) {
    const low = lowest(uvs!);
    for (let i = -1; i <= 1; i++)
      for (let k = -1; k <= 1; k++) {
        if ((i === 0 && k === 0) || (i !== 0 && range[0] === 0) || (k !== 0 && range[1] === 0)) continue;
        const [u, v] = [laid[0] + i * range[0], laid[1] + k * range[1]];
        const beside = (at: number, far: number, from: number, wideOf: number) =>
          wideOf === 0 || (at + far > from && at - far < from + wideOf);
        if (!beside(u, wide, low[0], range[0]) || !beside(v, high, low[1], range[1])) continue;
        write(on, [u, v, laid[2], laid[3], laid[4], laid[5]]);
      }
  }
  return on;
}

const square = (a: ArrayLike<number>): number => a[0] * a[0] + a[1] * a[1] + a[2] * a[2];

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
  const [a, b, c, d] = [n[o + 2], n[o + 3], n[o + 4], n[o + 5]];
  const det = Math.abs(a * d - b * c);
  return [(Math.abs(d) + Math.abs(b)) / (2 * det), (Math.abs(a) + Math.abs(c)) / (2 * det)];
}

/** The numbers of a stamp whose middle is on a face, by the weights of its second and third corner. */
function numbersOf(
  { positions: p, indices, uvs }: TriMesh,
  face: number,
  b: number,
  c: number,
  right: ArrayLike<number>,
  down: ArrayLike<number>,
): [number, number, number, number, number, number] | null {
  const [i, j, k] = [indices[face * 3], indices[face * 3 + 1], indices[face * 3 + 2]];
  const [e, f] = [
    [0, 0, 0],
    [0, 0, 0],
  ];
  for (let r = 0; r < 3; r++) {
    e[r] = p[j * 3 + r] - p[i * 3 + r];
    f[r] = p[k * 3 + r] - p[i * 3 + r];
  }
  const [eu, ev] = [uvs![j * 2] - uvs![i * 2], uvs![j * 2 + 1] - uvs![i * 2 + 1]];
  const [fu, fv] = [uvs![k * 2] - uvs![i * 2], uvs![k * 2 + 1] - uvs![i * 2 + 1]];
  const [ee, ff, ef] = [dot(e, e), dot(f, f), dot(e, f)];
  const area = ee * ff - ef * ef;
  // From directions in the scene to weights of the corners, from those to u and v.
  const toUv = (way: ArrayLike<number>): [number, number] => {
    const [x, y] = [dot(e, way), dot(f, way)];
    const [s, t] = [(ff * x - ef * y) / area, (ee * y - ef * x) / area];
    return [s * eu + t * fu, s * ev + t * fv];
  };
  const [ru, rv] = toUv(right);
  const [du, dv] = toUv(down);
  const det = ru * dv - rv * du;
  const u = uvs![i * 2] + b * eu + c * fu;
  const v = uvs![i * 2 + 1] + b * ev + c * fv;
  const out: [number, number, number, number, number, number] = [
    u,
    v,
    dv / det,
    -du / det,
    -rv / det,
    ru / det,
  ];
  return out.every(Number.isFinite) ? out : null;
}

const dot = (a: ArrayLike<number>, b: ArrayLike<number>): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
