import type { Placements } from '../result';
import { acos } from '../../math/portable';
import { quatMultiply, quatRotate, quatFromUpFront, type Quat } from '../../math/quat';
import { distance, type Vec3 } from '../../math/vec3';
import { piecesFor } from '../../mesh/bend';
import type { Bounds } from '../../mesh/mesh';
import { inPieces, type Pieces } from '../../mesh/pieces';
import type { Sliced } from '../../mesh/slice';
import { ONE_TIME, type Slices } from '../fineness';
import { Shapes } from '../steps/shapes';
import { bendTo, lookAt, type Seen, type Turned } from './bendTo';
import { newAt, type SheetMap } from './map';
import type { Sheet } from './schema';

/** Items bent to the surface under a sheet: every vertex is laid where the sheet lays it, its height along the normal. */
export interface SheetBender {
  /**
   * Bends the item in a row whose foot is at the shares a, b.
   * @param at what the map tells there @param front up the sheet, square to the normal @param lift metres
   */
  bend(a: number, b: number, at: Float64Array, front: Vec3, lift: number, out: Placements, row: number): void;
}

/** Places across and up an item where the surface is looked at. */
const PLACES = 5;
/** Shapes that differ by less than this share of the tolerance are one. */
const ALIKE = 0.2;

/** @param meshes of the props that the placements count, in their own space; undefined where one is not at hand */
export function sheetBender(
  map: SheetMap,
  facing: Sheet['facing'],
  meshes: (Sliced | undefined)[],
  bounds: (Bounds | undefined)[],
  slices: Slices = ONE_TIME,
): SheetBender {
  const { tolerance, relief } = facing;
  const shapes = new Shapes(tolerance * ALIKE);
  const share = new Float64Array(2);
  const here = newAt();
  return {
    bend(a, b, at, front, lift, out, row) {
      const prop = out.prop[row];
      const mesh = prop < 0 ? undefined : meshes[prop];
      const box = prop < 0 ? undefined : bounds[prop];
      if (!mesh || !box) return;
      const q = [...out.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
      const scale = [...out.scale.subarray(row * 3, row * 3 + 3)] as Vec3;
      const position = [...out.position.subarray(row * 3, row * 3 + 3)] as Vec3;
      const turned = turnedBy(q, [at[3], at[4], at[5]], front, scale);
      // Seen from outside, right of up: where the layout's right is the other way an item is still not mirrored.
      const side = rightOf(at, front) < 0 ? -1 : 1;
      const span = spanOf(turned, box);
      const seen: Seen = { map, a, b, at, side, q: [-q[0], -q[1], -q[2], q[3]], position, share, here };
      const profile = profileOf(seen, span);
      const slot = out.slot[row];
      if (profile.flat && relief === 1 && !slices.bent(slot)) return;
      const pieces = piecesOf(turned, box, span, profile, tolerance, (way, pieces) =>
        slices.most(slot, way, pieces),
      );
      const rounded = turned.flat().map((x) => Math.round(x * 1e9));
      const key = [prop, pieces.x, pieces.z, lift, ...scale, ...rounded].join(' ');
      shapes.give(out, row, key, profile.numbers, () =>
        bendTo(seen, inPieces(mesh, pieces), turned, lift, relief),
      );
    },
  };
}

/** Which way the layout's right runs: along the right of `front` seen from outside (> 0) or against it. */
const rightOf = (at: Float64Array, f: Vec3): number =>
  at[6] * (f[1] * at[5] - f[2] * at[4]) +
  at[7] * (f[2] * at[3] - f[0] * at[5]) +
  at[8] * (f[0] * at[4] - f[1] * at[3]);

/** The item's axes in its frame on the sheet. */
function turnedBy(q: Quat, normal: Vec3, front: Vec3, scale: Vec3): Turned {
  const frame = quatFromUpFront(normal, front);
  const local = quatMultiply([-frame[0], -frame[1], -frame[2], frame[3]], q);
  const axes = ([0, 1, 2] as const).map((k) => {
    const axis: Vec3 = [0, 0, 0];
    axis[k] = scale[k];
    return quatRotate(local, axis);
  });
  // The frame's X is left.
  return [
    [-axes[0][0], -axes[1][0], -axes[2][0]],
    [axes[0][2], axes[1][2], axes[2][2]],
    [axes[0][1], axes[1][1], axes[2][1]],
  ];
}

/** Least and greatest of an item's box, right and up the sheet. */
function spanOf([right, up]: Turned, { min, max }: Bounds): [number, number, number, number] {
  const out: [number, number, number, number] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let corner = 0; corner < 8; corner++) {
    const p = [0, 1, 2].map((k) => ((corner >> k) & 1 ? max[k] : min[k]));
    const x = right[0] * p[0] + right[1] * p[1] + right[2] * p[2];
    const y = up[0] * p[0] + up[1] * p[1] + up[2] * p[2];
    out[0] = Math.min(out[0], x);
    out[1] = Math.max(out[1], x);
    out[2] = Math.min(out[2], y);
    out[3] = Math.max(out[3], y);
  }
  return out;
}

