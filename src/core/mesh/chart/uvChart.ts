import type { Place } from '../pin';
import type { TriMesh } from '../triMesh';
import { AT, type Chart } from './chart';
import { traceLine } from './trace';
import { uvIndex } from './uvIndex';

/** A chart of a mesh by its texture coordinates. */
export interface UvChart extends Chart {
  /** The place of the material at u, v; false where there is none. The face in `out` is looked at first. */
  place(u: number, v: number, out: Place): boolean;
}

/** A part of the texture: least and greatest u and v. */
export interface UvWindow {
  u: [number, number];
  v: [number, number];
}

/** Ends that lie closer than this share of the surface's size are one. */
const CLOSE = 1e-4;

/**
 * The chart of a surface by its texture coordinates, or of a window of them. Lengths are those of the surface at
 * rest, so that what is laid by them is laid on the material; places are where that is now.
 * @param rest the surface before it is deformed, in any frame @param size metres in the scene a unit of that
 * @param window shares of the whole texture, 0–1 @returns null for a surface without texture coordinates
 */
export function uvChart(rest: TriMesh, now: TriMesh, size: number, window: UvWindow): UvChart | null {
  if (!rest.uvs || rest.indices.length < 3) return null;
  const index = uvIndex(rest as TriMesh & { uvs: Float32Array });
  const part = ([low, high]: [number, number], [from, to]: [number, number]): [number, number] => {
    const [a, b] = from < to ? [from, to] : [to, from];
    // A window of nothing would have no lengths at all.
    const start = Math.min(a, 1 - 1e-4);
    return [low + (high - low) * start, low + (high - low) * Math.max(b, start + 1e-4)];
  };
  const u = part(index.u, window.u);
  const v = part(index.v, window.v);
  const hint: Place = { face: -1, u: 0, v: 0 };
  const { uvs, indices } = rest;
  const at = (x: number, y: number, out: Float64Array): boolean => {
    if (!index.find(x, y, hint)) return false;
    writeAt(now, uvs!, indices, hint, out);
    return true;
  };
  const closed = (axis: 0 | 1) => {
    const [low, high] = axis === 0 ? u : v;
    const [a, b] = axis === 0 ? v : u;
    const here = new Float64Array(AT.length);
    const there = new Float64Array(AT.length);
    let far = 0;
    let wide = 0;
    for (let k = 0; k < 5; k++) {
      const other = a + ((b - a) * (k + 0.5)) / 5;
      const middle = (low + high) / 2;
      const get = (t: number, to: Float64Array) => (axis === 0 ? at(t, other, to) : at(other, t, to));
      if (!get(low, here) || !get(high, there)) return false;
      far = Math.max(far, apart(here, there));
      if (get(middle, there)) wide = Math.max(wide, apart(here, there));
    }
    return wide > 0 && far < wide * CLOSE;
  };
  return {
    u,
    v,
    closedU: closed(0),
    closedV: closed(1),
    lengthsOf: rest,
    size,
    at,
    place: (x, y, out) => index.find(x, y, out),
    line: (stays, value) =>
      stays === 0
        ? traceLine(index, rest, 0, value, v[0], v[1], size)
        : traceLine(index, rest, 1, value, u[0], u[1], size),
  };
}

const apart = (a: Float64Array, b: Float64Array): number => {
  const [x, y, z] = [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
  return Math.sqrt(x * x + y * y + z * z);
};

/** Writes the place, its smooth normal, and the directions of u and v on its face. */
function writeAt(
  { positions: p, normals: n }: TriMesh,
  uvs: Float32Array,
  indices: Uint32Array,
  { face, u, v }: Place,
  out: Float64Array,
): void {
  const ia = indices[face * 3];
  const ib = indices[face * 3 + 1];
  const ic = indices[face * 3 + 2];
  const a = ia * 3;
  const b = ib * 3;
  const c = ic * 3;
  const w = 1 - u - v;
  const bu = uvs[ib * 2] - uvs[ia * 2];
  const bv = uvs[ib * 2 + 1] - uvs[ia * 2 + 1];
  const cu = uvs[ic * 2] - uvs[ia * 2];
  const cv = uvs[ic * 2 + 1] - uvs[ia * 2 + 1];
  const k = 1 / (bu * cv - cu * bv);
  let long = 0;
  for (let r = 0; r < 3; r++) {
    const eb = p[b + r] - p[a + r];
    const ec = p[c + r] - p[a + r];
    out[r] = p[a + r] + eb * u + ec * v;
    const m = n[a + r] * w + n[b + r] * u + n[c + r] * v;
    out[3 + r] = m;
    long += m * m;
    out[6 + r] = (eb * cv - ec * bv) * k;
    out[9 + r] = (ec * bu - eb * cu) * k;
  }
  if (!(long > 1e-18)) {
    // Normals that take each other away: the face's own.
    out[3] = out[7] * out[11] - out[8] * out[10];
    out[4] = out[8] * out[9] - out[6] * out[11];
    out[5] = out[6] * out[10] - out[7] * out[9];
    long = out[3] * out[3] + out[4] * out[4] + out[5] * out[5];
  }
  const l = 1 / (Math.sqrt(long) || 1);
  out[3] *= l;
  out[4] *= l;
  out[5] *= l;
}
