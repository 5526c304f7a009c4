import type { Place } from '../pin';
import { placeOn, type TriMesh } from '../triMesh';
import type { ChartLine } from './chart';
import type { UvIndex } from './uvIndex';

/** Steps beyond which a line is given up: no mesh has so many faces in a row. */
const MOST = 200_000;
/** Where the texture has a hole the line looks for the next face in steps of this share of the range. */
const LOOK = 1 / 512;

/**
 * Follows the line where one texture coordinate stays the same over the faces, from crossing to crossing of their
 * edges: its lengths are those of the mesh, exactly. Holes of the texture add no length.
 * @param triMesh that the index is of @param stays 0: u stays at `value`, 1: v does
 * @param from @param to range of the other coordinate, rising @param scale metres a unit of the mesh
 */
export function traceLine(
  index: UvIndex,
  triMesh: TriMesh,
  stays: 0 | 1,
  value: number,
  from: number,
  to: number,
  scale: number,
): ChartLine {
  const range = to - from;
  const at: number[] = [];
  const s: number[] = [];
  const place: Place = { face: -1, u: 0, v: 0 };
  const find = (t: number) => (stays === 0 ? index.find(value, t, place) : index.find(t, value, place));
  const eps = range * 1e-9;
  let length = 0;
  let here: [number, number, number] | null = null;
  const put = (t: number) => {
    const p = placeOn(triMesh, place.face, place.u, place.v);
    if (here) {
      const [x, y, z] = [p[0] - here[0], p[1] - here[1], p[2] - here[2]];
      length += Math.sqrt(x * x + y * y + z * z) * scale;
    }
    here = p;
    at.push(t);
    s.push(length);
  };
  /** From a place beyond a hole back to where the hole ends, and no further than `least`. */
  const backToBorder = (first: number, least: number): number => {
    let t = first + eps;
    for (let k = 0; k < MOST && t > least && find(t - eps); k++)
      t -= eps + wayOut(place, weightRates(triMesh, place.face, stays), -1);
    return Math.max(from, least, t);
  };
  let hole = false;
  let beyond = from;
  let t = from;
  for (let round = 0; t < to && round < MOST; round++) {
    // A hair inside the next face; at the beginning at the border itself.
    const inside = Math.min(to, t + eps);
    if (!find(inside)) {
      here = null;
      // Where nothing was found on the way back from beyond it, there is no use in looking once more.
      hole = t >= beyond;
      t = hole ? t + range * LOOK : beyond;
      continue;
    }
    if (hole) {
      hole = false;
      beyond = t;
      t = backToBorder(t, t - range * LOOK);
      continue;
    }
    const rates = weightRates(triMesh, place.face, stays);
    const way = wayOut(place, rates, 1);
    if (here === null) {
      // The place at t itself, on this face.
      step(place, rates, t - inside);
      put(t);
      step(place, rates, inside - t);
    }
    const out = Math.min(to, Math.max(inside + eps, inside + way));
    step(place, rates, out - inside);
    put(out);
    t = out;
  }
  // A line through nothing has two ends all the same.
  if (at.length === 0) return { at: Float64Array.of(from, to), s: Float64Array.of(0, 0) };
  if (at[0] > from) {
    at.unshift(from);
    s.unshift(0);
  }
  if (at[at.length - 1] < to) {
    at.push(to);
    s.push(length);
  }
  return { at: Float64Array.from(at), s: Float64Array.from(s) };
}

/** How far the other coordinate may grow (`sense` 1) or fall (−1) until the face ends. */
function wayOut({ u, v }: Place, rates: readonly number[], sense: 1 | -1): number {
  const w = [1 - u - v, u, v];
  let way = Infinity;
  for (let k = 0; k < 3; k++)
    if (rates[k] * sense < 0) way = Math.min(way, Math.max(0, w[k]) / Math.abs(rates[k]));
  return way;
}

function step(place: Place, rates: readonly number[], by: number): void {
  place.u += rates[1] * by;
  place.v += rates[2] * by;
}

/** How the weights of a face's corners change along one texture coordinate. */
function weightRates(
  { uvs, indices }: TriMesh,
  face: number,
  stays: 0 | 1,
): readonly [number, number, number] {
  const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] * 2);
  const w = uvs!;
  const [bu, bv, cu, cv] = [w[b] - w[a], w[b + 1] - w[a + 1], w[c] - w[a], w[c + 1] - w[a + 1]];
  const det = bu * cv - cu * bv;
  const [rb, rc] = stays === 1 ? [cv / det, -bv / det] : [-cu / det, bu / det];
  return [-rb - rc, rb, rc];
}
