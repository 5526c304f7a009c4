import type { CompiledPath } from '../../curve/compile';
import { walkerOn } from '../../curve/walker';
import { log } from '../../math/portable';

/** Touch: props end to end by their own length. Rigid ones sit on chords, back and front on the path. */

/** One item's measures along its front, metres, its size applied. */
export interface TouchItem {
  /** From its back to its foot, and from its foot to its front. */
  back: number;
  front: number;
  /** Takes no room at all: closed up. */
  skip?: boolean;
}

export interface TouchSettings {
  clearance: number;
  leftover: 'even' | 'end' | 'centre';
  /** Metres along where the first back is, and where the last front may be. */
  start: number;
  end: number;
  /** Goes round: the last front meets the first back. */
  loop: boolean;
  /** Level: lengths are measured as seen from above, as upright props lie. */
  level: boolean;
  /** Lengths are counted along the path: for what is bent. */
  arc?: boolean;
  /** Metres to the right of the path. */
  side: (s: number) => number;
  /** The path's own size factor at the back of an item. */
  sizeAt: (s: number) => number;
}

export interface TouchLayout {
  count: number;
  /** Where each foot is along the path, its back end and its front end. */
  s: Float64Array;
  back: Float64Array;
  front: Float64Array;
  /** xyz of the foot, and the unit direction from back to front. */
  position: Float64Array;
  direction: Float64Array;
  /** What each size was multiplied by: the path's own factor and the common one. */
  size: Float64Array;
  /** The common factor by which "even" makes them fill the length. */
  factor: number;
  /** Whether no common factor made whole items fill the length, so that they lie at their own size. */
  uneven: boolean;
  /** Lengths along the path where an item spans far more path than its own length: a hairpin. */
  hairpins: number[];
}

/** The most of the path's length that is looked at for one item's front. */
const HAIRPIN = 1.8;

/**
 * Lays items end to end: each one's front is the first place on the path as far from its back as the item is long
 * (bracketed, then safeguarded Newton to 1e-12 of the length). "even" scales all by one factor so that whole items
 * fill the length, found by the secant rule to 1e-12 of it; "end" leaves what is over; "centre" halves it.
 * @param itemOf the n-th item where there are `of` in all @param most the most items
 */
export function layTouching(
  path: CompiledPath,
  settings: TouchSettings,
  itemOf: (n: number, of: number) => TouchItem,
  most: number,
): TouchLayout | 'length-not-positive' | 'too-many-slots' {
  const line = lateral(path, settings);
  const room = settings.end - settings.start;
  const tries = triesOf(line, settings, itemOf);
  const free = tries.lay(1, settings.start, most + 1, settings.end + 1e-9 * room);
  if (free.n < 0) return 'length-not-positive';
  if (free.n > most) return 'too-many-slots';
  tries.keep(free.n);
  let count = free.n;
  let factor = 1;
  let uneven = false;
  let from = settings.start;
  /** Where the run of n items ends, the way to the next one included where it goes round. */
  const endOf = (f: number, n: number, start = settings.start): number => {
    const { end } = tries.lay(f, start, n, Infinity);
    return settings.loop ? tries.after(end, f) : end;
  };
  if (settings.leftover === 'even') {
    // Whichever whole number of items comes nearer to the length at their own size.
    const off = (n: number) => (n > 0 ? Math.abs(log(room / (endOf(1, n) - settings.start))) : Infinity);
    const best = off(count + 1) < off(count) ? count + 1 : count;
    const found = nearestFactor(best, (n) => solveFactor((f) => endOf(f, n) - settings.end, room));
    if (found) [count, factor] = found;
    else uneven = count > 0;
  } else if (settings.leftover === 'centre' && count > 0 && !settings.loop) {
    // As much before the first as after the last: the start moves the end along nearly as far, so each step halves it.
    for (let i = 0, over = Infinity; i < 30 && Math.abs(over) > 1e-10 * room; i++) {
      over = from - settings.start - (settings.end - endOf(1, count, from));
      from = Math.max(settings.start, from - over / 2);
    }
  }
  // Without scaling, the last one of a loop must leave its clearance to the first.
  const own = settings.leftover !== 'even' || uneven;
  if (own && settings.loop && count > 0 && endOf(1, count) > settings.end + 1e-9 * room) count--;
  const laid = tries.lay(factor, from, count, Infinity);
  return { ...written(laid, count, factor, line, settings, itemOf), uneven };
}

interface Laid {
  /** How many there are, or -1: one of them has no length, or reaches back behind the one before it. */
  n: number;
  end: number;
  back: Float64Array;
  front: Float64Array;
}

interface Tries {
  /** Lays items off from `from`; stops after `limit` items, or before one that ends beyond `until`. */
  lay(factor: number, from: number, limit: number, until: number): Laid;
  /** Where the next one begins after one that ends there. */
  after(end: number, factor: number): number;
  /** Keeps the first n of the last try, at their own size from the start: others like it begin with them. */
  keep(n: number): void;
}

