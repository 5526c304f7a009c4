import { hypot } from '../../math/portable';
import { distance, type Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../bvhQuery';
import { Front } from '../front';
import { placeOn, type TriMesh } from '../triMesh';
import type { Topology } from './topology';

/**
 * The shortest way over faces from one place to another. A strip of faces that leads there is laid flat, and a string
 * pulled tight in it (Lee and Preparata 1984); where it is held by a corner the strip is led round the other side of
 * that, as long as this makes it shorter. What comes out is straight over every edge: no way near it is shorter.
 */

/** How far a place may be from a surface and yet lie on it, metres. */
const ON = 1e-3;
/** Strips that are tried at the most. */
const MOST_TRIES = 2000;

type Flat = [x: number, y: number];

/** Metres along a surface; null where a place is not on it, or no way leads from one to the other. */
export function shortestWay(mesh: TriMesh, a: Vec3, b: Vec3): number | null {
  const hit = noHit();
  const faceAt = (p: Vec3): number => (nearestPlace(mesh.tree(), p[0], p[1], p[2], ON, hit) ? hit.face : -1);
  const [from, to] = [faceAt(a), faceAt(b)];
  if (from < 0 || to < 0) return null;
  const t = mesh.topology();
  let strip = stripBetween(mesh, t, from, to);
  if (!strip) return null;
  let best = pulled(mesh, t, strip, a, b);
  const tried = new Set<string>();
  for (let i = 0; i < MOST_TRIES; i++) {
    let better = false;
    for (const corner of best.corners) {
      const round = ledRound(t, strip, corner);
      const name = round?.join();
      if (!round || tried.has(name!)) continue;
      tried.add(name!);
      const other = pulled(mesh, t, round, a, b);
      if (!(other.length < best.length * (1 - 1e-12))) continue;
      [best, strip, better] = [other, round, true];
      break;
    }
    if (!better) break;
  }
  return best.length;
}

/** The face on the other side of an edge; -1 at a border, and where more than two meet. */
function beyond({ faces }: Topology, edge: number, face: number): number {
  const [f, g] = [faces[edge * 2], faces[edge * 2 + 1]];
  if (g < 0) return -1;
  return f === face ? g : f;
}

/** Faces one beside the other from one to another, by the least way from middle to middle. */
function stripBetween(mesh: TriMesh, t: Topology, from: number, to: number): number[] | null {
  const middle = (f: number) => placeOn(mesh, f, 1 / 3, 1 / 3);
  const far = new Map([[from, 0]]);
  const before = new Map<number, number>();
  const front = new Front();
  front.push(0, from);
  for (let at = front.pop(); at; at = front.pop()) {
    if (at.d > far.get(at.v)!) continue;
    if (at.v === to) break;
    for (let k = 0; k < 3; k++) {
      const edge = t.sides[at.v * 3 + k];
      const next = edge < 0 ? -1 : beyond(t, edge, at.v);
      if (next < 0) continue;
      const d = at.d + distance(middle(at.v), middle(next));
      if (far.has(next) && far.get(next)! <= d) continue;
      far.set(next, d);
      before.set(next, at.v);
      front.push(d, next);
    }
  }
  if (!far.has(to)) return null;
  const strip = [to];
  while (strip[0] !== from) strip.unshift(before.get(strip[0])!);
  return strip;
}

/** Welded corners of a face. */
const cornersOf = (t: Topology, mesh: TriMesh, f: number): number[] =>
  [0, 1, 2].map((k) => t.weld[mesh.indices[f * 3 + k]]);

/** The edge between two faces. */
function edgeBetween(t: Topology, f: number, g: number): number {
  for (let k = 0; k < 3; k++) {
    const e = t.sides[f * 3 + k];
    if (e >= 0 && beyond(t, e, f) === g) return e;
  }
  return -1;
}

/** The shortest way inside a strip, and the corners that hold it. */
function pulled(
  mesh: TriMesh,
  t: Topology,
  strip: readonly number[],
  a: Vec3,
  b: Vec3,
): { length: number; corners: number[] } {
  if (strip.length === 1) return { length: distance(a, b), corners: [] };
  const place = (v: number): Vec3 => [0, 1, 2].map((k) => mesh.positions[t.first[v] * 3 + k]) as Vec3;
  const apart = (p: number, q: number) => distance(place(p), place(q));
  // The first face flat: its first side along x.
  const [p, q, r] = cornersOf(t, mesh, strip[0]);
  const flat = new Map<number, Flat>([
    [p, [0, 0]],
    [q, [apart(p, q), 0]],
  ]);
  flat.set(r, third(flat.get(p)!, flat.get(q)!, apart(p, r), apart(q, r), null));
  const inFace = (x: Vec3, [u, v, w]: number[], against: Map<number, Flat>): Flat =>
    spot(
      x,
      [u, v, w].map(place),
      [u, v, w].map((c) => against.get(c)!),
    );
  const start = inFace(a, [p, q, r], flat);
  const doors: Door[] = [];
  let here = flat;
  let last = strip[0];
  for (const face of strip.slice(1)) {
    const e = edgeBetween(t, last, face);
    const [u, v] = [t.edges[e * 2], t.edges[e * 2 + 1]];
    const inside = cornersOf(t, mesh, last).find((c) => c !== u && c !== v)!;
    const other = cornersOf(t, mesh, face).find((c) => c !== u && c !== v)!;
    const [fu, fv] = [here.get(u)!, here.get(v)!];
    const there = third(fu, fv, apart(u, other), apart(v, other), here.get(inside)!);
    // Left is where the corner is that one has on the left on the way out of the face.
    const left = turn(here.get(inside)!, fu, fv) < 0;
    doors.push(left ? { left: u, right: v, l: fu, r: fv } : { left: v, right: u, l: fv, r: fu });
    here = new Map([
      [u, fu],
      [v, fv],
      [other, there],
    ]);
    last = face;
  }
  const end = inFace(b, [...here.keys()], here);
  return funnel(start, end, doors);
}

/** Twice the area of a triangle; above 0 where it runs against the clock, 0 where that is a matter of the last digits. */
function turn(a: Flat, b: Flat, c: Flat): number {
  const [bx, by, cx, cy] = [b[0] - a[0], b[1] - a[1], c[0] - a[0], c[1] - a[1]];
  const area = bx * cy - by * cx;
  const far = Math.max(...[a, b, c].flat().map(Math.abs));
  const last = 1e-14 * far * (Math.abs(bx) + Math.abs(by) + Math.abs(cx) + Math.abs(cy));
  return Math.abs(area) > last ? area : 0;
}

/** The corner of a flat triangle over a side of it, by its distances from both; on the side away from `not`. */
function third(a: Flat, b: Flat, da: number, db: number, not: Flat | null): Flat {
  const [dx, dy] = [b[0] - a[0], b[1] - a[1]];
  const l = hypot(dx, dy);
  const x = l > 0 ? (da * da - db * db + l * l) / (2 * l) : 0;
  const y = Math.sqrt(Math.max(0, da * da - x * x));
  const side = not && turn(a, b, not) > 0 ? -1 : 1;
  const [ux, uy] = l > 0 ? [dx / l, dy / l] : [1, 0];
  return [a[0] + ux * x - uy * y * side, a[1] + uy * x + ux * y * side];
}

/** A place of a face where that lies flat, by its weights. */
function spot(p: Vec3, corners: readonly Vec3[], flat: readonly Flat[]): Flat {
  const [o, b, c] = corners;
  const sub = (v: Vec3) => v.map((x, k) => x - o[k]) as Vec3;
  const dot = (u: Vec3, v: Vec3) => u[0] * v[0] + u[1] * v[1] + u[2] * v[2];
  const [e, f, g] = [sub(b), sub(c), sub(p)];
  const [ee, ef, ff, ge, gf] = [dot(e, e), dot(e, f), dot(f, f), dot(g, e), dot(g, f)];
  const area = ee * ff - ef * ef;
  const [s, t] = [(ff * ge - ef * gf) / area, (ee * gf - ef * ge) / area];
  return [0, 1].map((k) => flat[0][k] * (1 - s - t) + flat[1][k] * s + flat[2][k] * t) as Flat;
}

/** A side of a strip that the string goes through: its corners, and where they lie flat. */
interface Door {
  left: number;
  right: number;
  l: Flat;
  r: Flat;
}

/** Pulls a string tight through doors, one after the other. */
function funnel(start: Flat, end: Flat, doors: readonly Door[]): { length: number; corners: number[] } {
  const point = (p: Flat): Door => ({ left: -1, right: -1, l: p, r: p });
  const all = [point(start), ...doors, point(end)];
  const same = (p: Flat, q: Flat) => hypot(p[0] - q[0], p[1] - q[1]) < 1e-12;
  const corners: number[] = [];
  let length = 0;
  let [apex, left, right] = [start, start, start];
  let [leftAt, rightAt] = [0, 0];
  /** The string lies against a corner: it goes on from there. @returns the door that it is of */
  const heldBy = (to: Flat, corner: number, door: number): number => {
    length += hypot(to[0] - apex[0], to[1] - apex[1]);
    corners.push(corner);
    [apex, left, right] = [to, to, to];
    [leftAt, rightAt] = [door, door];
    return door;
  };
  for (let i = 1; i < all.length; i++) {
    const { l, r } = all[i];
    if (turn(apex, right, r) >= 0) {
      if (same(apex, right) || turn(apex, left, r) <= 0) [right, rightAt] = [r, i];
      else {
        i = heldBy(left, all[leftAt].left, leftAt);
        continue;
      }
    }
    if (turn(apex, left, l) <= 0) {
      if (same(apex, left) || turn(apex, right, l) >= 0) [left, leftAt] = [l, i];
      else i = heldBy(right, all[rightAt].right, rightAt);
    }
  }
  length += hypot(end[0] - apex[0], end[1] - apex[1]);
  return { length, corners: corners.filter((c) => c >= 0) };
}

/** The strip led round a corner on its other side; null where that is no way. */
function ledRound(t: Topology, strip: readonly number[], corner: number): number[] | null {
  const at = (f: number) =>
    [0, 1, 2].some((k) => {
      const e = t.sides[f * 3 + k];
      return e >= 0 && (t.edges[e * 2] === corner || t.edges[e * 2 + 1] === corner);
    });
  const i = strip.findIndex(at);
  let j = i;
  while (j + 1 < strip.length && at(strip[j + 1])) j++;
  if (i < 0 || j === i) return null;
  const [first, last] = [strip[i], strip[j]];
  const around = (f: number) =>
    [0, 1, 2]
      .map((k) => t.sides[f * 3 + k])
      .filter((e) => e >= 0 && (t.edges[e * 2] === corner || t.edges[e * 2 + 1] === corner));
  let used = edgeBetween(t, first, strip[i + 1]);
  const other: number[] = [];
  for (let f = first; other.length <= 1000;) {
    const e = around(f).find((edge) => edge !== used);
    const next = e === undefined ? -1 : beyond(t, e, f);
    if (next < 0 || next === first) return null;
    if (next === last) return trimmed([...strip.slice(0, i + 1), ...other, ...strip.slice(j)]);
    other.push(next);
    [used, f] = [e!, next];
  }
  return null;
}

/** A strip without faces that it goes into and back out of. */
function trimmed(strip: number[]): number[] {
  const out: number[] = [];
  for (const f of strip) {
    if (out.length > 1 && out[out.length - 2] === f) out.pop();
    else out.push(f);
  }
  return out;
}
