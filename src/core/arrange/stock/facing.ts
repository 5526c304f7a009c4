import { channel, random01 } from '../../math/random';
import { blockId, MOST_IN_BLOCK } from '../slotId';
import type { FacingMasks, Measurer } from './measure';
import type { FacingByHand, Stock } from './schema';

const DEEP = channel('stock.deep');
const HIGH = channel('stock.high');

/** Rows that grow: one entry, or six, a prop. */
export class Rows {
  count = 0;
  slot = new Float64Array(1024);
  prop = new Int32Array(1024);
  /** Its foot in its facing: up from the board, and out from the front line. */
  y = new Float64Array(1024);
  z = new Float64Array(1024);
  /** Its box about its foot, as {@link Measurer} tells it. */
  box = new Float64Array(6 * 1024);

  push(slot: number, prop: number, y: number, box: Float64Array): void {
    const i = this.count++;
    if (i === this.slot.length) this.grow();
    this.slot[i] = slot;
    this.prop[i] = prop;
    this.y[i] = y;
    for (let k = 0; k < 6; k++) this.box[i * 6 + k] = box[k];
  }

  private grow(): void {
    const grown = <A extends Float64Array | Int32Array>(was: A, made: A): A => (made.set(was), made);
    this.slot = grown(this.slot, new Float64Array(this.slot.length * 2));
    this.prop = grown(this.prop, new Int32Array(this.prop.length * 2));
    this.y = grown(this.y, new Float64Array(this.y.length * 2));
    this.z = grown(this.z, new Float64Array(this.z.length * 2));
    this.box = grown(this.box, new Float64Array(this.box.length * 2));
  }
}

/** Why a facing of a prop cannot be. */
export type TooLarge = 'deep' | 'high' | 'wide';

/** One facing as it is built: its rows, and the room that it takes about its middle line. */
export interface Built {
  prop: number;
  start: number;
  end: number;
  /** Along the edge, about its own foot line. */
  x0: number;
  x1: number;
  /** Metres behind the front line to its very back. */
  back: number;
  deep: number;
  high: number;
}

interface Where {
  part: number;
  board: number;
  /** From 1. */
  across: number;
  depth: number;
  height: number;
  masks: FacingMasks | null;
  byHand: FacingByHand | undefined;
}

/** What the loops over the rows of a facing share; written over by the next one. */
const row = { z0: 0, z1: 0, refused: null as TooLarge | null };
/** For each row of the facing, the row after its last, and its back. */
let rowEnds: number[] = [];
let rowBacks: number[] = [];

const between = ([a, b]: readonly [number, number], share: number): number => {
  const [low, high] = [Math.min(a, b), Math.max(a, b)];
  return low === high ? low : Math.min(high, low + Math.floor(share * (high - low + 1)));
};
const betweenShares = ([a, b]: readonly [number, number], share: number): number =>
  Math.min(a, b) + Math.abs(b - a) * share;

/**
 * Builds one facing: rows behind each other as deep as is asked for and fits, each stacked as high as is asked for and
 * fits. Every row and stack draws by itself.
 * @returns why it cannot be, if not even one fits; `rows` is then as it was
 */
export function buildFacing(
  stock: Stock,
  props: readonly string[],
  prop: number,
  where: Where,
  measure: Measurer,
  rows: Rows,
): Built | TooLarge {
  const { filling, onShelf, seed } = stock;
  const { part, board, across, depth, masks, byHand } = where;
  const own = onShelf[props[prop]] ?? NOTHING;
  const clear = where.height - filling.airAbove - (own.above ?? 0);
  const start = rows.count;
  const facing = blockId(across, 0, 0, part, board);
  const draws = filling.deepBy !== 'fit' && byHand?.deep === undefined;
  const draw = draws ? random01(seed, facing, DEEP) : 0;
  const asked = byHand?.deep ?? (filling.deepBy === 'count' ? between(filling.deep, draw) : Infinity);
  const most = Math.min(MOST_IN_BLOCK.deep, own.deep ?? Infinity, asked);
  rowEnds = [];
  rowBacks = [];
  row.refused = null;
  let front = 0;
  for (let r = 1; rowEnds.length < most && r <= MOST_IN_BLOCK.deep; r++) {
    const first = rows.count;
    const stack = blockId(across, r, 0, part, board);
    buildStack(stock, own, stack, prop, { clear, depth: depth + front, masks, byHand }, measure, rows);
    if (rows.count === first) {
      if (row.refused !== 'high' || measure.alike || r > rowEnds.length + TRIES) break;
      continue;
    }
    const foot = front - row.z1;
    for (let i = first; i < rows.count; i++) rows.z[i] = foot;
    front -= row.z1 - row.z0;
    rowEnds.push(rows.count);
    rowBacks.push(-front);
    front -= filling.airBehind;
  }
  let deep = rowEnds.length;
  if (deep === 0) return row.refused ?? 'deep';
  if (filling.deepBy === 'share' && draws)
    deep = Math.min(deep, Math.max(1, Math.round(deep * betweenShares(filling.deepShare, draw))));
  rows.count = rowEnds[deep - 1];
  let back = rowBacks[deep - 1];
  const left = depth - back;
  const move = filling.align === 'front' ? 0 : filling.align === 'back' ? left : left / 2;
  if (move > 0) {
    for (let i = start; i < rows.count; i++) rows.z[i] -= move;
    back += move;
  }
  return { prop, start, end: rows.count, ...widthOf(rows, start), back, deep, high: highest(start, deep) };
}

