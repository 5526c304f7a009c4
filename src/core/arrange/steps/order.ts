import { channel, random01 } from '../../math/random';
import { slotId } from '../slotId';
import type { Order, OrderEntry, SpecialItem } from './schema';

const TIMES = channel('order.times');
const MIX = channel('order.mix');
const SHUFFLE = channel('order.shuffle');
const AGAIN = channel('order.again');
/** Groups deeper than this give nothing: no hand made them. */
const DEEPEST = 12;
/** A bag of shares that are no small whole numbers has this many in it. */
const BAG = 100;

export interface Ordered {
  /** Index into `props` for each slot; -1 for a pause. */
  prop: Int32Array;
  /** True where the entries can never give anything (no entries, all weights or times 0). */
  empty: boolean;
}

/** What an order needs to know of the slots of one row. */
export interface OrderRow {
  /** Slot ids in order. */
  ids: ArrayLike<number>;
  /** Zone of each slot; absent: all in zone 0. */
  zones?: ArrayLike<number>;
  /** Slots nearest to corners. */
  corners?: ReadonlySet<number>;
}

/**
 * Which prop goes in which slot of one row. Pattern: the entries in turn, each as often as its `times` says, drawn
 * anew for every round. Mix: each slot draws by weight, or exact shares come out of shuffled bags. Slot n has the same
 * prop however many slots follow. Each zone has a sequence of its own from the entries that it admits. First, last,
 * corner and every n-th slot come over it, in that order of strength.
 * @param props ids that the result counts
 */
export function orderSlots(order: Order, row: OrderRow, seed: number, props: readonly string[]): Ordered {
  const n = row.ids.length;
  let prop: Int32Array;
  const at = new Map(props.map((id, i) => [id, i]));
  const indexOf = (item: SpecialItem) => (item.kind === 'pause' ? -1 : (at.get(item.prop) ?? -1));
  let filled = false;
  if (!row.zones) {
    const made = sequence(
      order,
      order.entries.filter((e) => e.zones.length === 0 || e.zones.includes(0)),
      row.ids,
      seed,
      indexOf,
    );
    prop = made ?? new Int32Array(n).fill(-1);
    filled = made !== null;
  } else {
    prop = new Int32Array(n).fill(-1);
    for (const [zone, slots] of slotsByZone(row.zones, n)) {
      const entries = order.entries.filter((e) => e.zones.length === 0 || e.zones.includes(zone));
      const made = sequence(
        order,
        entries,
        slots.map((i) => row.ids[i]),
        seed,
        indexOf,
      );
      if (!made) continue;
      filled = true;
      slots.forEach((slot, k) => (prop[slot] = made[k]));
    }
  }
  const put = (i: number, item: SpecialItem | null) => {
    if (item && i >= 0 && i < n) prop[i] = indexOf(item);
  };
  const { every } = order;
  if (every) for (let i = every.from - 1; i < n; i += every.n) put(i, every.item);
  if (order.corner) for (const i of row.corners ?? []) put(i, order.corner);
  put(n - 1, order.last);
  put(0, order.first);
  const special = order.first || order.last || order.corner || every;
  return { prop, empty: !filled && !special && (n > 0 || !gives(order.entries, order.mode)) };
}

/** Whether a pattern's rounds are all the same: no entry's times are drawn. */
const isFixed = (entries: OrderEntry[]): boolean =>
  entries.every(
    ({ times, item }) => times[0] === times[1] && (item.kind !== 'group' || isFixed(item.entries)),
  );

function slotsByZone(zones: ArrayLike<number>, n: number): Map<number, number[]> {
  const out = new Map<number, number[]>();
  for (let i = 0; i < n; i++) {
    const list = out.get(zones[i]);
    if (list) list.push(i);
    else out.set(zones[i], [i]);
  }
  return out;
}

const gives = (entries: OrderEntry[], mode: Order['mode']): boolean =>
  entries.some((e) => (mode === 'mix' ? e.weight > 0 : Math.max(...e.times) > 0));

