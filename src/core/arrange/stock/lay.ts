import { hypot } from '../../math/portable';
import { blockId, MOST_IN_BLOCK, slotId, slotName } from '../slotId';
import type { SpecialItem } from '../steps/schema';
import { apart, groundOf, type Ground } from './apart';
import type { Edge, EdgeFrame } from './edge';
import { buildFacing, type Built, type Rows, type TooLarge } from './facing';
import type { FacingMasks, Measurer } from './measure';
import { sequence } from './sequence';
import type { Stock } from './schema';
import type { Filled } from './shelves';

/** A facing where it stands. */
export interface Facing extends Built {
  /** Its number on its board, from 1, and its name in the document. */
  across: number;
  name: string;
  /** Metres along the edge. */
  from: number;
  to: number;
  /** Its origin is at the left end of the facing, on the edge. */
  frame: EdgeFrame;
}

/** A board with the facings on it, and how many did not fit there: by why and prop, "wide 3". */
export interface LaidBoard {
  shelf: Filled;
  facings: Facing[];
  leftOut: Map<string, number>;
}

/** Calls for what could not stand on a board, a prop and why. */
type LeftOut = (prop: number, why: TooLarge) => void;

/** So many in a row may not fit before an edge is given up. */
const REFUSED = 200;
/** Finer than this facings are not moved along a bend, metres. */
const FINE = 1e-4;
const HAIR = 1e-9;

const facingName = (part: number, board: number, across: number): string =>
  slotName(slotId(across, 0, part, board));

/**
 * Lays the facings of one board side by side along its front edge, each by its own width, up to the last that is not
 * cut. On bends and at corners each stands on its chord, so far on that none reaches into another.
 * @param props ids that `rows` counts @param masks of a facing by its name; null where none count
 */
export function layFacings(
  stock: Stock,
  shelf: Filled,
  props: readonly string[],
  measure: Measurer,
  rows: Rows,
  masks: ((name: string) => FacingMasks) | null,
  leftOut: LeftOut,
): Facing[] {
  const { edge, part, board } = shelf;
  const { filling, order, byFacing } = stock;
  const depth = shelf.depth - filling.setback;
  const pauseWidth = widthOf(measure, props);
  const expected = Math.ceil(edge.length / Math.max(1e-3, pauseWidth + filling.air));
  const goods = sequence(order, shelf.goods, props, stock.seed, part, board, expected);
  const indexOf = (item: SpecialItem) => (item.kind === 'pause' ? -1 : props.indexOf(item.prop));
  const all: Facing[] = [];
  const alone = edge.sides.length === 1 && edge.sides[0].straight;
  const build = (prop: number, across: number, name: string): Built | TooLarge => {
    if (prop < 0) {
      const at = rows.count;
      rows.push(blockId(across, 1, 1, part, board), -1, 0, new Float64Array(6));
      return { prop, start: at, end: at + 1, x0: 0, x1: pauseWidth, back: 0, deep: 0, high: 0 };
    }
    const byHand = byFacing[name];
    const where = { part, board, across, depth, height: shelf.height, masks: masks && masks(name), byHand };
    return buildFacing(stock, props, prop, where, measure, rows);
  };
  const putAt = (
    from: number,
    width: number,
    back: number,
    most: number,
    straight: boolean,
    others: Facing[],
  ) =>
    alone
      ? placedAt(edge, from, from + width, most)
      : placeApart(
          edge,
          from,
          width,
          { back: back + filling.setback, from: filling.setback },
          most,
          straight,
          others,
          filling.air,
        );
  edge.sides.forEach((side, k) => {
    const start = side.from + (k === 0 ? filling.insetStart : 0);
    const most = side.to - (k === edge.sides.length - 1 ? filling.insetEnd : 0);
    const first = all.length;
    let at = start;
    for (let refused = 0; refused < REFUSED && all.length < MOST_IN_BLOCK.across;) {
      const across = all.length + 1;
      const name = facingName(part, board, across);
      const drawn = goods.next(edge.zone(at));
      const prop = chosen(
        stock,
        name,
        across,
        all.length === first && (k > 0 || edge.closed),
        drawn,
        indexOf,
        props,
      );
      if (prop === null) break;
      if (prop >= 0 && !measure.known(prop)) {
        refused++;
        continue;
      }
      const built = build(prop, across, name);
      if (typeof built === 'string') {
        leftOut(prop, built);
        refused++;
        continue;
      }
      const width = built.x1 - built.x0;
      const place = putAt(at, width, built.back, most, side.straight, all);
      if (!place) {
        rows.count = built.start;
        if (width <= most - start + HAIR) break;
        leftOut(prop, 'wide');
        refused++;
        continue;
      }
      refused = 0;
      all.push(facingAt(built, across, name, place));
      at = place.to + filling.air;
    }
    if (k === edge.sides.length - 1 && order.last) endWith(indexOf(order.last));
    spread(all.slice(first), start, most, side.straight);
    function endWith(prop: number) {
      while (all.length > first) {
        const last = all.pop()!;
        rows.count = last.start;
        const built = prop < 0 || measure.known(prop) ? build(prop, last.across, last.name) : 'wide';
        if (typeof built === 'string') break;
        const place = putAt(last.from, built.x1 - built.x0, built.back, most, side.straight, all);
        if (place) return void all.push(facingAt(built, last.across, last.name, place));
        rows.count = built.start;
      }
    }
  });
  return all;

  /** Shares out what is left of a side. */
  function spread(side: Facing[], start: number, most: number, straight: boolean): void {
    const n = side.length;
    if (n === 0 || filling.leftover === 'end') return;
    const left = most - side[n - 1].to;
    if (!(left > HAIR)) return;
    const middle = filling.leftover === 'centre' || n === 1;
    const before = all.slice(0, all.length - n);
    if (alone || straight) {
      side.forEach((f, i) => moveTo(f, f.from + (middle ? left / 2 : (left * i) / (n - 1))));
      return;
    }
    // On a bend more air moves each by another measure: the most that leaves all of them on the edge.
    const tried = (extra: number): (typeof side)[number]['frame'][] | null => {
      const done: Facing[] = [...before];
      let at = start + (middle ? extra : 0);
      for (const f of side) {
        const place = putAt(at, f.x1 - f.x0, f.back, most, false, done);
        if (!place) return null;
        done.push(facingAt(f, f.across, f.name, place));
        at = place.to + filling.air + (middle ? 0 : extra);
      }
      done.slice(before.length).forEach((f, i) => Object.assign(kept[i], f));
      return done.map((f) => f.frame);
    };
    const kept = side.map((f) => ({ ...f }));
    let [low, high] = [0, left];
    for (let i = 0; i < 24; i++) {
      const extra = (low + high) / 2;
      if (tried(extra)) low = extra;
      else high = extra;
    }
    // At both ends the same is left.
    tried(middle ? low / 2 : low);
    side.forEach((f, i) => Object.assign(f, kept[i]));
  }

  function moveTo(f: Facing, from: number): void {
    f.to = from + (f.to - f.from);
    f.from = from;
    f.frame = edge.frame(f.from, f.to);
  }
}

