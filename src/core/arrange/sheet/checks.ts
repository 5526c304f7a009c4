import { STATE, type Placements } from '../../evaluate/result';
import type { Bounds } from '../../mesh/mesh';
import { cornersOf } from '../../mesh/chart/corners';
import { uvIndex } from '../../mesh/chart/uvIndex';
import { faceNormal, type Solid } from '../../mesh/solid';
import { DEG } from '../../math/quat';
import { cos } from '../../math/portable';
import { dot } from '../../math/vec3';
import type { Cell } from './cells';
import type { SheetGround, SurfaceChart } from './chartOf';
import type { Say } from './evaluate';
import type { SheetMap } from './map';
import type { Bends } from '../steps/whichBend';

/** Edges sharper than this are corners that nothing should lie across. */
const SHARP = 35;
/** A small square that becomes this much larger or smaller, or whose corners are off by so many degrees, is said. */
const STRETCHED = 1.6;
const ASKEW = 25;

/** What is wrong with a surface's texture coordinates: islands that lie on others, faces turned over. */
export function uvFindings(surface: string, rest: Solid, say: Say): void {
  if (!rest.uvs) return;
  const index = uvIndex(rest as Solid & { uvs: Float32Array });
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
  ground: SheetGround,
  distortion: Float32Array,
  bends: Bends | null,
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
    if (Math.max(wide, long) > most) large.add(out.prop[i]);
    const [area, off] = [distortion[i * 2], distortion[i * 2 + 1]];
    const isStretched = area > STRETCHED || area < 1 / STRETCHED || off > ASKEW;
    if (isStretched && bends?.(out.slot[i], out.prop[i])) stretched.push(out.slot[i]);
  }
  for (const prop of large) say('sheet-larger', { prop: out.props[prop] }, 'warning');
  if (stretched.length > 0)
    say('sheet-stretched', { count: stretched.length, area: STRETCHED, angle: ASKEW }, 'warning', stretched);
  const over = straddlers(map, cells, out, bounds, ground);
  if (over.length > 0) say('sheet-straddles', { count: over.length, angle: SHARP }, 'warning', over);
}

/** Slots of the items that lie across a sharp corner, or over the edge of the patch. */
function straddlers(
  map: SheetMap,
  cells: Cell[],
  out: Placements,
  bounds: (Bounds | undefined)[],
  { now, rest }: SheetGround,
): number[] {
  const chart = map.chart as SurfaceChart;
  const corners = cornersOf(rest, SHARP);
  const islandOf = chart.flat ? null : uvIndex(rest as Solid & { uvs: Float32Array }).islandOf;
  const place = { face: -1, u: 0, v: 0 };
  const limit = cos(SHARP * DEG);
  const faceAt = (a: number, b: number): number => {
    const wrap = (t: number, closed: boolean) => (closed ? t - Math.floor(t) : t);
    const [p, q] = [wrap(a, map.closedAcross), wrap(b, map.closedUp)];
    // What just touches the border of the whole is on it.
    const held = (t: number) => (t > -1e-6 && t < 0 ? 0 : t > 1 && t < 1 + 1e-6 ? 1 : t);
    const [u, v] = map.uv(held(p), held(q));
    return chart.place(u, v, place) ? place.face : -1;
  };
  const cross = crossOf(map);
  const found: number[] = [];
  for (let i = 0; i < out.count; i++) {
    const box = out.state[i] === STATE.placed ? bounds[out.prop[i]] : undefined;
    if (!box) continue;
    const shares = cross(cells[i], box, Math.abs(out.scale[i * 3]), out.scale[i * 3 + 2]);
    // The cross in the texture: its ends across and up are the rectangle's.
    const [ua, va] = map.uv(shares[2], shares[7]);
    const [ub, vb] = map.uv(shares[4], shares[9]);
    const window = [Math.min(ua, ub), Math.max(ua, ub), Math.min(va, vb), Math.max(va, vb)] as const;
    const bends = corners.sharp && (chart.flat || corners.maySharp(...window));
    if (!bends && !chart.flat && !corners.mayEnd(...window)) continue;
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
 * Tells the shares (two a place) of an item's foot and of the ends of its middle cross: left, right, low and high. What
 * it tells is overwritten the next time. Rows are mostly asked for one after the other: lengths up are kept for one.
 */
function crossOf(map: SheetMap) {
  const out = new Float64Array(10);
  const end = new Float64Array(2);
  let [row, low, high] = [NaN, NaN, NaN];
  return ({ a, b }: Cell, { min, max }: Bounds, wide: number, long: number): Float64Array => {
    out[0] = a;
    out[1] = b;
    map.moved(a, b, -min[0] * wide * DRAWN_IN, 0, end);
    out[2] = end[0];
    map.moved(a, b, -max[0] * wide * DRAWN_IN, 0, end);
    out[4] = end[0];
    out[3] = out[5] = b;
    const [down, up] = [min[2] * long * DRAWN_IN, max[2] * long * DRAWN_IN];
    if (row !== b || low !== down || high !== up) {
      [row, low, high] = [b, down, up];
      map.moved(a, b, 0, down, end);
      out[7] = end[1];
      map.moved(a, b, 0, up, end);
      out[9] = end[1];
    }
    out[6] = out[8] = a;
    return out;
  };
}
