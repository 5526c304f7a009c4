import { AT, type Chart, type ChartLine } from '../../mesh/chart/chart';
import type { Sheet, SheetMatch } from './schema';

/** Rows whose lengths are known, from the lowest to the highest, and places along each. */
const LEVELS = 128;
const STEPS = 256;
/** Lines up that are tried. */
const COLUMNS = 16;

/**
 * The way from the flat layout to the surface. Shares a (across) and b (up) run 0–1 over the chart, turned as the
 * corner match says; layout places are metres from its lower left corner.
 */
export interface SheetMap {
  chart: Chart;
  width: number;
  height: number;
  /** Metres along the surface up the middle (or beside it, where there is a hole), from its lower end to its upper one. */
  fullHeight: number;
  /** The surface has no width or no height there: nothing can be laid on it. */
  empty: boolean;
  /** The row at its end goes on at its start; the same up the sheet. */
  closedAcross: boolean;
  closedUp: boolean;
  /** The share up of a height on the layout; below 0 and above 1 it goes straight on. */
  up(y: number): number;
  /** The row at a share up, as it lies on the layout. */
  row(b: number): SheetRow;
  /** Where about the row at a share up begins, and how wide it is: between rows that are known. */
  extent(b: number): [start: number, width: number];
  /** From the place of shares a, b so many layout metres across and up, the row's own way kept. Writes shares. */
  moved(a: number, b: number, dx: number, dy: number, out: Float64Array): void;
  /**
   * What {@link AT} tells, by a and b: derivatives are those by shares. Beyond an open border the surface goes straight
   * on. @returns false where there is none
   */
  at(a: number, b: number, out: Float64Array): boolean;
  /** Whether there is surface at a, b; beyond a window too, where the surface goes on. */
  lies(a: number, b: number): boolean;
  /** Writes the chart's own u and v of shares from `o` on. */
  uv(a: number, b: number, out: Float64Array, o?: number): void;
  /** Metres on the surface for a metre across on the layout, in the row at b. */
  scaleAcross(b: number): number;
  /** Shares up for a metre up on the layout, at b. */
  rise(b: number): number;
}

interface SheetRow {
  /** Metres along the surface from one end to the other. */
  length: number;
  /** Layout metres from the layout's left edge to where the row begins. */
  start: number;
  /** Layout metres from the row's start to its end. */
  width: number;
  /** The share across at a distance from its start, in layout metres. */
  share(x: number): number;
  /** The distance from its start in layout metres at a share. */
  distance(a: number): number;
}

/** Lengths over shares: metres to each of a number of rising shares. */
interface Lengths {
  at: Float64Array;
  s: Float64Array;
}

/** A chart's line as shares of its range, from the start or from the end. */
function shares({ at, s }: ChartLine, [low, high]: [number, number], flipped: boolean): Lengths {
  const n = at.length;
  const out = { at: new Float64Array(n), s: new Float64Array(n) };
  for (let i = 0; i < n; i++) {
    const from = flipped ? n - 1 - i : i;
    const t = (at[from] - low) / (high - low);
    out.at[i] = flipped ? 1 - t : t;
    out.s[i] = flipped ? s[n - 1] - s[from] : s[from];
  }
  return out;
}

/** The place of `x` among rising numbers: the index below it, so that [i, i + 1] holds it where any does. */
function below(list: Float64Array, x: number, first: number, last: number): number {
  let low = first;
  let high = last - 1;
  while (low < high) {
    const mid = (low + high + 1) >> 1;
    if (list[mid] <= x) low = mid;
    else high = mid - 1;
  }
  return low;
}

/** `to` at `x` of `from`, straight between the known ones, and straight on beyond them. */
function read(from: Float64Array, to: Float64Array, x: number): number {
  const n = from.length;
  const i = below(from, x, 0, n - 1);
  const span = from[i + 1] - from[i];
  return span > 0 ? to[i] + ((to[i + 1] - to[i]) * (x - from[i])) / span : to[i];
}

