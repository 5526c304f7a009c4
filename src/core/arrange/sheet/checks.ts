import { STATE, type Placements } from '../../evaluate/result';
import type { Bounds } from '../../mesh/mesh';
import { uvIndex } from '../../mesh/chart/uvIndex';
import { faceNormal, type Solid } from '../../mesh/solid';
import { DEG } from '../../math/quat';
import { cos } from '../../math/portable';
import { dot } from '../../math/vec3';
import type { Cell } from './cells';
import type { SheetGround, SurfaceChart } from './chartOf';
import type { Say } from './evaluate';
import type { SheetMap } from './map';
import type { Sheet } from './schema';

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
  sheet: Sheet,
  map: SheetMap,
  cells: Cell[],
  out: Placements,
  bounds: (Bounds | undefined)[],
  ground: SheetGround,
  distortion: Float32Array,
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
    if (area > STRETCHED || area < 1 / STRETCHED || off > ASKEW) stretched.push(out.slot[i]);
  }
  for (const prop of large) say('sheet-larger', { prop: out.props[prop] }, 'warning');
  if (stretched.length > 0 && sheet.facing.bend)
    say('sheet-stretched', { count: stretched.length, area: STRETCHED, angle: ASKEW }, 'warning', stretched);
  const over = straddlers(map, cells, out, bounds, ground);
  if (over.length > 0) say('sheet-straddles', { count: over.length, angle: SHARP }, 'warning', over);
}

const sharp = new WeakMap<Float32Array | Uint32Array, boolean>();

/** Whether a surface has corners, or more islands than one, that an item may lie across. */
function mayStraddle(rest: Solid): boolean {
  const key = rest.uvs ?? rest.indices;
  let have = sharp.get(key);
  if (have === undefined) {
    const islands = rest.uvs ? uvIndex(rest as Solid & { uvs: Float32Array }).islands.length : 1;
    sharp.set(key, (have = islands > 1 || hasCorners(rest)));
  }
  return have;
}

function hasCorners(rest: Solid): boolean {
  const { faces } = rest.topology();
  const limit = cos(SHARP * DEG);
  for (let e = 0; e < faces.length; e += 2)
    if (faces[e + 1] >= 0 && dot(faceNormal(rest, faces[e]), faceNormal(rest, faces[e + 1])) < limit)
      return true;
  return false;
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
  const corners = mayStraddle(rest);
  const share = new Float64Array(2);
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
  const found: number[] = [];
  for (let i = 0; i < out.count; i++) {
    const box = out.state[i] === STATE.placed ? bounds[out.prop[i]] : undefined;
    if (!box) continue;
    const { a, b } = cells[i];
    // Its middle cross, a little drawn in: what just touches a border does not lie over it.
    const reach = [box.min[0], box.max[0], box.min[2], box.max[2]].map(
      (m, k) => m * 0.98 * Math.abs(out.scale[i * 3 + (k < 2 ? 0 : 2)]),
    );
    if (!corners && insideRow(map, a, b, reach)) continue;
    const foot = faceAt(a, b);
    const n = foot < 0 ? null : faceNormal(now, foot);
    const over = [
      [-reach[0], 0],
      [-reach[1], 0],
      [0, reach[2]],
      [0, reach[3]],
    ].some(([dx, dy]) => {
      map.moved(a, b, dx, dy, share);
      const face = faceAt(share[0], share[1]);
      return face < 0 || (n !== null && corners && dot(n, faceNormal(now, face)) < limit);
    });
    if (over) found.push(out.slot[i]);
  }
  return found;
}

/** Whether an item is well inside an open border, without looking at the surface. */
function insideRow(map: SheetMap, a: number, b: number, [x0, x1, z0, z1]: number[]): boolean {
  const rise = map.rise(b);
  const up = map.closedUp || (b + z0 * rise > 1e-6 && b + z1 * rise < 1 - 1e-6);
  if (!up || map.closedAcross) return up;
  const row = map.row(b);
  const x = row.distance(a);
  return x - x1 > 1e-6 * row.width && x - x0 < row.width * (1 - 1e-6);
}