interface Place {
  from: number;
  to: number;
  frame: EdgeFrame;
}

/** Field by field: there are many, and copies of objects are slow. */
const facingAt = (b: Built, across: number, name: string, { from, to, frame }: Place): Facing => ({
  prop: b.prop,
  start: b.start,
  end: b.end,
  x0: b.x0,
  x1: b.x1,
  back: b.back,
  deep: b.deep,
  high: b.high,
  across,
  name,
  from,
  to,
  frame,
});

/** The prop of a facing: by hand, of a special place, or what the order has drawn; null where the order gives none. */
function chosen(
  { order, byFacing }: Stock,
  name: string,
  across: number,
  corner: boolean,
  drawn: number | null,
  indexOf: (item: SpecialItem) => number,
  props: readonly string[],
): number | null {
  const byHand = byFacing[name]?.prop;
  if (byHand !== undefined && props.includes(byHand)) return props.indexOf(byHand);
  if (order.first && across === 1) return indexOf(order.first);
  if (order.corner && corner) return indexOf(order.corner);
  const { every } = order;
  if (every && across >= every.from && (across - every.from) % every.n === 0) return indexOf(every.item);
  return drawn;
}

/** How wide a pause is: as the first prop that there is. */
function widthOf(measure: Measurer, props: readonly string[]): number {
  const first = props.findIndex((_, p) => measure.known(p));
  if (first < 0) return 0.1;
  const box = measure.of(0, first, null);
  return box[1] - box[0];
}

const placedAt = (edge: Edge, from: number, to: number, most: number): Place | null =>
  to <= most + HAIR ? { from, to, frame: edge.frame(from, to) } : null;

/** The first place from `from` on where a facing reaches into no other. */
function placeApart(
  edge: Edge,
  from: number,
  width: number,
  behind: { from: number; back: number },
  most: number,
  straight: boolean,
  others: readonly Facing[],
  air: number,
): Place | null {
  for (let at = from; ;) {
    const to = straight ? at + width : chordEnd(edge, at, width);
    const place = placedAt(edge, at, to, most);
    if (!place) return null;
    const ground = groundOf(place.frame, width, behind.from, behind.back);
    const short = air - nearest(ground, others, behind.from, air);
    if (short <= HAIR) return place;
    at += Math.max(FINE, short);
  }
}

/** How far a ground is from the nearest of others; beyond `enough` it does not matter. */
function nearest(ground: Ground, others: readonly Facing[], from: number, enough: number): number {
  let least = Infinity;
  for (const f of others) {
    const other = groundOf(f.frame, f.x1 - f.x0, from, from + f.back);
    const [dx, dz] = [other.x - ground.x, other.z - ground.z];
    const reach = other.reach + ground.reach + enough;
    if (dx * dx + dz * dz < reach * reach) least = Math.min(least, apart(ground, other));
  }
  return least;
}

/** Where a chord of a length that begins at `from` ends. */
function chordEnd(edge: Edge, from: number, width: number): number {
  const chord = (to: number) => {
    const [a, b] = [edge.frame(from, from).origin, edge.frame(to, to).origin];
    return hypot(b[0] - a[0], b[2] - a[2]);
  };
  let low = from + width;
  if (chord(low) >= width - HAIR) return low;
  let high = from + width * 2;
  for (let i = 0; i < 8 && chord(high) < width; i++) high = from + (high - from) * 2;
  for (let i = 0; i < 50; i++) {
    const middle = (low + high) / 2;
    if (chord(middle) < width) low = middle;
    else high = middle;
  }
  return high;
}
