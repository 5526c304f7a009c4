import {
  allocatePlacements,
  NO_FACTS,
  STATE,
  type Finding,
  type Placements,
  type RunResult,
} from '../result';
import { writeQuatFromUpFront } from '../../math/quat';
import { channel, random01 } from '../../math/random';
import type { Vec3 } from '../../math/vec3';
import type { Bounds } from '../../mesh/mesh';
import type { ArrangeContext } from '../context';
import { boundsOf, sayInto, type Say } from '../say';
import { parseSlotName } from '../slotId';
import { turnTipRoll } from '../steps/facing';
import { decidedByHand } from '../steps/gaps';
import { orderSlots, type OrderRow } from '../steps/order';
import { allEntries, propsOfOrder } from '../steps/schema';
import { whichBend, type Bends } from '../steps/whichBend';
import { tintsOf, unvaried, VARIED, varier } from '../steps/variation';
import { sheetBender, type SheetBender } from './bend';
import { cellsOf, type Cell } from './cells';
import { chartOf } from './chartOf';
import { checkSheet, uvFindings } from './checks';
import { distortionAt } from './distort';
import { guessMatch } from './guess';
import { layoutOf } from './layout';
import { flatLines } from './lines';
import { newAt, sheetMap, type SheetMap } from './map';
import { itemSlot, propsOf, type Sheet } from './schema';

const CHANCE = channel('gaps.chance');
/**
 * Works a sheet out: the grid and the free items on the flat layout, laid over the surface.
 * Nothing throws for what the schema admits: what cannot be done is a finding.
 */
export function evaluateSheet(sheet: Sheet, context: ArrangeContext): RunResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, sheet.id);
  const ids = propsOf(sheet);
  const bounds = boundsOf(ids, context, say);
  const none = (): RunResult => ({
    placements: allocatePlacements(0, ids),
    findings,
    facts: NO_FACTS,
    parts: [],
  });
  const ground = context.sheetGround?.(sheet.surface);
  if (!ground) {
    say('surface-missing', { surface: sheet.surface });
    return none();
  }
  const chart = chartOf(sheet, ground);
  if (typeof chart === 'string') {
    say(chart, { surface: sheet.surface, count: 1 });
    return none();
  }
  if (sheet.over.kind === 'uv') uvFindings(sheet.surface, ground.rest, say);
  const match = sheet.match.guess ? guessMatch(chart) : sheet.match;
  const map = sheetMap(chart, { ...sheet, match });
  if (map.empty) {
    say('sheet-no-extent', { surface: sheet.surface });
    return none();
  }
  const cells = cellsOf(sheet.grid, map, footprint(sheet, bounds));
  if (typeof cells === 'string') say(cells, { limit: 500_000 });
  const grid = typeof cells === 'string' ? [] : cells;
  if (ids.length === 0 && sheet.curves.length === 0) say('no-props', {});
  const all = [...grid, ...freeCells(sheet, map)];
  const out = allocatePlacements(all.length, ids);
  const work = placing(sheet, map, ids, bounds, context);
  fill(sheet, all, grid.length, out, work, say);
  const tint = tintsOf(sheet.variation, sheet.seed, out.slot);
  if (tint) out.tint = tint;
  checkSheet(map, all, out, bounds, ground, work, say);
  return {
    placements: out,
    findings,
    facts: NO_FACTS,
    parts: [],
    sheet: { ...layoutOf(map, match, all, out, work.distortion), lines: linesOf(sheet, grid) },
  };
}

/** The lines of its pattern as its flat view shows them. */
function linesOf({ curves, repeat }: Sheet, grid: Cell[]): Float64Array[] {
  const cell = repeat ? grid[0] : undefined;
  return flatLines(curves, cell ? [cell.width, cell.height] : [1, 1]);
}

/** Layout metres that the widest and the longest prop of the order take. @param bounds of {@link propsOf} */
export function footprint(sheet: Sheet, bounds: (Bounds | undefined)[]): [number, number] {
  const ordered = propsOfOrder(sheet.order).length;
  let [wide, long] = [0, 0];
  const quarter = Math.round(sheet.facing.turnDeg / 90) % 2 !== 0;
  for (const b of bounds.slice(0, ordered)) {
    if (!b) continue;
    const [x, z] = [b.max[0] - b.min[0], b.max[2] - b.min[2]];
    wide = Math.max(wide, quarter ? z : x);
    long = Math.max(long, quarter ? x : z);
  }
  const k = sheet.facing.size;
  return [wide * k > 1e-4 ? wide * k : 0.5, long * k > 1e-4 ? long * k : 0.5];
}

