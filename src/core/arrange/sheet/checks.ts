import { STATE, type Placements } from '../result';
import type { Bounds } from '../../mesh/mesh';
import { cornersOf } from '../../mesh/chart/corners';
import { uvIndex } from '../../mesh/chart/uvIndex';
import { faceNormal, type TriMesh } from '../../mesh/triMesh';
import { DEG } from '../../math/quat';
import { cos, sin } from '../../math/portable';
import { dot } from '../../math/vec3';
import type { Say } from '../say';
import type { Bends } from '../steps/whichBend';
import type { Cell } from './cells';
import type { SurfaceChart } from './chartOf';
import type { SurfaceStates } from '../context';
import type { SheetMap } from './map';

/** Edges sharper than this are corners that nothing should lie across. */
const SHARP = 35;
/** A small square that becomes this much larger or smaller, or whose corners are off by so many degrees, is said. */
const STRETCHED = 1.6;
const ASKEW = 25;

/** What is wrong with a surface's texture coordinates: islands that lie on others, faces turned over. */
export function uvFindings(surface: string, rest: TriMesh, say: Say): void {
  if (!rest.uvs) return;
  const index = uvIndex(rest as TriMesh & { uvs: Float32Array });
  index.islands.forEach((island, i) => {
    if (island.on >= 0)
      say('uv-overlap', { surface, island: i + 1, on: island.on + 1, count: island.faces }, 'warning');
  });
  const flipped = index.islands.filter((i) => i.flipped && i.on < 0);
  const mixed = flipped.length > 0 && flipped.length < index.islands.filter((i) => i.on < 0).length;
  if (mixed || index.turnedOver > 0) {
    const island = index.islands.findIndex((i) => i.flipped) + 1;
    const count = index.turnedOver + (mixed ? flipped.reduce((n, i) => n + i.faces, 0) : 0);
    say('uv-turned', { surface, island: mixed ? island : 0, count }, 'warning');
  }
}

/** What a careful artist should know of a sheet that is laid. */
export function checkSheet(
  map: SheetMap,
  cells: Cell[],
  out: Placements,
  bounds: (Bounds | undefined)[],
  ground: SurfaceStates,
  { distortion, bends, turn }: { distortion: Float32Array; bends: Bends | null; turn: Float32Array },
  say: Say,
): void {
  const large = new Set<number>();
  const stretched: number[] = [];
  for (let i = 0; i < out.count; i++) {
    if (out.state[i] !== STATE.placed) continue;
    const b = bounds[out.prop[i]];
    const wide = b ? (b.max[0] - b.min[0]) * Math.abs(out.scale[i * 3]) : 0;
    const long = b ? (b.max[2] - b.min[2]) * out.scale[i * 3 + 2] : 0;
    const most = Math.max(map.width, map.fullHeight);
    if (Math.max(wide, long) > most * (1 + 1e-6)) large.add(out.prop[i]);
    const area = distortion[i * 2];
    const off = distortion[i * 2 + 1];
    const isStretched = area > STRETCHED || area < 1 / STRETCHED || off > ASKEW;
    if (isStretched && bends?.(out.slot[i], out.prop[i])) stretched.push(out.slot[i]);
  }
  for (const prop of large) say('sheet-larger', { prop: out.props[prop] }, 'warning');
  if (stretched.length > 0)
    say('sheet-stretched', { count: stretched.length, area: STRETCHED, angle: ASKEW }, 'warning', stretched);
  const over = straddlers(map, cells, out, bounds, ground, turn);
  if (over.length > 0) say('sheet-straddles', { count: over.length, angle: SHARP }, 'warning', over);
}

