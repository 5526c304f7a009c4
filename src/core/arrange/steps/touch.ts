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
  const { clearance } = settings;
  /** Where each item of the first try begins, and where the one before it ended. */
  const begun: number[] = [];
  const ended: number[] = [];
  /** Lays off items from `from`; stops after `limit` items, or before one that ends beyond `until`. */
  const layOff = (
    factor: number,
    from: number,
    limit: number,
    until: number,
    { record, skip = 0, keep = false }: { record?: TouchLayout; skip?: number; keep?: boolean } = {},
  ): { n: number; end: number } => {
    let s = skip > 0 ? begun[skip] : from;
    let n = skip;
    let end = skip > 0 ? ended[skip] : from;
    while (n < limit) {
      if (keep) {
        begun.push(s);
        ended.push(end);
      }
      const item = itemOf(n, limit);
      if (item.skip) {
        n++;
        continue;
      }
      const size = settings.sizeAt(s) * factor;
      const length = (item.back + item.front) * size;
      if (!(length > 1e-9)) return { n: -1, end };
      const front = line.ahead(s, length);
      if (front > until) break;
      if (record) {
        write(record, n, s, front, item.back / (item.back + item.front), line, length);
        record.size[n] = size;
      }
      n++;
      end = front;
      s = clearance > 0 ? line.ahead(front, clearance * factor) : front + clearance * factor;
      if (!(s > end - length)) return { n: -1, end };
    }
    return { n, end };
  };
  const free = layOff(1, settings.start, most + 1, settings.end + 1e-9 * room, { keep: true });
  if (free.n < 0) return 'length-not-positive';
  if (free.n > most) return 'too-many-slots';
  let count = free.n;
  let factor = 1;
  let from = settings.start;
  /** Where the run of n items ends, the way to the next one included where it goes round. */
  const endOf = (f: number, n: number, start = settings.start): number => {
    // Only the last item depends on how many there are: those before it lie as at the first try.
    const skip = f === 1 && start === settings.start ? Math.max(0, Math.min(n - 1, begun.length - 1)) : 0;
    const { end } = layOff(f, start, n, Infinity, { skip });
    if (!settings.loop) return end;
    return clearance > 0 ? line.ahead(end, clearance * f) : end + clearance * f;
  };
  if (settings.leftover === 'even') {
    // Whichever whole number of items comes nearer to the length at their own size.
    const off = (n: number) => (n > 0 ? Math.abs(log(room / (endOf(1, n) - settings.start))) : Infinity);
    if (off(count + 1) < off(count)) count++;
    if (count > 0) factor = solveFactor((f) => endOf(f, count) - settings.end, room) ?? 1;
  } else if (settings.leftover === 'centre' && count > 0 && !settings.loop) {
    // As much before the first as after the last: the start moves the end along nearly as far, so each step halves it.
    for (let i = 0, over = Infinity; i < 30 && Math.abs(over) > 1e-10 * room; i++) {
      over = from - settings.start - (settings.end - endOf(1, count, from));
      from = Math.max(settings.start, from - over / 2);
    }
  } else if (settings.loop && count > 0 && endOf(1, count) > settings.end + 1e-9 * room) {
    // Without scaling, the last one must leave its clearance to the first.
    count--;
  }
  const out: TouchLayout = {
    count,
    s: new Float64Array(count),
    back: new Float64Array(count).fill(NaN),
    front: new Float64Array(count),
    position: new Float64Array(count * 3),
    direction: new Float64Array(count * 3),
    size: new Float64Array(count).fill(1),
    factor,
    hairpins: [],
  };
  layOff(factor, from, count, Infinity, { record: out });
  placeSkipped(out, line, from);
  return out;
}

/** What takes no room stands where the one before it ends. */
function placeSkipped(out: TouchLayout, line: Lateral, from: number): void {
  for (let n = 0; n < out.count; n++) {
    if (!Number.isNaN(out.back[n])) continue;
    const at = n > 0 ? out.front[n - 1] : from;
    line.to(at);
    out.s[n] = out.back[n] = out.front[n] = at;
    out.position.set(line.p, n * 3);
    out.direction.set(line.t, n * 3);
  }
}

function write(
  out: TouchLayout,
  n: number,
  s0: number,
  s1: number,
  share: number,
  line: Lateral,
  length: number,
): void {
  out.back[n] = s0;
  out.front[n] = s1;
  out.s[n] = s0 + (s1 - s0) * share;
  line.to(s0);
  const a = line.p.slice();
  line.to(s1);
  const d = [0, 1, 2].map((k) => line.p[k] - a[k]);
  const l = Math.hypot(d[0], d[1], d[2]);
  for (let k = 0; k < 3; k++) {
    out.position[n * 3 + k] = a[k] + d[k] * share;
    out.direction[n * 3 + k] = l > 0 ? d[k] / l : line.t[k];
  }
  if (s1 - s0 > HAIRPIN * length) out.hairpins.push(s0);
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
  return Math.abs(over(x1)) < 1e-6 * room ? x1 : null;
}

interface Lateral {
  p: Float64Array;
  t: Float64Array;
  to(s: number): void;
  /** The first place ahead of `s` that is `length` away from it, in the measure that counts. */
  ahead(s: number, length: number): number;
}

/** The path, or the line beside it on which a row stands. */
function lateral(path: CompiledPath, settings: TouchSettings): Lateral {
  const walker = walkerOn(path);
  const p = new Float64Array(3);
  const t = walker.t;
  const level = settings.level ? 0 : 1;
  const to = (s: number) => {
    walker.to(s);
    const side = settings.side(s);
    p.set(walker.p);
    if (side === 0) return;
    // To the right of the level way along.
    const l = Math.sqrt(t[0] * t[0] + t[2] * t[2]);
    if (l < 1e-9) return;
    p[0] -= (t[2] / l) * side;
    p[2] += (t[0] / l) * side;
  };
  const from = new Float64Array(3);
  const reach = (s: number): number => {
    to(s);
    const x = p[0] - from[0];
    const y = (p[1] - from[1]) * level;
    const z = p[2] - from[2];
    return Math.sqrt(x * x + y * y + z * z);
  };
  const least = 1e-11 * path.length;
  const ahead = (s: number, length: number): number => {
    if (length < least) return s + length;
    to(s);
    from.set(p);
    let low = s;
    let high = s + length;
    const furthest = s + Math.max(path.length, length) * 2;
    let d = reach(high);
    while (d < length && high < furthest) {
      low = high;
      high += Math.max(length - d, length / 64, least);
      d = reach(high);
    }
    if (d < length) return high;
    // As near as the size of the numbers lets it be.
    const close = 1e-12 * length + 1e-15 * path.length;
    let x = d > length ? high - (d - length) : high;
    for (let i = 0; i < 60 && high - low > 1e-14 * path.length; i++) {
      if (!(x > low && x < high)) x = (low + high) / 2;
      d = reach(x);
      if (Math.abs(d - length) <= close) return x;
      if (d < length) low = x;
      else high = x;
      const slope =
        d > 0 ? ((p[0] - from[0]) * t[0] + (p[1] - from[1]) * t[1] * level + (p[2] - from[2]) * t[2]) / d : 1;
      x = slope > 0.05 ? x - (d - length) / slope : (low + high) / 2;
    }
    return x;
  };
  return { p, t, to, ahead };
}