/** The sequence of one zone, one prop index a slot; null where the entries can never give anything. */
function sequence(
  order: Order,
  entries: OrderEntry[],
  ids: ArrayLike<number>,
  seed: number,
  indexOf: (item: SpecialItem) => number,
): Int32Array | null {
  const out = new Int32Array(ids.length).fill(-1);
  let at = 0;
  const emit = (entry: OrderEntry, round: number, depth: number) => {
    const { item } = entry;
    if (item.kind === 'group') run(item.entries, round, depth + 1);
    else out[at++] = indexOf(item);
  };
  const timesOf = (entry: OrderEntry, round: number, place: number): number => {
    const low = Math.min(...entry.times);
    const high = Math.max(...entry.times);
    if (low === high) return low;
    return low + Math.floor(random01(seed, slotId(round + 1) * 512 + place, TIMES) * (high - low + 1));
  };
  /** One round of entries in turn. */
  const run = (list: OrderEntry[], round: number, depth: number) => {
    if (depth > DEEPEST) return;
    for (let e = 0; e < list.length && at < ids.length; e++) {
      const times = timesOf(list[e], round, e + depth * 31);
      for (let k = 0; k < times && at < ids.length; k++) emit(list[e], round * 7 + k, depth);
    }
  };
  if (order.mode === 'pattern') {
    const settled = isFixed(entries);
    for (let round = 0, idle = 0; at < ids.length && idle < 64; round++) {
      const before = at;
      run(entries, round, 0);
      // A range that may draw nothing is given more rounds; what can never give anything ends here.
      idle = at > before ? 0 : idle + 1;
      // Nothing is drawn: every round is like the first.
      if (settled && at > 0) for (const size = at; at < ids.length; at++) out[at] = out[at - size];
    }
    return at > 0 ? out : null;
  }
  const weights = entries.map((e) => Math.max(0, e.weight));
  const total = weights.reduce((sum, w) => sum + w, 0);
  if (!(total > 0)) return null;
  const draw = order.bag
    ? bagDraws(weights, total, seed, order.noRepeats)
    : freeDraws(weights, total, seed, ids, order.noRepeats);
  for (let turn = 0; at < ids.length; turn++) {
    const before = at;
    const entry = entries[draw(order.bag ? turn : at)];
    emit(entry, turn, 0);
    // An empty group still takes its slot.
    if (at === before) at++;
  }
  return out;
}

/** Each place draws for itself. Without repeats the one before is left out of the draw. */
function freeDraws(
  weights: number[],
  total: number,
  seed: number,
  ids: ArrayLike<number>,
  noRepeats: boolean,
) {
  let last = -1;
  const choice = weights.filter((w) => w > 0).length > 1;
  return (place: number): number => {
    const without = noRepeats && choice && last >= 0 ? last : -1;
    let left = random01(seed, ids[place], MIX) * (total - (without >= 0 ? weights[without] : 0));
    let pick = -1;
    for (let e = 0; e < weights.length; e++) {
      if (e === without || weights[e] <= 0) continue;
      pick = e;
      left -= weights[e];
      if (left < 0) break;
    }
    return (last = pick);
  };
}

/** Exact shares: bags that hold each entry by its weight, shuffled one after the other. */
function bagDraws(weights: number[], total: number, seed: number, noRepeats: boolean) {
  const amounts = bagAmounts(weights, total);
  const size = amounts.reduce((sum, a) => sum + a, 0);
  const bags: number[][] = [];
  const bag = (index: number): number[] => {
    while (bags.length <= index)
      bags.push(
        shuffled(amounts, size, seed, bags.length, noRepeats ? bags.at(-1)?.at(-1) : undefined, noRepeats),
      );
    return bags[index];
  };
  return (turn: number): number => bag(Math.floor(turn / size))[turn % size];
}

/** How many of each are in one bag: the weights themselves where they are small whole numbers. */
function bagAmounts(weights: number[], total: number): number[] {
  if (weights.every(Number.isInteger) && total <= 1000) {
    const gcd = (a: number, b: number): number => (b ? gcd(b, a % b) : a);
    const k = weights.reduce(gcd, 0) || 1;
    return weights.map((w) => w / k);
  }
  const exact = weights.map((w) => (w / total) * BAG);
  const out = exact.map(Math.floor);
  const rest = BAG - out.reduce((sum, a) => sum + a, 0);
  exact
    .map((v, i) => ({ i, part: v - out[i] }))
    .sort((a, b) => b.part - a.part || a.i - b.i)
    .slice(0, rest)
    .forEach(({ i }) => out[i]++);
  return out;
}

/** One bag in random order (Fisher–Yates by hashes); without repeats equal neighbours are drawn apart. */
function shuffled(
  amounts: number[],
  size: number,
  seed: number,
  index: number,
  before: number | undefined,
  apart: boolean,
): number[] {
  const draw = (i: number, key: number) => random01(seed, slotId(i + 1) + index * 4294967296, key);
  if (!apart) {
    const list = amounts.flatMap((a, e) => new Array<number>(a).fill(e));
    for (let i = size - 1; i > 0; i--) {
      const j = Math.floor(draw(i, SHUFFLE) * (i + 1));
      [list[i], list[j]] = [list[j], list[i]];
    }
    return list;
  }
  // Draw by what is left, never the one before, and at once what would else be left over with itself.
  const left = [...amounts];
  const out: number[] = [];
  let last = before ?? -1;
  for (let i = 0; i < size; i++) {
    const rest = size - i;
    const most = left.indexOf(Math.max(...left));
    const must = left[most] * 2 > rest && most !== last ? most : -1;
    let pick = must;
    if (pick < 0) {
      const room = rest - (last >= 0 ? left[last] : 0);
      let u = draw(i, AGAIN) * (room > 0 ? room : rest);
      for (let e = 0; e < left.length; e++) {
        if ((e === last && room > 0) || left[e] <= 0) continue;
        pick = e;
        u -= left[e];
        if (u < 0) break;
      }
    }
    left[pick]--;
    out.push(pick);
    last = pick;
  }
  return out;
}
