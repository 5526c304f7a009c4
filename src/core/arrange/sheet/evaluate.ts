import { allocatePlacements, NO_FACTS, STATE, type Finding, type ArrangementResult } from '../result';
import type { Vec3 } from '../../math/vec3';
import type { Bounds } from '../../mesh/mesh';
import type { ArrangeContext } from '../context';
import { boundsOf, sayInto } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import type { Sites } from '../sites';
import { swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround } from '../steps/keepOuts';
import type { KeepsOut } from '../steps/keepsOut';
import { orderSlots, type OrderRow } from '../steps/order';
import { allEntries, propsOfOrder } from '../steps/schema';
import { whichBend, type Bends } from '../steps/whichBend';
import { sheetBender, type SheetBender } from './bend';
import { copiedCells, newCells, type Cells } from './cells';
import { frameMoved } from './chartOf';
import { checkSheet, uvFindings } from './checks';
import { distortionAt } from './distort';
import { laidOut } from './laidOut';
import { layoutOf } from './layout';
import { flatLines } from './lines';
import { newAt, type SheetMap } from './map';
import { itemSlot, propsOf, type Sheet } from './schema';

/**
 * Works a sheet out: the grid and the free items on the flat layout, laid over the surface.
 * Nothing throws for what the schema admits: what cannot be done is a finding.
 */
export function evaluateSheet(sheet: Sheet, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, sheet.id);
  const ids = propsOf(sheet);
  const bounds = boundsOf(ids, context, say);
  const none = (): ArrangementResult => ({
    placements: allocatePlacements(0, ids),
    findings,
    facts: NO_FACTS,
    parts: [],
  });
  const ground = context.surfaceStates?.(sheet.surface);
  if (!ground) {
    say('surface-missing', { surface: sheet.surface });
    return none();
  }
  const laid = laidOut(sheet, ground, footprint(sheet, bounds));
  if (typeof laid === 'string') {
    say(laid, { surface: sheet.surface, count: 1 });
    return none();
  }
  const { map, match, cells } = laid;
  const moved = frameMoved(sheet, ground);
  if (moved !== null) say('pin-found', { surface: sheet.surface, count: 0, distance: moved }, 'warning');
  if (sheet.over.kind === 'uv') uvFindings(sheet.surface, ground.rest, say);
  if (map.empty) {
    say('sheet-no-extent', { surface: sheet.surface });
    return none();
  }
  if (typeof cells === 'string') say(cells, { limit: 500_000 });
  const grid = typeof cells === 'string' ? newCells(0) : cells;
  if (ids.length === 0 && sheet.curves.length === 0) say('no-props', {});
  const all = withFree(sheet, grid, map);
  const order = orderSlots(sheet.order, orderRow(sheet, grid), sheet.seed, ids);
  if (sheet.grid.on && order.empty && propsOfOrder(sheet.order).length > 0) say('order-empty', {});
  const laying = placing(sheet, map, ids, bounds, context, all.count);
  const around = keepOutsAround(sheet, context, (kind, detail) => say(kind, detail, 'warning'));
  const { placements: out, findings: others } = settle(
    {
      ...sheet,
      posing: { ...AS_IT_LIES, ...posingOf(sheet) },
      gaps: wholeGaps(sheet.gaps),
    },
    [sitesOf(sheet, all, grid.count, order.prop, laying, around)],
    { ids, bounds },
    context,
    say,
  );
  findings.push(...others);
  const missed = out.state.filter((state) => state === STATE.missed).length;
  if (missed > 0) say('sheet-missed', { count: missed }, 'warning');
  checkSheet(map, all, out, bounds, ground, laying, say);
  return {
    placements: out,
    findings,
    facts: NO_FACTS,
    parts: [],
    sheet: { ...layoutOf(map, match, all, out, laying.distortion), lines: linesOf(sheet, grid) },
  };
}

const posingOf = ({ facing: { alternate, lift, turnDeg, tipDeg, rollDeg, size } }: Sheet) => ({
  alternate,
  lift,
  turnDeg,
  tipDeg,
  rollDeg,
  size,
});

/** The lines of its pattern as its flat view shows them. */
function linesOf({ curves, repeat }: Sheet, grid: Cells): Float64Array[] {
  return flatLines(curves, repeat && grid.count > 0 ? [grid.width[0], grid.height[0]] : [1, 1]);
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

/** The places of the grid, and those of free items behind them: of no row. */
function withFree(sheet: Sheet, grid: Cells, map: SheetMap): Cells {
  const all = copiedCells(grid, grid.count + sheet.items.length);
  sheet.items.forEach((item, k) => {
    const i = grid.count + k;
    const [x, y] = item.at;
    const b = map.up(y);
    const row = map.row(b);
    all.slot[i] = itemSlot(item.id);
    all.row[i] = all.column[i] = -1;
    all.a[i] = row.share(x - row.start);
    all.b[i] = b;
    all.x[i] = x;
    all.y[i] = y;
  });
  return all;
}

/** What props are laid with, and what is kept of how they came to lie. */
interface Laying {
  map: SheetMap;
  ids: string[];
  bends: Bends | null;
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
  count: number,
): Laying {
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
    distortion: new Float32Array(count * 2),
    turn: new Float32Array(count),
  };
}

