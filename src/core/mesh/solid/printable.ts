import { atan2, sin } from '../../math/portable';
import type { Vec3 } from '../../math/vec3';
import { buildBvh, type Bvh } from '../bvh';
import { firstHit, noHit } from '../bvhQuery';
import { faceCross } from '../face';

/** What a printer asks of a body. Lengths in the units of its positions. */
export interface Printable {
  /**
   * The thinnest wall, along a ray into it, and where: so thin over the area of a detail at least, since slivers that are
   * smaller do not come out at all. Null where no ray comes out square enough.
   */
  wall: Found | null;
  /** The narrowest gap between faces that look at each other, in the same sense. */
  gap: Found | null;
  /** Shares of its faces' area, 0–1: thinner than the wall that holds; leaning out further than is printed without supports. */
  thin: number;
  overhang: number;
  /** The face that leans out furthest: degrees from upright, and where. Null where none looks down. */
  steepest: (Found & { deg: number }) | null;
}

export interface Found {
  size: number;
  at: Vec3;
}

/** So many rays are cast over the whole of it, and one at least a face. */
const RAYS = 20_000;
/** More faces than this are not all looked at: every so many-th. */
const MOST_FACES = 200_000;
/** Faces this far from square to a ray end no wall: beside an edge a wedge is as thin as one likes. */
const FACING = 0.5;
/** Between two looks at the clock. */
const TURN = 512;

/**
 * Looks a closed body over: walls and gaps by rays from places spread over its faces, straight inwards and outwards
 * (thickness by rays: what a wall measures square to the face that it is seen from).
 * @param wall the thinnest wall that holds @param detail the smallest thing that comes out @param overhangDeg from upright @param up unit, away from the bed
 * @returns yields now and then; in the end what it is
 */
export function* printable(
  { positions, indices }: { positions: Float64Array; indices: Uint32Array },
  { wall, detail, overhangDeg, up }: { wall: number; detail: number; overhangDeg: number; up: Vec3 },
): Generator<void, Printable> {
  const tree = buildBvh(positions, indices);
  const n = new Float64Array(3);
  const count = indices.length / 3;
  const each = Math.max(1, Math.ceil(count / MOST_FACES));
  let [all, bed] = [0, Infinity];
  for (let f = 0; f < count; f++) all += areaOf(positions, indices, f, n);
  for (let o = 0; o < positions.length; o += 3) bed = Math.min(bed, along(positions, o, up));
  const hair = sizeOf(tree) * 1e-6;
  const [walls, gaps] = [new Across(), new Across()];
  const out: Printable = { wall: null, gap: null, thin: 0, overhang: 0, steepest: null };
  let looked = 0;
  for (let f = 0; f < count; f += each) {
    const area = areaOf(positions, indices, f, n);
    if (!(area > 0)) continue;
    looked += area;
    for (let k = 0; k < 3; k++) n[k] /= 2 * area;
    lean(f, area);
    const rays = Math.max(1, Math.round((area / all) * RAYS));
    let thin = 0;
    for (let r = 0; r < rays; r++) {
      const at = placeOn(positions, indices, f, r);
      const inside = across(at, n, -1);
      if (inside !== null && inside < wall) thin++;
      if (inside !== null) walls.add(inside, area / rays, at);
      const outside = across(at, n, 1);
      if (outside !== null) gaps.add(outside, area / rays, at);
      if ((r + f) % TURN === TURN - 1) yield;
    }
    out.thin += (thin / rays) * area;
  }
  out.wall = walls.least(detail * detail);
  out.gap = gaps.least(detail * detail);
  if (looked > 0) {
    out.thin /= looked;
    out.overhang /= looked;
  }
  return out;

  /** How far it is to the next face that looks this way; null where there is none. @param way 1: outwards */
  function across(at: Vec3, normal: Float64Array, way: 1 | -1): number | null {
    const [x, y, z] = [normal[0] * way, normal[1] * way, normal[2] * way];
    if (!firstHit(tree, at[0], at[1], at[2], x, y, z, hair, Infinity, hit)) return null;
    const { face, t } = hit;
    const area = areaOf(positions, indices, face, other);
    const facing = (other[0] * normal[0] + other[1] * normal[1] + other[2] * normal[2]) / (2 * area);
    return facing < -FACING ? t : null;
  }

  function lean(f: number, area: number): void {
    const down = -(n[0] * up[0] + n[1] * up[1] + n[2] * up[2]);
    if (!(down > 1e-6)) return;
    const at = placeOn(positions, indices, f, 0);
    // What lies on the bed is held by that.
    if ([0, 1, 2].every((k) => along(positions, indices[f * 3 + k] * 3, up) < bed + hair * 10)) return;
    if (down > sin((overhangDeg * Math.PI) / 180) + 1e-9) out.overhang += area;
    const deg = (atan2(down, Math.sqrt(Math.max(0, 1 - down * down))) * 180) / Math.PI;
    if (!(out.steepest && out.steepest.deg >= deg)) out.steepest = { size: area, at, deg };
  }
}

/** What rays have measured, each for so much of the faces. */
class Across {
  private sizes: number[] = [];
  private areas: number[] = [];
  private places: Vec3[] = [];

  add(size: number, area: number, at: Vec3): void {
    this.sizes.push(size);
    this.areas.push(area);
    this.places.push(at);
  }

  /** The least size that so much area has, or less. */
  least(area: number): Found | null {
    const { sizes, areas, places } = this;
    const order = Uint32Array.from(sizes.keys()).sort((a, b) => sizes[a] - sizes[b] || a - b);
    let sum = 0;
    for (const i of order) {
      sum += areas[i];
      if (sum >= area) return { size: sizes[i], at: places[i] };
    }
    return order.length > 0 ? { size: sizes[order[0]], at: places[order[0]] } : null;
  }
}

const hit = noHit();
const other = new Float64Array(3);

const along = (p: Float64Array, o: number, up: Vec3): number =>
  p[o] * up[0] + p[o + 1] * up[1] + p[o + 2] * up[2];

/** The area of a face; `out` becomes its normal, twice as long. */
function areaOf(p: Float64Array, indices: Uint32Array, f: number, out: Float64Array): number {
  faceCross(p, indices, f, out);
  return Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]) / 2;
}

/** The diagonal of the box about it. */
function sizeOf({ bounds, nodes }: Bvh): number {
  if (nodes === 0) return 0;
  let square = 0;
  for (let a = 0; a < 3; a++) square += (bounds[3 + a] - bounds[a]) * (bounds[3 + a] - bounds[a]);
  return Math.sqrt(square);
}

/** Places spread evenly over a face, the first its middle (the R2 sequence of Roberts 2018, folded into the triangle). */
function placeOn(p: Float64Array, indices: Uint32Array, f: number, r: number): Vec3 {
  let [u, v] = [1 / 3, 1 / 3];
  if (r > 0) {
    u = (0.5 + r * 0.7548776662466927) % 1;
    v = (0.5 + r * 0.5698402909980532) % 1;
    if (u + v > 1) [u, v] = [1 - u, 1 - v];
  }
  const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
  return [0, 1, 2].map((k) => p[a + k] + (p[b + k] - p[a + k]) * u + (p[c + k] - p[a + k]) * v) as Vec3;
}