/** A chart seen by shares, turned by the corner match. */
function oriented(chart: Chart, match: SheetMatch) {
  const { u, v } = chart;
  const { swap, flipU, flipV, otherSide } = match;
  const wide = u[1] - u[0];
  const high = v[1] - v[0];
  const uv = (a: number, b: number, out: Float64Array, o = 0): void => {
    const p = swap ? b : a;
    const q = swap ? a : b;
    out[o] = u[0] + wide * (flipU ? 1 - p : p);
    out[o + 1] = v[0] + high * (flipV ? 1 - q : q);
  };
  const ku = flipU ? -wide : wide;
  const kv = flipV ? -high : high;
  const closedAcross = swap ? chart.closedV : chart.closedU;
  const closedUp = swap ? chart.closedU : chart.closedV;
  const look = (a: number, b: number, out: Float64Array): boolean => {
    const x = swap ? b : a;
    const y = swap ? a : b;
    return chart.at(u[0] + wide * (flipU ? 1 - x : x), v[0] + high * (flipV ? 1 - y : y), out);
  };
  const at = (a: number, b: number, out: Float64Array): boolean => {
    const p = closedAcross ? a - Math.floor(a) : a < 0 ? 0 : a > 1 ? 1 : a;
    const q = closedUp ? b - Math.floor(b) : b < 0 ? 0 : b > 1 ? 1 : b;
    const beyond = (p !== a && !closedAcross) || (q !== b && !closedUp);
    // Beyond a window the surface may go on; beyond its own border it goes straight on.
    const on = beyond && look(closedAcross ? p : a, closedUp ? q : b, out);
    if (!on && !look(p, q, out)) return false;
    for (let r = 0; r < 3; r++) {
      const du = out[6 + r] * ku;
      const dv = out[9 + r] * kv;
      out[6 + r] = swap ? dv : du;
      out[9 + r] = swap ? du : dv;
      if (otherSide) out[3 + r] = -out[3 + r];
      if (on) continue;
      if (p !== a && !closedAcross) out[r] += out[6 + r] * (a - p);
      if (q !== b && !closedUp) out[r] += out[9 + r] * (b - q);
    }
    return true;
  };
  /** The row at a share up, or the line across a share, by the other's shares. */
  const line = (stays: 'a' | 'b', share: number): Lengths => {
    const staysV = (stays === 'b') !== swap;
    const [range, flip, low, size, turn] = staysV
      ? [u, flipU, v[0], high, flipV]
      : [v, flipV, u[0], wide, flipU];
    const value = low + size * (turn ? 1 - share : share);
    return shares(chart.line(staysV ? 1 : 0, value), range as [number, number], flip);
  };
  const probe = new Float64Array(AT.length);
  const lies = (a: number, b: number): boolean => {
    const held = (t: number) => (t > -1e-9 && t < 0 ? 0 : t > 1 && t < 1 + 1e-9 ? 1 : t);
    const p = closedAcross ? a - Math.floor(a) : held(a);
    const q = closedUp ? b - Math.floor(b) : held(b);
    return look(p, q, probe);
  };
  return { at, lies, uv, line, closedAcross, closedUp };
}

/** A finer table at even shares: quick to look up in. */
const evenly = (l: Lengths, out: Float64Array, o: number): void => {
  for (let j = 0; j <= STEPS; j++) out[o + j] = read(l.at, l.s, j / STEPS);
};

/** What of a chart's lengths stays the same while only the layout is edited. */
interface Known {
  column: Lengths;
  table: Float64Array;
  longest: number;
  rows: Map<number, Lengths>;
}

/** Rows of a sheet that are kept; a slider dragged over many is no reason to keep them all. */
const MOST_ROWS = 4000;
const kept = new WeakMap<object, Map<string, Known>>();

