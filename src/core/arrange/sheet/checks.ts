import { STATE, type Placements } from '../result';
import type { Bounds } from '../../mesh/mesh';
import { cornersOf } from '../../mesh/chart/corners';
import { uvIndex } from '../../mesh/chart/uvIndex';
import { faceNormal, type TriMesh } from '../../mesh/triMesh';
import { DEG } from '../../math/quat';
import { cos, sin } from '../../math/portable';
import { dot, type Vec3 } from '../../math/vec3';
import type { Say } from '../say';
import type { Bends } from '../steps/whichBend';
import type { Cells } from './cells';
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
  cells: Cells,
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
  cells: Cells,
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
  const uv = new Float64Array(2);
  const faceAt = (a: number, b: number): number => {
    map.uv(held(a, map.closedAcross), held(b, map.closedUp), uv);
    return chart.place(uv[0], uv[1], place) ? place.face : -1;
  };
  // The face that the foot of an item is on, and its normal where it may bend sharply.
  let foot = -1;
  let n: Vec3 | null = null;
  const over = (face: number) =>
    face < 0 ||
    (islandOf !== null && islandOf[face] !== islandOf[foot]) ||
    (n !== null && dot(n, faceNormal(now, face)) < limit);
  const window = new Float64Array(4);
  const ends = new Float64Array(4);
  const shares = new Float64Array(10);
  const mayBend = (w: Float64Array) =>
    corners.sharp && (chart.flat || corners.maySharp(w[0], w[1], w[2], w[3]));
  const isWhole = (w: Float64Array) => !chart.flat && !mayBend(w) && !corners.mayEnd(w[0], w[1], w[2], w[3]);
  const lie = (i: number): Bounds | undefined =>
    out.state[i] === STATE.placed ? bounds[out.prop[i]] : undefined;
  const straddles = (i: number, box: Bounds): boolean => {
    writeEnds(box, out.scale, i, ends);
    writeCross(map, cells.a[i], cells.b[i], ends, turn[i], shares);
    writeWindow(map, shares, window);
    if (isWhole(window)) return false;
    foot = faceAt(shares[0], shares[1]);
    n = foot >= 0 && mayBend(window) ? faceNormal(now, foot) : null;
    for (let k = 2; k < 10; k += 2) if (over(faceAt(shares[k], shares[k + 1]))) return true;
    return false;
  };
  const all = new Float64Array(4);
  /** Whether all that upright neighbours of one row reach over is free of edges and borders. */
  const areWhole = (from: number, to: number): boolean => {
    all.fill(0);
    let low = Infinity;
    let high = -Infinity;
    let last = -1;
    for (let i = from; i < to; i++) {
      const box = lie(i);
      if (!box) continue;
      if (turn[i] !== 0) return false;
      // Mostly they are alike.
      if (last < 0 || !isAsLarge(out, i, last)) {
        writeEnds(box, out.scale, i, ends);
        for (let k = 0; k < 4; k++) {
          const o = k & 2;
          all[o] = Math.min(all[o], ends[k]);
          all[o + 1] = Math.max(all[o + 1], ends[k]);
        }
      }
      last = i;
      if (cells.a[i] < low) low = cells.a[i];
      if (cells.a[i] > high) high = cells.a[i];
    }
    if (low > high) return true;
    writeReach(map, low, high, cells.b[from], all, shares);
    writeWindow(map, shares, window);
    return isWhole(window);
  };
  const found: number[] = [];
  const look = (from: number, to: number) => {
    if (to - from > ALONE) {
      if (areWhole(from, to)) return;
      const middle = (from + to) >> 1;
      look(from, middle);
      look(middle, to);
    } else
      for (let i = from; i < to; i++) {
        const box = lie(i);
        if (box && straddles(i, box)) found.push(out.slot[i]);
      }
  };
  for (let from = 0, to = 0; from < out.count; from = to) {
    while (to < out.count && to - from < TOGETHER && cells.b[to] === cells.b[from]) to++;
    look(from, to);
  }
  return found;
}

/** So many neighbours are looked at together first, then half of them, and so few each by itself. */
const TOGETHER = 32;
const ALONE = 2;

/** Whether two rows are of the same prop, in the same size. */
const isAsLarge = ({ prop, scale }: Placements, i: number, j: number): boolean =>
  prop[i] === prop[j] && scale[i * 3] === scale[j * 3] && scale[i * 3 + 2] === scale[j * 3 + 2];

/** A little drawn in: what just touches a border does not lie over it. */
const DRAWN_IN = 0.98;

/** Writes where the middle cross of an item ends on the layout: to its left and right, down and up, metres from its foot. */
function writeEnds({ min, max }: Bounds, scale: Float64Array, row: number, out: Float64Array): void {
  const wide = scale[row * 3] * DRAWN_IN;
  const long = scale[row * 3 + 2] * DRAWN_IN;
  // A prop's X is left.
  out[0] = -max[0] * wide;
  out[1] = -min[0] * wide;
  out[2] = min[2] * long;
  out[3] = max[2] * long;
}

const place = new Float64Array(2);

/** Writes the shares (two a place) of an item's foot and of the ends of its middle cross. */
function writeCross(
  map: SheetMap,
  a: number,
  b: number,
  ends: Float64Array,
  turnDeg: number,
  out: Float64Array,
): void {
  const left = ends[0];
  const right = ends[1];
  const down = ends[2];
  const up = ends[3];
  const c = turnDeg === 0 ? 1 : cos(turnDeg * DEG);
  const s = turnDeg === 0 ? 0 : sin(turnDeg * DEG);
  out[0] = a;
  out[1] = b;
  writeMoved(map, a, b, left * c, left * s, out, 2);
  writeMoved(map, a, b, right * c, right * s, out, 4);
  writeMoved(map, a, b, -down * s, down * c, out, 6);
  writeMoved(map, a, b, -up * s, up * c, out, 8);
}

/** Writes the shares of a place so many metres from another one. */
function writeMoved(
  map: SheetMap,
  a: number,
  b: number,
  dx: number,
  dy: number,
  out: Float64Array,
  o: number,
): void {
  map.moved(a, b, dx, dy, place);
  out[o] = place[0];
  out[o + 1] = place[1];
}

/** The same of all items of a row from one share across to another, no one of which reaches further. */
function writeReach(
  map: SheetMap,
  low: number,
  high: number,
  b: number,
  ends: Float64Array,
  out: Float64Array,
): void {
  map.moved(low, b, ends[0], 0, place);
  out[0] = out[2] = out[6] = place[0];
  map.moved(high, b, ends[1], 0, place);
  out[4] = out[8] = place[0];
  out[1] = out[3] = out[5] = b;
  map.moved(low, b, 0, ends[2], place);
  out[7] = place[1];
  map.moved(high, b, 0, ends[3], place);
  out[9] = place[1];
}

/** Two opposite corners of a window, written over by each that is asked for. */
const opposite = new Float64Array(4);

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
  map.uv(a0, b0, opposite, 0);
  map.uv(a1, b1, opposite, 2);
  out[0] = Math.min(opposite[0], opposite[2]);
  out[1] = Math.max(opposite[0], opposite[2]);
  out[2] = Math.min(opposite[1], opposite[3]);
  out[3] = Math.max(opposite[1], opposite[3]);
}