/** The places of free items. */
function freeCells(sheet: Sheet, map: SheetMap): Cell[] {
  return sheet.items.map((item) => {
    const [x, y] = item.at;
    const b = map.up(y);
    const row = map.row(b);
    return {
      slot: itemSlot(item.id),
      row: -1,
      column: -1,
      a: row.share(x - row.start),
      b,
      x,
      y,
      width: 0,
      height: 0,
      skipped: false,
    };
  });
}

interface Placing {
  bends: Bends | null;
  map: SheetMap;
  ids: string[];
  bender: SheetBender | null;
  distortion: Float32Array;
  /** Degrees that each item is turned about the normal, from up the sheet to its left. */
  turn: Float32Array;
}

function placing(
  sheet: Sheet,
  map: SheetMap,
  ids: string[],
  bounds: (Bounds | undefined)[],
  context: ArrangeContext,
): Placing {
  const meshes = ids.map((id) => {
    const facts = context.prop(id);
    return facts?.state === 'ready' ? facts.mesh?.() : undefined;
  });
  const bends = whichBend(sheet.facing, sheet.hand, ids);
  return {
    map,
    ids,
    bends,
    bender: bends ? sheetBender(map, sheet.facing, meshes, bounds, context.fine?.of(sheet.id)) : null,
    distortion: new Float32Array(0),
    turn: new Float32Array(0),
  };
}

/** Which prop, whether there is one, where and how it is turned, for every place. */
function fill(sheet: Sheet, all: Cell[], grid: number, out: Placements, work: Placing, say: Say): void {
  const { map, ids } = work;
  const ordered = orderSlots(sheet.order, orderRow(sheet, all.slice(0, grid)), sheet.seed, ids);
  if (sheet.grid.on && ordered.empty && propsOfOrder(sheet.order).length > 0) say('order-empty', {});
  const decided = decidedByHand(sheet.hand);
  const hand = new Map(Object.entries(sheet.hand).map(([name, h]) => [parseSlotName(name), h]));
  const varies = varier(sheet.variation, sheet.seed, ids);
  const v = unvaried();
  const { facing } = sheet;
  const at = newAt();
  const share = new Float64Array(2);
  work.distortion = new Float32Array(all.length * 2);
  work.turn = new Float32Array(all.length);
  let missed = 0;
  all.forEach((cell, i) => {
    const item = i >= grid ? sheet.items[i - grid] : null;
    const own = hand.size > 0 ? hand.get(cell.slot) : undefined;
    const swapped = own?.prop !== undefined ? ids.indexOf(own.prop) : -1;
    const prop = swapped >= 0 ? swapped : item ? ids.indexOf(item.prop) : ordered.prop[i];
    out.slot[i] = cell.slot;
    out.prop[i] = prop;
    out.state[i] = stateOf(sheet, cell, prop, item !== null, decided);
    if (varies) varies.vary(cell.slot, prop, v);
    const dx = v[VARIED.side] + (own?.side ?? 0);
    const dy = v[VARIED.along] + (own?.along ?? 0);
    share[0] = cell.a;
    share[1] = cell.b;
    if (dx !== 0 || dy !== 0) {
      map.moved(cell.a, cell.b, dx, dy, share);
      [cell.a, cell.b] = share;
      cell.x += dx;
      cell.y += dy;
    }
    const size = facing.size * (item?.size ?? 1) * v[VARIED.size] * (own?.size ?? 1);
    const odd = (cell.row + cell.column) % 2 === 1;
    const mirrored = (facing.alternate === 'mirror' && odd) !== v[VARIED.mirrored] > 0;
    out.scale[i * 3] = size * v[VARIED.sizeX] * (mirrored ? -1 : 1);
    out.scale[i * 3 + 1] = size * v[VARIED.sizeY];
    out.scale[i * 3 + 2] = size * v[VARIED.sizeZ];
    out.s[i] = cell.x;
    out.rotation[i * 4 + 3] = 1;
    const off = isOff(map, share) || !map.at(share[0], share[1], at);
    if (off) {
      if (out.state[i] === STATE.placed) missed++;
      out.state[i] = out.state[i] === STATE.placed ? STATE.missed : out.state[i];
      return;
    }
    const front = frontOf(at);
    if (!front) return;
    const lift = facing.lift + v[VARIED.lift] + (own?.lift ?? 0);
    for (let r = 0; r < 3; r++) out.position[i * 3 + r] = at[r] + at[3 + r] * lift;
    writeQuatFromUpFront(out.rotation, i * 4, at[3], at[4], at[5], front[0], front[1], front[2]);
    const turned = facing.alternate === 'turn' && odd ? 180 : 0;
    const turnDeg = facing.turnDeg + turned;
    const byHand = (own?.turnDeg ?? 0) + (item?.turnDeg ?? 0);
    turnTipRoll(out.rotation, i * 4, turnDeg, facing.tipDeg, facing.rollDeg);
    if (varies) turnTipRoll(out.rotation, i * 4, v[VARIED.turnDeg], v[VARIED.tipDeg], v[VARIED.rollDeg]);
    work.turn[i] = turnDeg + v[VARIED.turnDeg] + byHand;
    if (byHand !== 0) turnTipRoll(out.rotation, i * 4, byHand, 0, 0);
    distortionAt(map, share[1], at, work.distortion, i);
    if (work.bends?.(cell.slot, prop) && out.state[i] === STATE.placed)
      work.bender?.bend(share[0], share[1], at, front, lift, out, i);
  });
  if (missed > 0) say('sheet-missed', { count: missed }, 'warning');
}