function knownOf(chart: Chart, match: SheetMatch, line: (stays: 'a' | 'b', share: number) => Lengths): Known {
  const { swap, flipU, flipV } = match;
  const key = `${chart.u} ${chart.v} ${swap} ${flipU} ${flipV} ${chart.size ?? 1}`;
  const by = chart.lengthsOf ?? chart;
  let all = kept.get(by);
  if (!all) kept.set(by, (all = new Map()));
  let have = all.get(key);
  if (!have) {
    if (all.size > 20) all.clear();
    const table = new Float64Array((LEVELS + 1) * (STEPS + 1));
    let longest = 0;
    for (let k = 0; k <= LEVELS; k++) {
      evenly(line('b', k / LEVELS), table, k * (STEPS + 1));
      longest = Math.max(longest, table[k * (STEPS + 1) + STEPS]);
    }
    all.set(key, (have = { column: columnOf(line), table, longest, rows: new Map() }));
  }
  return have;
}

/** The line up by which heights are measured: the middle one, or where that runs through holes the one with the fewest. */
function columnOf(line: (stays: 'a' | 'b', share: number) => Lengths): Lengths {
  const covered = ({ at, s }: Lengths) => {
    let sum = 0;
    for (let i = 1; i < at.length; i++) if (s[i] > s[i - 1]) sum += at[i] - at[i - 1];
    return sum;
  };
  let best = line('a', 0.5);
  let most = covered(best);
  for (let k = 1; k < COLUMNS && most < 0.999; k++) {
    if (k * 2 === COLUMNS) continue;
    const other = line('a', k / COLUMNS);
    const here = covered(other);
    if (here > most + 1e-6) [best, most] = [other, here];
  }
  return best;
}

/** Metres: what is narrower than an atom has no width. */
const LEAST = 1e-9;