interface Profile {
  /** Places and normals seen from the row: near numbers bend alike. */
  numbers: Float64Array;
  flat: boolean;
  /** Radians a metre, across and up. */
  across: number;
  up: number;
}

/** What the surface does under an item, at a few places. */
function profileOf(seen: Seen, [x0, x1, y0, y1]: [number, number, number, number]): Profile {
  const { side, q, position, here } = seen;
  const numbers = new Float64Array(PLACES * PLACES * 6);
  let n = 0;
  for (let j = 0; j < PLACES; j++)
    for (let i = 0; i < PLACES; i++) {
      const dx = x0 + ((x1 - x0) * i) / (PLACES - 1);
      const dy = y0 + ((y1 - y0) * j) / (PLACES - 1);
      lookAt(seen, dx * side, dy);
      const p = quatRotate(q, [here[0] - position[0], here[1] - position[1], here[2] - position[2]]);
      const m = quatRotate(q, [here[3], here[4], here[5]]);
      numbers.set(p, n);
      numbers.set(m, n + 3);
      n += 6;
    }
  let flat = true;
  const turn = (i: number, k: number, step: number): number => {
    const c =
      numbers[i + 3] * numbers[k + 3] + numbers[i + 4] * numbers[k + 4] + numbers[i + 5] * numbers[k + 5];
    if (1 - c > 1e-14) flat = false;
    return step > 1e-9 ? acos(Math.max(-1, Math.min(1, c))) / step : 0;
  };
  let across = 0;
  let up = 0;
  const stepX = (x1 - x0) / (PLACES - 1);
  const stepY = (y1 - y0) / (PLACES - 1);
  for (let j = 0; j < PLACES; j++)
    for (let i = 0; i < PLACES; i++) {
      const o = (j * PLACES + i) * 6;
      if (i > 0) across = Math.max(across, turn(o, o - 6, stepX));
      if (j > 0) up = Math.max(up, turn(o, o - PLACES * 6, stepY));
    }
  // Flat all over, but perhaps stretched: then sides are not as long as they were.
  const corner = (k: number): Vec3 => [numbers[k], numbers[k + 1], numbers[k + 2]];
  const long = (k: number) => {
    const [p, r] = [corner(0), corner(k)];
    return distance(p, r);
  };
  const last = PLACES - 1;
  const off = (is: number, was: number) => Math.abs(is - was) > 1e-9 * (1 + was);
  const diagonal = Math.sqrt((x1 - x0) * (x1 - x0) + (y1 - y0) * (y1 - y0));
  if (off(long(last * 6), x1 - x0) || off(long(last * PLACES * 6), y1 - y0)) flat = false;
  if (off(long((last * PLACES + last) * 6), diagonal)) flat = false;
  return { numbers, flat, across, up };
}

/** Into how many pieces an item is sliced across its own X and Z, so that it bends within the tolerance. */
function piecesOf(
  [right, up]: Turned,
  { min, max }: Bounds,
  [x0, x1, y0, y1]: [number, number, number, number],
  profile: Profile,
  tolerance: number,
  most: (way: string, pieces: number) => number,
): Pieces {
  const scaled = (k: number) => Math.sqrt(right[k] * right[k] + up[k] * up[k]) || 1;
  // What stands out of the surface bends on a wider way.
  const relief = Math.max(Math.abs(min[1]), Math.abs(max[1])) * Math.max(scaled(0), scaled(2));
  const across = (k: 0 | 2, way: string): number => {
    const size = scaled(k);
    // Where it runs askew it crosses both bends.
    const straight = Math.max(Math.abs(right[k]), Math.abs(up[k])) > size * 0.999;
    const bends = !straight
      ? Math.max(profile.across, profile.up)
      : Math.abs(right[k]) > Math.abs(up[k])
        ? profile.across
        : profile.up;
    return most(way, piecesFor((max[k] - min[k]) * size, bends, tolerance, relief));
  };
  if (!(x1 > x0 || y1 > y0)) return { x: 1, z: 1 };
  return { x: across(0, 'x'), z: across(2, 'z') };
}
