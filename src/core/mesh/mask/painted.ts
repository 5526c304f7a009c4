import type { Vec3 } from '../../math/vec3';
import { faceNormal, type TriMesh } from '../triMesh';
import { tellChanges } from './changes';
import { PlaceCells } from './placeCells';
import { restPlace, type MaskPlaces } from './places';
import type { LayerOf, PaintStroke } from './schema';
import {
  boxOfStroke,
  coverAt,
  goesOnFrom,
  meetStroke,
  NearestPieces,
  nearerPiece,
  normalsAlong,
} from './stroke';

/**
 * What is painted, at places. A stroke is a line of dabs on the material at rest, with the straight pieces between
 * them, so that it is as sharp as one likes at any distance. It counts once wherever it lies however often it comes by:
 * added paint takes what is missing to 1 in the share of its strength, taken away it takes that share of what is there.
 */

const stroked = ({ does, strength }: PaintStroke, cover: number, was: number): number =>
  does === 'add' ? was + (1 - was) * cover * strength : was - was * cover * strength;

/** Six ways to where paint is looked for to be evened out. */
const AROUND = [0, 1, 2].flatMap((a) => [-1, 1].map((k) => [0, 1, 2].map((b) => (a === b ? k : 0))));

/** What is painted at one place by the first strokes. Smoothing looks at what was added and taken away before it. */
function paintAt(
  { base, strokes, rest }: Ground,
  upTo: number,
  [x, y, z]: readonly number[],
  normal: Vec3,
): number {
  let value = base;
  for (let s = 0; s < upTo; s++)
    if (strokes[s].does !== 'smooth') {
      const { cover } = meetStroke(strokes[s], normalsAlong(strokes[s], rest), x, y, z, normal);
      value = stroked(strokes[s], cover, value);
    }
  return value;
}

/** What is painted on. */
interface Ground {
  base: number;
  strokes: readonly PaintStroke[];
  /** The surface at rest, in its own frame. */
  rest: TriMesh;
  /** Places on it, and the face that each is on; NaN for those of other surfaces. */
  at: Float64Array;
  cells: PlaceCells;
  face: Int32Array;
}

/**
 * Writes what the stroke `s` makes of the values; places that it does not reach are not looked at.
 * @param known its nearest pieces, as far as its dabs were there before: only what the others may change is looked at
 * @param first where the first dab that is new begins in the list
 * @returns the places of which it wrote
 */
function lay(
  ground: Ground,
  s: number,
  before: Float64Array,
  value: Float64Array,
  known: NearestPieces,
  first: number,
): number[] {
  const { at, cells, face, rest } = ground;
  const stroke = ground.strokes[s];
  // A piece begins at the dab before.
  const [low, high] = boxOfStroke(stroke, Math.max(0, first - 3));
  const normals = normalsAlong(stroke, rest);
  // What is further away covers nothing.
  const most = stroke.radius * stroke.radius;
  const wrote: number[] = [];
  cells.within(low, high, (i) => {
    const o = i * 3;
    if (!nearerPiece(stroke.dabs, first, at[o], at[o + 1], at[o + 2], known, i, most)) return;
    wrote.push(i);
    const normal = faceNormal(rest, face[i]);
    const cover = coverAt(stroke, normals, known, i, normal);
    if (cover === 0) value[i] = before[i];
    else if (stroke.does !== 'smooth') value[i] = stroked(stroke, cover, before[i]);
    else {
      let mean = before[i];
      for (const way of AROUND) {
        const p = [0, 1, 2].map((a) => at[o + a] + (way[a] * stroke.radius) / 2);
        mean += paintAt(ground, s, p, normal);
      }
      value[i] = before[i] + (mean / 7 - before[i]) * cover * stroke.strength;
    }
  });
  return wrote;
}

/** Whether two strokes differ in nothing but how far they go. */
const isSameBrush = (a: PaintStroke, b: PaintStroke): boolean =>
  a.does === b.does && a.radius === b.radius && a.softness === b.softness && a.strength === b.strength;

interface Painted {
  base: number;
  strokes: readonly PaintStroke[];
  /** What all strokes but the last come to, and all of them. */
  before: Float64Array;
  values: Float64Array;
  /** Of the last one. */
  nearest: NearestPieces;
}

/** Strokes as they are drawn come one after the other, and the last one grows: all before it is known. */
const kept = new WeakMap<MaskPlaces, Map<string, Painted>>();
const rests = new WeakMap<MaskPlaces, Map<string, Float64Array>>();

/** Places on the material of a surface, x, y, z one after the other; NaN for those of others. */
export function restPlaces(places: MaskPlaces, surface: string): Float64Array {
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

const gridded = new WeakMap<Float64Array, PlaceCells>();

/** A grid of the {@link restPlaces} of a surface. */
export function cellsOf(at: Float64Array): PlaceCells {
  let cells = gridded.get(at);
  if (!cells) gridded.set(at, (cells = new PlaceCells(at)));
  return cells;
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
  const rest = places.grounds.find((g) => g.id === surface)?.rest;
  if (!rest) return new Float64Array(places.count).fill(base);
  const at = restPlaces(places, surface);
  const ground: Ground = { base, strokes, rest, at, cells: cellsOf(at), face: places.face };
  const last = strokes[n];
  let before: Float64Array;
  let values: Float64Array | null = null;
  let nearest: NearestPieces | null = null;
  let first = 0;
  if (have && have.strokes.length === strokes.length && goesOn(have.strokes, n)) {
    before = have.before;
    const was = have.strokes[n];
    // A stroke that is being drawn: what its earlier dabs have made is known.
    first = isSameBrush(was, last) ? goesOnFrom(last.dabs, was.dabs) : 0;
    if (first > 0) [values, nearest] = [have.values.slice(), have.nearest];
  } else if (have && have.strokes.length === n && goesOn(have.strokes, n)) before = have.values;
  else {
    before = new Float64Array(places.count).fill(base);
    for (let s = 0; s < n; s++) {
      const after = before.slice();
      lay(ground, s, before, after, new NearestPieces(places.count), 0);
      before = after;
    }
  }
  const from = values ? have!.values : before;
  values ??= before.slice();
  nearest ??= new NearestPieces(places.count);
  tellChanges(values, from, lay(ground, n, before, values, nearest, first));
  of.set(id, { base, strokes, before, values, nearest });
  return values;
}