/** How a sheet's layout lies on a chart. */
export function sheetMap(
  chart: Chart,
  {
    match,
    fit,
    width: askedWidth,
    height: askedHeight,
    from,
  }: Pick<Sheet, 'match' | 'fit' | 'width' | 'height' | 'from'>,
): SheetMap {
  const o = oriented(chart, match);
  const known = knownOf(chart, match, o.line);
  const { column, table, longest } = known;
  const fullHeight = column.s[column.s.length - 1];
  const width = askedWidth ?? longest;
  const height = askedHeight ?? fullHeight;
  const stretch = fit === 'stretch';
  const ky = stretch && height > 0 ? fullHeight / height : 1;
  /** Metres on the surface for a metre of the layout, in a row of a length. */
  const kx = (length: number) => (stretch && width > 0 ? length / width : 1);
  const startOf = (length: number) =>
    stretch ? 0 : from === 'middle' ? (width - length) / 2 : from === 'end' ? width - length : 0;
  const rows = new Map<number, SheetRow>();
  /** The row that was asked for last: its places come one after the other. */
  const scaled = { b: NaN, k: 1 };
  const row = (b: number): SheetRow => {
    let have = rows.get(b);
    if (have) return have;
    const inside = o.closedUp ? b - Math.floor(b) : Math.min(1, Math.max(0, b));
    let l = known.rows.get(inside);
    if (!l) {
      if (known.rows.size >= MOST_ROWS) known.rows.clear();
      known.rows.set(inside, (l = o.line('b', inside)));
    }
    const line = l;
    const length = l.s[l.s.length - 1];
    const k = kx(length);
    // A row that has no length cannot be stretched to one.
    const onLayout = (l: number) => (k > 0 ? l / k : 0);
    have = {
      length,
      start: startOf(length),
      width: onLayout(length),
      share(x) {
        if (!(length > 0)) return 0.5;
        const s = x * k;
        const over = o.closedAcross && (s < 0 || s > length) ? Math.floor(s / length) : 0;
        return read(line.s, line.at, s - over * length) + over;
      },
      distance: (a) => onLayout(wrapped(a, 1, o.closedAcross, (t) => read(line.at, line.s, t), length)),
    };
    rows.set(b, have);
    return have;
  };
  return {
    chart,
    width,
    height,
    fullHeight,
    empty: !(fullHeight > LEAST && longest > LEAST),
    closedAcross: o.closedAcross,
    closedUp: o.closedUp,
    at: o.at,
    lies: o.lies,
    uv: o.uv,
    up: (y) => wrapped(y * ky, fullHeight, o.closedUp, (s) => read(column.s, column.at, s)),
    row,
    extent(b) {
      const length = lengthAt(b);
      const k = kx(length);
      return [startOf(length), k > 0 ? length / k : 0];
    },
    scaleAcross(b) {
      if (b !== scaled.b) {
        scaled.b = b;
        scaled.k = kx(lengthAt(b));
      }
      return scaled.k;
    },
    rise(b) {
      const i = below(column.at, b, 0, column.at.length - 1);
      const step = column.s[i + 1] - column.s[i];
      return step > 0 ? (ky * (column.at[i + 1] - column.at[i])) / step : 0;
    },
    moved(a, b, dx, dy, out) {
      let to = b;
      if (dy !== 0) {
        const inside = o.closedUp ? Math.floor(b) : 0;
        let s = read(column.at, column.s, b - inside) + inside * fullHeight + dy * ky;
        const over = o.closedUp && fullHeight > 0 ? Math.floor(s / fullHeight) : 0;
        s -= over * fullHeight;
        to = read(column.s, column.at, s) + over;
      }
      out[1] = to;
      out[0] = dx === 0 ? a : across(a, to, dx);
    },
  };

  function lengthAt(b: number): number {
    const x = Math.min(1, Math.max(0, b)) * LEVELS;
    const k = Math.min(LEVELS - 1, Math.floor(x));
    const [low, high] = [table[k * (STEPS + 1) + STEPS], table[(k + 1) * (STEPS + 1) + STEPS]];
    return low + (high - low) * (x - k);
  }

  /** So many layout metres along the row at `b`, from the share `a`: lengths between those of the known rows. */
  function across(a: number, b: number, dx: number): number {
    const inside = o.closedUp ? b - Math.floor(b) : b < 0 ? 0 : b > 1 ? 1 : b;
    const level = Math.min(LEVELS - 1, Math.floor(inside * LEVELS));
    const t = inside * LEVELS - level;
    const low = level * (STEPS + 1);
    const high = low + STEPS + 1;
    const length = table[low + STEPS] + (table[high + STEPS] - table[low + STEPS]) * t;
    if (!(length > 0)) return a;
    let round = o.closedAcross ? Math.floor(a) : 0;
    const x = (a - round) * STEPS;
    const j = x < 0 ? 0 : x >= STEPS ? STEPS - 1 : Math.floor(x);
    const from = table[low + j] + (table[high + j] - table[low + j]) * t;
    const next = table[low + j + 1] + (table[high + j + 1] - table[low + j + 1]) * t;
    let s = from + (next - from) * (x - j) + dx * (stretch && width > 0 ? length / width : 1);
    if (o.closedAcross && (s < 0 || s >= length)) {
      const over = Math.floor(s / length);
      s -= over * length;
      round += over;
    }
    // Mostly it is near where it came from, as far on as all steps are alike.
    let first = 0;
    let last = STEPS - 1;
    let guess = j + Math.floor(((s - from) / length) * STEPS);
    for (let reach = 1; first < last; reach *= 2) {
      if (guess <= first || guess >= last || reach > 16) guess = (first + last + 1) >> 1;
      const here = table[low + guess] + (table[high + guess] - table[low + guess]) * t;
      if (here <= s) {
        first = guess;
        guess += reach;
      } else {
        last = guess - 1;
        guess -= reach;
      }
    }
    const here = table[low + first] + (table[high + first] - table[low + first]) * t;
    const step = table[low + first + 1] + (table[high + first + 1] - table[low + first + 1]) * t - here;
    return round + (first + (step > 0 ? (s - here) / step : 0)) / STEPS;
  }
}

/** A rising reading over 0–`range`, gone round where it is closed. @param gain what one round adds to the result */
function wrapped(x: number, range: number, closed: boolean, of: (x: number) => number, gain = 1): number {
  if (!closed || !(range > 0) || (x >= 0 && x <= range)) return of(x);
  const over = Math.floor(x / range);
  return of(x - over * range) + over * gain;
}

/** What a map writes a place to: position, normal, and the ways across and up, three numbers each. */
export const newAt = (): Float64Array => new Float64Array(AT.length);