/** Lays the same items off again and again, and no part of it twice. */
function triesOf(
  line: Lateral,
  settings: TouchSettings,
  itemOf: (n: number, of: number) => TouchItem,
): Tries {
  let back = new Float64Array(64);
  let front = new Float64Array(64);
  let first: { n: number; back: Float64Array; front: Float64Array } | null = null;
  let last: { factor: number; from: number; limit: number; laid: Laid } | null = null;
  const after = (end: number, factor: number) => {
    const step = settings.clearance * factor;
    return step > 0 ? line.ahead(end, step) : end + step;
  };
  const lay = (factor: number, from: number, limit: number, until: number): Laid => {
    if (last && last.factor === factor && last.from === from && last.limit === limit && until === Infinity)
      return last.laid;
    let n = 0;
    let end = from;
    // Only the last item depends on how many there are: those before it lie as at the first try.
    if (first && factor === 1 && from === settings.start) {
      n = Math.max(0, Math.min(limit - 1, first.n));
      back.set(first.back.subarray(0, n));
      front.set(first.front.subarray(0, n));
      if (n > 0) end = front[n - 1];
    }
    let before = Infinity;
    last = null;
    for (; n < limit; n++) {
      if (n === back.length) [back, front] = [grown(back), grown(front)];
      const item = itemOf(n, limit);
      // What takes no room stands where the one before it ends.
      back[n] = front[n] = end;
      if (item.skip) continue;
      const s = end === from ? from : after(end, factor);
      const length = (item.back + item.front) * settings.sizeAt(s) * factor;
      if (!(length > 1e-9) || !(s > end - before)) return { n: -1, end, back, front };
      const at = line.ahead(s, length);
      if (at > until) break;
      back[n] = s;
      front[n] = end = at;
      before = length;
    }
    const laid = { n, end, back, front };
    if (until === Infinity) last = { factor, from, limit, laid };
    return laid;
  };
  const keep = (n: number) => (first = { n, back: back.slice(0, n), front: front.slice(0, n) });
  return { lay, after, keep };
}

function grown(list: Float64Array): Float64Array<ArrayBuffer> {
  const out = new Float64Array(list.length * 2);
  out.set(list);
  return out;
}

/** Feet, directions and sizes of what was laid off. */
function written(
  laid: Laid,
  count: number,
  factor: number,
  line: Lateral,
  settings: TouchSettings,
  itemOf: (n: number, of: number) => TouchItem,
): Omit<TouchLayout, 'uneven'> {
  const out = {
    count,
    s: new Float64Array(count),
    back: laid.back.slice(0, count),
    front: laid.front.slice(0, count),
    position: new Float64Array(count * 3),
    direction: new Float64Array(count * 3),
    size: new Float64Array(count),
    factor,
    hairpins: [] as number[],
  };
  for (let n = 0; n < count; n++) {
    const { back, front, skip } = itemOf(n, count);
    const [s0, s1] = [out.back[n], out.front[n]];
    const share = skip ? 0 : back / (back + front);
    out.size[n] = skip ? 1 : settings.sizeAt(s0) * factor;
    out.s[n] = s0 + (s1 - s0) * share;
    onChord(line, s0, s1, share, out, n);
    const length = (back + front) * out.size[n];
    if (!skip && s1 - s0 > HAIRPIN * length) out.hairpins.push(s0);
  }
  return out;
}

/** Sizes are changed by more than this for nobody's sake. */
const MOST_SCALED = 1.3;

/**
 * The number of items nearest to `best` that some factor makes come out even. Over a hairpin their end jumps as they
 * grow: a number may have none.
 */
function nearestFactor(
  best: number,
  factorFor: (n: number) => number | null,
): [count: number, factor: number] | null {
  for (let away = 0; away < 6; away++)
    for (const n of away === 0 ? [best] : [best - away, best + away]) {
      const factor = n > 0 ? factorFor(n) : null;
      if (factor !== null && (away < 2 || Math.abs(log(factor)) < log(MOST_SCALED))) return [n, factor];
    }
  return null;
}

/**
 * What was laid end to end on one path, on another that it is carried to: each on the chord between the places that its
 * back and its front have come to, with its foot at its share of it.
 * @param to metres along the one as metres along the other
 */
export function carriedLayout(
  layout: TouchLayout,
  path: CompiledPath,
  to: (s: number) => number,
  settings: Pick<TouchSettings, 'level' | 'side' | 'arc'>,
): TouchLayout {
  const line = lateral(path, settings);
  const out = { ...layout, position: layout.position.slice(), direction: layout.direction.slice() };
  for (let n = 0; n < layout.count; n++) {
    const [back, s, front] = [layout.back[n], layout.s[n], layout.front[n]];
    onChord(line, to(back), to(front), front > back ? (s - back) / (front - back) : 0, out, n);
  }
  return out;
}

