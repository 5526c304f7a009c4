import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { turnedOver, type BentMesh } from '../../mesh/bend';
import type { Sliced } from '../../mesh/slice';
import type { SheetMap } from './map';

/** Lays the vertices of one item where its sheet lays them. */

/** How an item lies on its sheet: its own axes seen from right, up the sheet and away from it, with its sizes. */
export type Turned = [right: Vec3, up: Vec3, high: Vec3];

/** A place of a sheet, and the row's own frame that shapes are seen from. */
export interface Seen {
  map: SheetMap;
  a: number;
  b: number;
  at: Float64Array;
  side: 1 | -1;
  /** The inverse of the row's rotation. */
  q: Quat;
  position: Vec3;
  share: Float64Array;
  here: Float64Array;
}

/** Writes what the map tells so many metres across and up from the foot; where it has a hole the surface goes straight on. */
export function lookAt({ map, a, b, at, share, here }: Seen, dx: number, dy: number): void {
  map.moved(a, b, dx, dy, share);
  if (map.at(share[0], share[1], here)) return;
  here.set(at);
  for (let r = 0; r < 3; r++) here[r] += at[6 + r] * (share[0] - a) + at[9 + r] * (share[1] - b);
}

/** Where a mesh's vertices stand as seen from above: those over one another are one spot. */
interface Spots {
  /** The spot of each vertex. */
  of: Uint32Array;
  /** x and z a spot. */
  at: Float64Array;
}

const spotted = new WeakMap<Sliced, Spots>();

function spotsOf(mesh: Sliced): Spots {
  let have = spotted.get(mesh);
  if (have) return have;
  const { positions: p } = mesh;
  const n = p.length / 3;
  const of = new Uint32Array(n);
  const at: number[] = [];
  const known = new Map<number, Map<number, number>>();
  for (let i = 0; i < n; i++) {
    const [x, z] = [p[i * 3], p[i * 3 + 2]];
    let row = known.get(z);
    if (!row) known.set(z, (row = new Map()));
    let spot = row.get(x);
    if (spot === undefined) {
      row.set(x, (spot = at.length / 2));
      at.push(x, z);
    }
    of[i] = spot;
  }
  spotted.set(mesh, (have = { of, at: Float64Array.from(at) }));
  return have;
}

/** Numbers a spot: its place, its normal, and three directions that a normal is put together from. */
const SPOT = 15;
let buffer = new Float64Array(SPOT * 1024);

/** Looks the surface up at every spot of an item; tipped ones have no two vertices over one another. */
function laySpots(seen: Seen, mesh: Sliced, [right, up]: Turned): Spots['of'] | null {
  const { side } = seen;
  const level = Math.abs(right[1]) < 1e-12 && Math.abs(up[1]) < 1e-12;
  const spots = level ? spotsOf(mesh) : null;
  const { positions: p } = mesh;
  const n = spots ? spots.at.length / 2 : p.length / 3;
  if (buffer.length < n * SPOT) buffer = new Float64Array(n * SPOT * 2);
  for (let i = 0; i < n; i++) {
    const x = spots ? spots.at[i * 2] : p[i * 3];
    const y = spots ? 0 : p[i * 3 + 1];
    const z = spots ? spots.at[i * 2 + 1] : p[i * 3 + 2];
    const dx = (right[0] * x + right[1] * y + right[2] * z) * side;
    const dy = up[0] * x + up[1] * y + up[2] * z;
    lookAt(seen, dx, dy);
    writeSpot(seen.here, i * SPOT);
  }
  return spots ? spots.of : null;
}

/** A place, its normal, and the rows of the inverse of its directions: normals turn by those. */
function writeSpot(at: Float64Array, o: number): void {
  const ax = 1 / (Math.sqrt(at[6] * at[6] + at[7] * at[7] + at[8] * at[8]) || 1);
  const bx = 1 / (Math.sqrt(at[9] * at[9] + at[10] * at[10] + at[11] * at[11]) || 1);
  const x0 = at[6] * ax;
  const x1 = at[7] * ax;
  const x2 = at[8] * ax;
  const y0 = at[9] * bx;
  const y1 = at[10] * bx;
  const y2 = at[11] * bx;
  const n0 = at[3];
  const n1 = at[4];
  const n2 = at[5];
  const w0 = x1 * y2 - x2 * y1;
  const w1 = x2 * y0 - x0 * y2;
  const w2 = x0 * y1 - x1 * y0;
  const k = n0 * w0 + n1 * w1 + n2 * w2 < 0 ? -1 : 1;
  const b = buffer;
  b[o] = at[0];
  b[o + 1] = at[1];
  b[o + 2] = at[2];
  b[o + 3] = n0;
  b[o + 4] = n1;
  b[o + 5] = n2;
  // Up × away, away × across and across × up.
  b[o + 6] = (y1 * n2 - y2 * n1) * k;
  b[o + 7] = (y2 * n0 - y0 * n2) * k;
  b[o + 8] = (y0 * n1 - y1 * n0) * k;
  b[o + 9] = (n1 * x2 - n2 * x1) * k;
  b[o + 10] = (n2 * x0 - n0 * x2) * k;
  b[o + 11] = (n0 * x1 - n1 * x0) * k;
  b[o + 12] = w0 * k;
  b[o + 13] = w1 * k;
  b[o + 14] = w2 * k;
}