/** Slots of the items that lie across a sharp corner, or over the edge of the patch. */
function straddlers(
  map: SheetMap,
  cells: Cell[],
  out: Placements,
  bounds: (Bounds | undefined)[],
  { now, rest }: SurfaceStates,
  turn: Float32Array,
): number[] {
  const chart = map.chart as SurfaceChart;
  const corners = cornersOf(rest, SHARP);
  const islandOf = chart.flat ? null : uvIndex(rest as TriMesh & { uvs: Float32Array }).islandOf;
  const place = { face: -1, u: 0, v: 0 };
  const limit = cos(SHARP * DEG);
  // What just touches the border of the whole is on it.
  const held = (t: number, closed: boolean) =>
    closed ? t - Math.floor(t) : t > -1e-6 && t < 0 ? 0 : t > 1 && t < 1 + 1e-6 ? 1 : t;
  const faceAt = (a: number, b: number): number => {
    const [u, v] = map.uv(held(a, map.closedAcross), held(b, map.closedUp));
    return chart.place(u, v, place) ? place.face : -1;
  };
  const cross = crossOf(map);
  const w = new Float64Array(4);
  const found: number[] = [];
  for (let i = 0; i < out.count; i++) {
    const box = out.state[i] === STATE.placed ? bounds[out.prop[i]] : undefined;
    if (!box) continue;
    const shares = cross(cells[i], box, out.scale[i * 3], out.scale[i * 3 + 2], turn[i]);
    writeWindow(map, shares, w);
    const bends = corners.sharp && (chart.flat || corners.maySharp(w[0], w[1], w[2], w[3]));
    if (!bends && !chart.flat && !corners.mayEnd(w[0], w[1], w[2], w[3])) continue;
    const foot = faceAt(shares[0], shares[1]);
    const n = bends && foot >= 0 ? faceNormal(now, foot) : null;
    const over = (face: number) =>
      face < 0 ||
      (islandOf !== null && islandOf[face] !== islandOf[foot]) ||
      (n !== null && dot(n, faceNormal(now, face)) < limit);
    for (let k = 2; k < 10; k += 2) {
      if (!over(faceAt(shares[k], shares[k + 1]))) continue;
      found.push(out.slot[i]);
      break;
    }
  }
  return found;
}

/** A little drawn in: what just touches a border does not lie over it. */
const DRAWN_IN = 0.98;

/**
 * Tells the shares (two a place) of an item's foot and of the ends of its middle cross. What it tells is overwritten the
 * next time. Rows are mostly asked for one after the other: the shares up of upright items are kept for one.
 */
function crossOf(map: SheetMap) {
  const out = new Float64Array(10);
  const end = new Float64Array(2);
  let [row, low, high] = [NaN, NaN, NaN];
  /** The foot, and the shares up that are kept. */
  const ends = { a: 0, b: 0, low: 0, high: 0 };
  const put = (k: number, dx: number, dy: number) => {
    map.moved(ends.a, ends.b, dx, dy, end);
    out[k] = end[0];
    out[k + 1] = end[1];
  };
  return (
    { a, b }: Cell,
    { min, max }: Bounds,
    wide: number,
    long: number,
    turnDeg: number,
  ): Float64Array => {
    ends.a = out[0] = a;
    ends.b = out[1] = b;
    // A prop's X is left.
    const left = -max[0] * wide * DRAWN_IN;
    const right = -min[0] * wide * DRAWN_IN;
    const down = min[2] * long * DRAWN_IN;
    const up = max[2] * long * DRAWN_IN;
    if (turnDeg !== 0) {
      const [c, s] = [cos(turnDeg * DEG), sin(turnDeg * DEG)];
      put(2, left * c, left * s);
      put(4, right * c, right * s);
      put(6, -down * s, down * c);
      put(8, -up * s, up * c);
      return out;
    }
    put(2, left, 0);
    put(4, right, 0);
    if (row !== b || low !== down || high !== up) {
      [row, low, high] = [b, down, up];
      put(6, 0, down);
      put(8, 0, up);
      [ends.low, ends.high] = [out[7], out[9]];
    }
    out[6] = out[8] = a;
    out[7] = ends.low;
    out[9] = ends.high;
    return out;
  };
}

/** Writes least and greatest u, then v, of a cross. */
function writeWindow(map: SheetMap, shares: Float64Array, out: Float64Array): void {
  let a0 = shares[0];
  let a1 = a0;
  let b0 = shares[1];
  let b1 = b0;
  for (let k = 2; k < 10; k += 2) {
    a0 = Math.min(a0, shares[k]);
    a1 = Math.max(a1, shares[k]);
    b0 = Math.min(b0, shares[k + 1]);
    b1 = Math.max(b1, shares[k + 1]);
  }
  const one = map.uv(a0, b0);
  const other = map.uv(a1, b1);
  out[0] = Math.min(one[0], other[0]);
  out[1] = Math.max(one[0], other[0]);
  out[2] = Math.min(one[1], other[1]);
  out[3] = Math.max(one[1], other[1]);
}