/** Writes the n-th foot and direction: on the chord between two places of a line, at a share of it. */
function onChord(
  { p, t, to }: Lateral,
  s0: number,
  s1: number,
  share: number,
  out: Pick<TouchLayout, 'position' | 'direction'>,
  n: number,
): void {
  to(s0);
  const [ax, ay, az] = p;
  to(s1);
  const [x, y, z] = [p[0] - ax, p[1] - ay, p[2] - az];
  const l = Math.sqrt(x * x + y * y + z * z);
  const o = n * 3;
  out.position[o] = ax + x * share;
  out.position[o + 1] = ay + y * share;
  out.position[o + 2] = az + z * share;
  out.direction[o] = l > 0 ? x / l : t[0];
  out.direction[o + 1] = l > 0 ? y / l : t[1];
  out.direction[o + 2] = l > 0 ? z / l : t[2];
}

/**
 * The factor at which `over` is nothing; it grows with the factor, nearly evenly: the secant rule, held to a bracket.
 * Null where there is none between 1/50 and 50.
 */
function solveFactor(over: (f: number) => number, room: number): number | null {
  let [low, high] = [0.02, 50];
  let [x0, v0] = [1, over(1)];
  if (v0 === 0) return 1;
  let x1 = Math.min(high, Math.max(low, room / (room + v0)));
  for (let i = 0; i < 80; i++) {
    const v1 = over(x1);
    if (Math.abs(v1) <= 1e-12 * room) return x1;
    if (v1 < 0) low = Math.max(low, x1);
    else high = Math.min(high, x1);
    if (high - low < 1e-15) break;
    const next = x1 - (v1 * (x1 - x0)) / (v1 - v0);
    [x0, v0] = [x1, v1];
    x1 = next > low && next < high ? next : (low + high) / 2;
    if (x1 === x0) break;
  }
  return Math.abs(over(x1)) < 1e-9 * room ? x1 : null;
}

interface Lateral {
  p: Float64Array;
  t: Float64Array;
  to(s: number): void;
  /** The first place ahead of `s` that is `length` away from it, in the measure that counts. */
  ahead(s: number, length: number): number;
}

/** The path, or the line beside it on which a row stands. */
function lateral(path: CompiledPath, settings: Pick<TouchSettings, 'level' | 'side' | 'arc'>): Lateral {
  const walker = walkerOn(path);
  const p = new Float64Array(3);
  const t = walker.t;
  const level = settings.level ? 0 : 1;
  let here = NaN;
  let plain = true;
  const to = (s: number) => {
    if (s === here) return;
    here = s;
    walker.to(s);
    const side = settings.side(s);
    plain = side === 0;
    const q = walker.p;
    p[0] = q[0];
    p[1] = q[1];
    p[2] = q[2];
    if (plain) return;
    // To the right of the level way along.
    const l = Math.sqrt(t[0] * t[0] + t[2] * t[2]);
    if (l < 1e-9) return;
    p[0] -= (t[2] / l) * side;
    p[2] += (t[0] / l) * side;
  };
  const least = 1e-11 * path.length;
  const finest = 1e-14 * path.length;
  const ahead = (s: number, length: number): number => {
    if (length < least || settings.arc) return s + length;
    to(s);
    const [ax, ay, az] = [p[0], p[1], p[2]];
    const furthest = s + Math.max(path.length, length) * 2;
    // As near as the size of the numbers lets it be.
    const close = 1e-12 * length + 1e-15 * path.length;
    let low = s;
    let high = Infinity;
    let x = s + length;
    for (let i = 0; i < 200; i++) {
      to(x);
      const dx = p[0] - ax;
      const dy = (p[1] - ay) * level;
      const dz = p[2] - az;
      const d = Math.sqrt(dx * dx + dy * dy + dz * dz);
      const gap = length - d;
      if (Math.abs(gap) <= close) return x;
      if (gap > 0) low = x;
      else high = x;
      const slope = d > 0 ? (dx * t[0] + dy * t[1] + dz * t[2]) / d : 1;
      const step = slope > 0.05 ? gap / slope : NaN;
      // Newton's error is the square of its step over the bend's radius: beneath `close` by then.
      if (plain && Math.abs(step) < 1e-8 * length && x + step > low && x + step < high) return x + step;
      if (high === Infinity) {
        // No place nearer than the gap can be far enough: the first place that is, is never stepped over.
        if (x >= furthest) return x;
        const sure = Math.max(gap, length / 64, least);
        x += step <= sure ? step : sure;
        if (x === low) return x;
        continue;
      }
      if (high - low <= finest) return x;
      x += step;
      if (!(x > low && x < high)) x = (low + high) / 2;
    }
    return x;
  };
  return { p, t, to, ahead };
}