/** Lays every vertex of an item where the sheet lays it, seen from its row. */
export function bendTo(seen: Seen, mesh: Sliced, turned: Turned, lift: number, relief: number): BentMesh {
  const spotOf = laySpots(seen, mesh, turned);
  const { side, q } = seen;
  const [px, py, pz] = seen.position;
  const { positions: p, normals: w } = mesh;
  const n = p.length / 3;
  const positions = new Float64Array(n * 3);
  const normals = new Float32Array(n * 3);
  const [right, up, high] = turned;
  // Normals of a scaled mesh turn by the inverse of its sizes: rows divided by their squared lengths.
  const inverse = ([0, 1, 2] as const).map((k) => {
    const square = right[k] * right[k] + up[k] * up[k] + high[k] * high[k];
    return square > 0 ? 1 / square : 0;
  });
  const [r0, r1, r2] = right.map((v, k) => v * inverse[k] * side);
  const [u0, u1, u2] = up.map((v, k) => v * inverse[k]);
  const [g0, g1, g2] = high.map((v, k) => (v * inverse[k]) / (relief || 1));
  const [h0, h1, h2] = high.map((v) => v * relief);
  // The row's frame as three rows.
  const [m0, m3, m6] = quatRotate(q, [1, 0, 0]);
  const [m1, m4, m7] = quatRotate(q, [0, 1, 0]);
  const [m2, m5, m8] = quatRotate(q, [0, 0, 1]);
  const b = buffer;
  for (let i = 0, o = 0; i < n; i++, o += 3) {
    const s = (spotOf ? spotOf[i] : i) * SPOT;
    const h = h0 * p[o] + h1 * p[o + 1] + h2 * p[o + 2] + lift;
    const x = b[s] + b[s + 3] * h - px;
    const y = b[s + 1] + b[s + 4] * h - py;
    const z = b[s + 2] + b[s + 5] * h - pz;
    positions[o] = m0 * x + m1 * y + m2 * z;
    positions[o + 1] = m3 * x + m4 * y + m5 * z;
    positions[o + 2] = m6 * x + m7 * y + m8 * z;
    const nr = r0 * w[o] + r1 * w[o + 1] + r2 * w[o + 2];
    const nu = u0 * w[o] + u1 * w[o + 1] + u2 * w[o + 2];
    const nh = g0 * w[o] + g1 * w[o + 1] + g2 * w[o + 2];
    const vx = b[s + 6] * nr + b[s + 9] * nu + b[s + 12] * nh;
    const vy = b[s + 7] * nr + b[s + 10] * nu + b[s + 13] * nh;
    const vz = b[s + 8] * nr + b[s + 11] * nu + b[s + 14] * nh;
    const l = 1 / (Math.sqrt(vx * vx + vy * vy + vz * vz) || 1);
    normals[o] = (m0 * vx + m1 * vy + m2 * vz) * l;
    normals[o + 1] = (m3 * vx + m4 * vy + m5 * vz) * l;
    normals[o + 2] = (m6 * vx + m7 * vy + m8 * vz) * l;
  }
  const { uvs, colors, indices, groups } = mesh;
  // Mirrored by its sizes, or by heights turned over: two corners of each face change places.
  const det =
    right[0] * (up[1] * high[2] - up[2] * high[1]) -
    right[1] * (up[0] * high[2] - up[2] * high[0]) +
    right[2] * (up[0] * high[1] - up[1] * high[0]);
  const faces = det * relief < 0 ? turnedOver(indices) : indices;
  return { positions, normals, ...(uvs && { uvs }), ...(colors && { colors }), indices: faces, groups };
}
