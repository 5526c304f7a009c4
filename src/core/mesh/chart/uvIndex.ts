import type { Place } from '../pin';
import { islandsOf, type Island, type Laid } from './islands';

/** Which face lies at a place of the texture. */
export interface UvIndex {
  /** Least and greatest u and v. */
  u: [number, number];
  v: [number, number];
  /** Pieces that hang together, in the order of their first faces. */
  islands: Island[];
  /** The number of each face's island. */
  islandOf: Uint32Array;
  /** Faces that lie the other way round than the rest of their island. */
  turnedOver: number;
  /**
   * Writes the face at u, v and the weights of its second and third corner; the face that is in `out` already is
   * looked at first. @returns false where none lies there
   */
  find(u: number, v: number, out: Place): boolean;
}

/** Weights may fall short of a face by this much: places on edges belong to one of both. */
const EDGE = 1e-9;
/** About so many faces a cell of the grid. */
const PER_CELL = 2;
const MOST_CELLS = 1024;

const kept = new WeakMap<Float32Array, UvIndex>();

/** The index of a mesh's texture coordinates, made once for each. Where islands overlap, the first one counts. */
export function uvIndex(mesh: Laid & { positions: ArrayLike<number> }): UvIndex {
  let have = kept.get(mesh.uvs);
  if (!have) kept.set(mesh.uvs, (have = makeIndex(mesh)));
  return have;
}

function makeIndex(mesh: Laid & { positions: ArrayLike<number> }): UvIndex {
  const { uvs, indices } = mesh;
  const faces = indices.length / 3;
  const range: [number, number, number, number] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < uvs.length; i += 2) {
    range[0] = Math.min(range[0], uvs[i]);
    range[1] = Math.max(range[1], uvs[i]);
    range[2] = Math.min(range[2], uvs[i + 1]);
    range[3] = Math.max(range[3], uvs[i + 1]);
  }
  const [u0, u1, v0, v1] = range;
  const n = Math.min(MOST_CELLS, Math.max(1, Math.ceil(Math.sqrt(faces / PER_CELL))));
  const kx = n / (u1 - u0 || 1);
  const ky = n / (v1 - v0 || 1);
  const column = (u: number) => Math.min(n - 1, Math.max(0, Math.floor((u - u0) * kx)));
  const row = (v: number) => Math.min(n - 1, Math.max(0, Math.floor((v - v0) * ky)));
  /** Corner k of a face as u and v, one after the other. */
  const corner = new Float64Array(faces * 6);
  for (let i = 0; i < indices.length; i++) {
    corner[i * 2] = uvs[indices[i] * 2];
    corner[i * 2 + 1] = uvs[indices[i] * 2 + 1];
  }
  const area = new Float64Array(faces);
  for (let f = 0, c = 0; f < faces; f++, c += 6)
    area[f] =
      (corner[c + 2] - corner[c]) * (corner[c + 5] - corner[c + 1]) -
      (corner[c + 4] - corner[c]) * (corner[c + 3] - corner[c + 1]);
  const hair = 1e-14 * (u1 - u0) * (v1 - v0);
  /** Calls for each cell that a face's box meets. */
  const cells = (f: number, call: (cell: number) => void) => {
    const c = f * 6;
    const x0 = column(Math.min(corner[c], corner[c + 2], corner[c + 4]));
    const x1 = column(Math.max(corner[c], corner[c + 2], corner[c + 4]));
    const y0 = row(Math.min(corner[c + 1], corner[c + 3], corner[c + 5]));
    const y1 = row(Math.max(corner[c + 1], corner[c + 3], corner[c + 5]));
    for (let y = y0; y <= y1; y++) for (let x = x0; x <= x1; x++) call(y * n + x);
  };
  const start = new Uint32Array(n * n + 1);
  const flat = (f: number) => !(Math.abs(area[f]) > hair);
  for (let f = 0; f < faces; f++) if (!flat(f)) cells(f, (cell) => start[cell + 1]++);
  for (let i = 0; i < n * n; i++) start[i + 1] += start[i];
  const list = new Uint32Array(start[n * n]);
  const at = start.slice();
  for (let f = 0; f < faces; f++) if (!flat(f)) cells(f, (cell) => (list[at[cell]++] = f));
  /** Whether a face holds a place, all weights at least `edge`; they are then in `weights`. */
  const weights = new Float64Array(2);
  const holds = (f: number, u: number, v: number, edge: number): boolean => {
    const c = f * 6;
    const du = u - corner[c];
    const dv = v - corner[c + 1];
    const k = 1 / area[f];
    const b = (du * (corner[c + 5] - corner[c + 1]) - dv * (corner[c + 4] - corner[c])) * k;
    const w = (dv * (corner[c + 2] - corner[c]) - du * (corner[c + 3] - corner[c + 1])) * k;
    if (!(b >= edge && w >= edge && 1 - b - w >= edge)) return false;
    weights[0] = b;
    weights[1] = w;
    return true;
  };
  const { islands, islandOf, turnedOver } = islandsOf(mesh, area);
  /** Faces of an island that lies on an earlier one are not looked at. */
  const under = new Uint8Array(islands.length);
  const others = (u: number, v: number, call: (face: number) => void) => {
    const cell = row(v) * n + column(u);
    for (let i = start[cell]; i < start[cell + 1]; i++) if (holds(list[i], u, v, 1e-6)) call(list[i]);
  };
  if (islands.length > 1)
    for (let f = 0; f < faces; f++) {
      if (flat(f)) continue;
      const c = f * 6;
      for (let k = 0; k < 4; k++) {
        // The middle of the face, and a place well inside towards each corner.
        const w = [0, 1, 2].map((i) => (k === 3 ? 1 / 3 : i === k ? 0.6 : 0.2));
        const u = corner[c] * w[0] + corner[c + 2] * w[1] + corner[c + 4] * w[2];
        const v = corner[c + 1] * w[0] + corner[c + 3] * w[1] + corner[c + 5] * w[2];
        others(u, v, (g) => {
          const [a, b] = [islandOf[f], islandOf[g]].sort((i, j) => i - j);
          if (a === b || islands[b].on >= 0) return;
          islands[b].on = a;
          under[b] = 1;
        });
      }
    }
  return {
    u: [u0, u1],
    v: [v0, v1],
    islands,
    islandOf,
    turnedOver,
    find(u, v, out) {
      const { face } = out;
      if (face >= 0 && face < faces && !flat(face) && !under[islandOf[face]] && holds(face, u, v, -EDGE)) {
        out.u = weights[0];
        out.v = weights[1];
        return true;
      }
      const cell = row(v) * n + column(u);
      for (let i = start[cell]; i < start[cell + 1]; i++) {
        const f = list[i];
        if (under[islandOf[f]] || !holds(f, u, v, -EDGE)) continue;
        out.face = f;
        out.u = weights[0];
        out.v = weights[1];
        return true;
      }
      return false;
    },
  };
}