/** What the order goes by: corners are those of the grid, and zones its rows, counted from 1. */
function orderRow(sheet: Sheet, cells: Cell[]): OrderRow {
  const rows = new Map<number, [first: number, last: number]>();
  cells.forEach((c, i) => {
    const ends = rows.get(c.row);
    if (!ends) rows.set(c.row, [i, i]);
    else {
      if (c.column < cells[ends[0]].column) ends[0] = i;
      if (c.column > cells[ends[1]].column) ends[1] = i;
    }
  });
  const ends = [Math.min(...rows.keys()), Math.max(...rows.keys())];
  const zoned = allEntries(sheet.order.entries).some((e) => e.zones.length > 0);
  return {
    ids: cells.map((c) => c.slot),
    corners: new Set(ends.flatMap((row) => rows.get(row) ?? [])),
    ...(zoned && { zones: cells.map((c) => c.row + 1) }),
  };
}

function stateOf(
  sheet: Sheet,
  cell: Cell,
  prop: number,
  free: boolean,
  decided: Map<number, boolean>,
): number {
  const hand = decided.get(cell.slot);
  if (hand) return STATE.hand;
  if (prop < 0) return STATE.rest;
  if (hand === false || free) return STATE.placed;
  if (cell.skipped) return STATE.skipped;
  const { chance } = sheet.grid;
  return chance > 0 && random01(sheet.seed, cell.slot, CHANCE) < chance ? STATE.chance : STATE.placed;
}

/** Beyond an open border, with no surface that goes on there. */
const isOff = (map: SheetMap, [a, b]: Float64Array): boolean =>
  ((!map.closedAcross && (a < 0 || a > 1)) || (!map.closedUp && (b < 0 || b > 1))) && !map.lies(a, b);

/** Up the sheet, square to the normal; null at a pole where there is none. */
function frontOf(at: Float64Array): Vec3 | null {
  const k = at[9] * at[3] + at[10] * at[4] + at[11] * at[5];
  const f: Vec3 = [at[9] - at[3] * k, at[10] - at[4] * k, at[11] - at[5] * k];
  const l = Math.sqrt(f[0] * f[0] + f[1] * f[1] + f[2] * f[2]);
  if (l > 1e-12) return [f[0] / l, f[1] / l, f[2] / l];
  // Where rows shrink to a place there is still a way across.
  const x: Vec3 = [at[6], at[7], at[8]];
  const g: Vec3 = [at[4] * x[2] - at[5] * x[1], at[5] * x[0] - at[3] * x[2], at[3] * x[1] - at[4] * x[0]];
  const m = Math.sqrt(g[0] * g[0] + g[1] * g[1] + g[2] * g[2]);
  return m > 1e-12 ? [g[0] / m, g[1] / m, g[2] / m] : null;
}
