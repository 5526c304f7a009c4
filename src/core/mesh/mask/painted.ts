import { restPlace, type MaskPlaces } from './places';
import type { LayerOf, PaintStroke } from './schema';

/**
 * What is painted, at places. A stroke is a line of dabs on the material at rest, with the straight pieces between
 * them, so that it is as sharp as one likes at any distance. It counts once wherever it lies however often it comes by:
 * added paint takes what is missing to 1 in the share of its strength, taken away it takes that share of what is there.
 */

/** What a stroke covers of a place: 1 in its middle, 0 at its radius, smooth between (3w² − 2w³). */
function coverOf({ dabs, radius, softness }: PaintStroke, x: number, y: number, z: number): number {
  let least = Infinity;
  for (let o = 0; o + 2 < dabs.length; o += 3) {
    const from = Math.max(0, o - 3);
    const [ax, ay, az] = [dabs[from], dabs[from + 1], dabs[from + 2]];
    const [bx, by, bz] = [dabs[o] - ax, dabs[o + 1] - ay, dabs[o + 2] - az];
    const [px, py, pz] = [x - ax, y - ay, z - az];
    const long = bx * bx + by * by + bz * bz;
    const k = long > 0 ? Math.min(1, Math.max(0, (px * bx + py * by + pz * bz) / long)) : 0;
    const [dx, dy, dz] = [px - k * bx, py - k * by, pz - k * bz];
    least = Math.min(least, dx * dx + dy * dy + dz * dz);
  }
  const r = Math.sqrt(least) / radius;
  if (!(r < 1)) return 0;
  const w = softness > 0 ? Math.min(1, (1 - r) / softness) : 1;
  return w * w * (3 - 2 * w);
}

/** Least and greatest corner of what a stroke can reach. */
function boxOf({ dabs, radius }: PaintStroke): [number[], number[]] {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  dabs.forEach((v, i) => {
    low[i % 3] = Math.min(low[i % 3], v - radius);
    high[i % 3] = Math.max(high[i % 3], v + radius);
  });
  return [low, high];
}

const stroked = ({ does, strength }: PaintStroke, cover: number, was: number): number =>
  does === 'add' ? was + (1 - was) * cover * strength : was - was * cover * strength;

/** Six ways to where paint is looked for to be evened out. */
const AROUND = [0, 1, 2].flatMap((a) => [-1, 1].map((k) => [0, 1, 2].map((b) => (a === b ? k : 0))));

/** What is painted at one place by the first strokes. Smoothing looks at what was added and taken away before it. */
function paintAt(base: number, strokes: readonly PaintStroke[], upTo: number, p: readonly number[]): number {
  let value = base;
  for (let s = 0; s < upTo; s++)
    if (strokes[s].does !== 'smooth')
      value = stroked(strokes[s], coverOf(strokes[s], p[0], p[1], p[2]), value);
  return value;
}

/** Writes what the stroke `s` makes of the values; places that it does not reach are not looked at. */
function lay(
  base: number,
  strokes: readonly PaintStroke[],
  s: number,
  rest: Float64Array,
  value: Float64Array,
): void {
  const stroke = strokes[s];
  const [low, high] = boxOf(stroke);
  for (let i = 0, o = 0; i < value.length; i++, o += 3) {
    const [x, y, z] = [rest[o], rest[o + 1], rest[o + 2]];
    // Places of other surfaces are NaN, and in no box.
    if (!(x >= low[0] && x <= high[0] && y >= low[1] && y <= high[1] && z >= low[2] && z <= high[2]))
      continue;
    const cover = coverOf(stroke, x, y, z);
    if (cover === 0) continue;
    if (stroke.does !== 'smooth') value[i] = stroked(stroke, cover, value[i]);
    else {
      let mean = value[i];
      for (const way of AROUND)
        mean += paintAt(
          base,
          strokes,
          s,
          [0, 1, 2].map((a) => rest[o + a] + (way[a] * stroke.radius) / 2),
        );
      value[i] += (mean / 7 - value[i]) * cover * stroke.strength;
    }
  }
}

interface Painted {
  base: number;
  strokes: readonly PaintStroke[];
  /** What all strokes but the last come to, and all of them. */
  before: Float64Array;
  values: Float64Array;
}

/** Strokes as they are drawn come one after the other, and the last one grows: all before it is known. */
const kept = new WeakMap<MaskPlaces, Map<string, Painted>>();
const rests = new WeakMap<MaskPlaces, Map<string, Float64Array>>();

/** Places on the material of a surface; NaN for those of others. */
function restOf(places: MaskPlaces, surface: string): Float64Array {
  let of = rests.get(places);
  if (!of) rests.set(places, (of = new Map()));
  let have = of.get(surface);
  if (!have) {
    have = new Float64Array(places.count * 3).fill(NaN);
    const own = places.grounds.findIndex((g) => g.id === surface);
    for (let i = 0; i < places.count; i++)
      if (own >= 0 && places.ground[i] === own) have.set(restPlace(places, i), i * 3);
    of.set(surface, have);
  }
  return have;
}

/** What is painted at places of the layer's surface; on others what it is where nothing is painted. */
export function painted(
  places: MaskPlaces,
  { id, base, strokes, surface }: LayerOf<'painted'>,
): Float64Array {
  if (surface === null || strokes.length === 0) return new Float64Array(places.count).fill(base);
  let of = kept.get(places);
  if (!of) kept.set(places, (of = new Map()));
  const have = of.get(id);
  const n = strokes.length - 1;
  const goesOn = (from: readonly PaintStroke[], upTo: number) =>
    have?.base === base && from.length >= upTo && strokes.slice(0, upTo).every((s, i) => s === from[i]);
  const rest = restOf(places, surface);
  let before: Float64Array;
  if (have && have.strokes.length === strokes.length && goesOn(have.strokes, n)) before = have.before;
  else if (have && have.strokes.length === n && goesOn(have.strokes, n)) before = have.values;
  else {
    before = new Float64Array(places.count).fill(base);
    for (let s = 0; s < n; s++) lay(base, strokes, s, rest, before);
  }
  const values = before.slice();
  lay(base, strokes, n, rest, values);
  of.set(id, { base, strokes, before, values });
  return values;
}