/**
 * The places of the layout on the surface: those of the grid, then the free ones. Where each comes to on the surface is
 * asked for once, when it is known how far it is moved on the layout.
 */
function sitesOf(
  sheet: Sheet,
  all: Cells,
  grid: number,
  ordered: Int32Array,
  { map, ids, bends, bender, distortion, turn }: Laying,
  around: readonly KeepsOut[],
): Sites {
  const n = all.count;
  const slot = all.slot.slice();
  const prop = new Int32Array(n);
  const s = all.x.slice();
  const before = new Uint8Array(n);
  const lines: number[] = [];
  for (let i = 0; i < n; i++) {
    prop[i] = i < grid ? ordered[i] : ids.indexOf(sheet.items[i - grid].prop);
    before[i] = all.skipped[i] ? STATE.skipped : STATE.placed;
    if (i === 0 || all.row[i] !== all.row[i - 1]) lines.push(i);
  }
  swapByHand(sheet.hand, slot, prop, ids);
  const at = newAt();
  const share = new Float64Array(2);
  const front: Vec3 = [0, 0, 1];
  const lies = (a: number, b: number) => {
    share[0] = a;
    share[1] = b;
    return !isOff(map, a, b) && map.at(a, b, at);
  };
  const none = new Float64Array(0);
  return {
    slot,
    prop,
    s,
    position: none,
    front: none,
    up: none,
    outward: 1,
    lean: () => 1,
    size: (i) => (i < grid ? 1 : sheet.items[i - grid].size),
    turn: (i) => (i < grid ? 0 : sheet.items[i - grid].turnDeg),
    fixed: (i) => i >= grid,
    odd: (i) => (all.row[i] + all.column[i]) % 2 === 1,
    before,
    lines,
    around: map.closedAcross && sheet.grid.left === 0 && sheet.grid.right === 0,
    keptOut:
      around.length === 0
        ? null
        : (i) => lies(all.a[i], all.b[i]) && around.some((test) => test([at[0], at[1], at[2]], slot[i])),
    asks: true,
    moved(i, dy, dx, out) {
      if (dx !== 0 || dy !== 0) {
        map.moved(all.a[i], all.b[i], dx, dy, share);
        all.a[i] = share[0];
        all.b[i] = share[1];
        all.x[i] += dx;
        all.y[i] += dy;
      }
      if (!lies(all.a[i], all.b[i]) || !writeFront(at, front)) return 'off';
      for (let r = 0; r < 3; r++) {
        out.position[r] = at[r];
        out.up[r] = at[3 + r];
        out.front[r] = front[r];
      }
      return true;
    },
    settled({ i, row, locked, lift, turnDeg }, out) {
      out.s[row] = all.x[i];
      turn[i] = turnDeg;
      // Where it came to was just asked for, except of what is locked.
      if (locked && !lies(all.a[i], all.b[i])) return;
      distortionAt(map, share[1], at, distortion, i);
      if (locked || out.state[row] !== STATE.placed || !bends?.(all.slot[i], prop[i])) return;
      if (writeFront(at, front)) bender?.bend(share[0], share[1], at, front, lift, out, row);
    },
  };
}

/** What the order goes by: corners are those of the grid, and zones its rows, counted from 1. */
function orderRow(sheet: Sheet, { count, slot, row, column }: Cells): OrderRow {
  const rows = new Map<number, [first: number, last: number]>();
  let last: [number, number] | undefined;
  for (let i = 0; i < count; i++) {
    // Mostly they come row by row.
    const ends = i > 0 && row[i - 1] === row[i] ? last : rows.get(row[i]);
    if (!ends) rows.set(row[i], (last = [i, i]));
    else {
      last = ends;
      if (column[i] < column[ends[0]]) ends[0] = i;
      if (column[i] > column[ends[1]]) ends[1] = i;
    }
  }
  const ends = [Math.min(...rows.keys()), Math.max(...rows.keys())];
  const zoned = allEntries(sheet.order.entries).some((e) => e.zones.length > 0);
  return {
    ids: slot,
    corners: new Set(ends.flatMap((at) => rows.get(at) ?? [])),
    ...(zoned && { zones: Array.from(row, (r) => r + 1) }),
  };
}

/** Beyond an open border, with no surface that goes on there. */
const isOff = (map: SheetMap, a: number, b: number): boolean =>
  ((!map.closedAcross && (a < 0 || a > 1)) || (!map.closedUp && (b < 0 || b > 1))) && !map.lies(a, b);

/** Writes the way up the sheet, square to the normal. @returns false at a pole where there is none */
function writeFront(at: Float64Array, out: Vec3): boolean {
  const k = at[9] * at[3] + at[10] * at[4] + at[11] * at[5];
  if (writeUnit(at[9] - at[3] * k, at[10] - at[4] * k, at[11] - at[5] * k, out)) return true;
  // Where rows shrink to a place there is still a way across.
  const [x, y, z] = [at[6], at[7], at[8]];
  return writeUnit(at[4] * z - at[5] * y, at[5] * x - at[3] * z, at[3] * y - at[4] * x, out);
}

function writeUnit(x: number, y: number, z: number, out: Vec3): boolean {
  const l = Math.sqrt(x * x + y * y + z * z);
  if (!(l > 1e-12)) return false;
  out[0] = x / l;
  out[1] = y / l;
  out[2] = z / l;
  return true;
}