const NOTHING: Stock['onShelf'][string] = {};

/** The highest of so many stacks. */
function highest(start: number, deep: number): number {
  let high = 0;
  for (let k = 0; k < deep; k++) high = Math.max(high, rowEnds[k] - (k === 0 ? start : rowEnds[k - 1]));
  return high;
}

/** What rows from `start` on take along the edge, about their foot line. */
function widthOf({ box, count }: Rows, start: number): { x0: number; x1: number } {
  let [x0, x1] = [Infinity, -Infinity];
  for (let o = start * 6; o < count * 6; o += 6) {
    if (box[o] < x0) x0 = box[o];
    if (box[o + 1] > x1) x1 = box[o + 1];
  }
  return { x0, x1 };
}

/** So many rows may fail by their own draw before a facing ends. */
const TRIES = 8;

/**
 * Stacks one row as high as is asked for and fits, and tells its extent in the depth in `row`; why nothing of it fits
 * too.
 * @param slot id of the place under its lowest @param room what is left for it
 */
function buildStack(
  { filling, seed }: Stock,
  own: Stock['onShelf'][string],
  slot: number,
  prop: number,
  room: { clear: number; depth: number; masks: FacingMasks | null; byHand: FacingByHand | undefined },
  measure: Measurer,
  rows: Rows,
): void {
  const { clear, depth, masks, byHand } = room;
  const first = rows.count;
  const { highBy } = filling;
  const draws = highBy !== 'fit' && byHand?.high === undefined;
  const draw = draws ? random01(seed, slot, HIGH) : 0;
  const asked = byHand?.high ?? (highBy === 'count' ? between(filling.high, draw) : null);
  // With nothing above there is no telling how many fit.
  const fits = clear === Infinity ? 1 : MOST_IN_BLOCK.high;
  const most = Math.min(own.stack === false ? 1 : (own.high ?? Infinity), asked ?? fits, MOST_IN_BLOCK.high);
  let top = 0;
  let [z0, z1] = [Infinity, -Infinity];
  for (let h = 1; h <= most; h++) {
    // Ids go down with the height.
    const box = measure.of(slot - h, prop, masks);
    const tall = box[3] - box[2];
    const [a, b] = [Math.min(z0, box[4]), Math.max(z1, box[5])];
    const high = top + tall > clear + HAIR;
    // What would make its row too deep for what is left is not put on it.
    if (high || b - a > depth + HAIR) {
      if (h === 1) row.refused ??= high ? 'high' : 'deep';
      break;
    }
    z0 = a;
    z1 = b;
    rows.push(slot - h, prop, top - box[2], box);
    top += tall;
  }
  if (draws && highBy === 'share' && rows.count > first + 1) {
    const share = betweenShares(filling.highShare, draw);
    rows.count = first + Math.max(1, Math.round(share * (rows.count - first)));
    [z0, z1] = [Infinity, -Infinity];
    for (let o = first * 6; o < rows.count * 6; o += 6) {
      z0 = Math.min(z0, rows.box[o + 4]);
      z1 = Math.max(z1, rows.box[o + 5]);
    }
  }
  row.z0 = z0;
  row.z1 = z1;
}

/** What sums of many sizes may be off. */
const HAIR = 1e-9;
