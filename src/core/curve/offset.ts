import { add, addScaled, cross, distance, dot, length, normalize, scale, sub, type Vec3 } from '../math/vec3';
import type { PathPoint } from './schema';
import type { CompiledPath } from './compile';
import { corner, through } from './generate/points';
import type { Generated } from './generate';
import { nearestOnPath } from './nearest';
import { atan2 } from '../math/portable';

/** A stretch of one segment of the base whose offset is wanted. */
interface Piece {
  k: number;
  t0: number;
  t1: number;
}

/** Above this many segments loops are not cut away: that would take seconds. */
const MOST_CHECKED = 8000;
/** A join reaches at most this many times the distance from its corner; sharper ones are cut straight. */
const MITRE = 4;

/**
 * The curve at a fixed distance beside a path, in a plane. Loops where the path bends tighter than the distance,
 * or comes near itself, are cut away at the crossing; outer corners are joined to a point. Fitted to 1e-7 of the
 * distance.
 * @param side metres to the right of the way along as seen against `normal` @param normal of the plane, unit
 * @returns one or more strokes (cutting may part them); none where nothing is left
 */
export function offsetPath(path: CompiledPath, side: number, normal: Vec3): Generated[] {
  const at = offsetPoint(path, side, normal);
  if (side === 0 || path.segmentCount > MOST_CHECKED)
    return [joined(path, allPieces(path), at, side, normal)];
  const near = Math.abs(side) * (1 - 1e-7) - 1e-9;
  const valid = (k: number, t: number) => nearestOnPath(path, at(k, t).p).distance >= near;
  const kept: Piece[][] = [];
  let run: Piece[] = [];
  const close = () => {
    if (run.length) kept.push(run);
    run = [];
  };
  for (const piece of allPieces(path)) {
    const marks = [piece.t0, (piece.t0 + piece.t1) / 2, piece.t1];
    // Just inside, so that the two sides of a corner are told apart.
    const inner = marks.map((t, i) => t + [1, 0, -1][i] * 1e-9 * (piece.t1 - piece.t0));
    const ok = inner.map((t) => valid(piece.k, t));
    for (let h = 0; h < 2; h++) {
      if (ok[h] && ok[h + 1]) run.push({ k: piece.k, t0: marks[h], t1: marks[h + 1] });
      else if (ok[h] || ok[h + 1]) {
        let [a, b] = [inner[h], inner[h + 1]];
        for (let i = 0; i < 52; i++) {
          const mid = (a + b) / 2;
          if (valid(piece.k, mid) === ok[h]) a = mid;
          else b = mid;
        }
        if (ok[h]) {
          run.push({ k: piece.k, t0: marks[h], t1: a });
          close();
        } else {
          close();
          run.push({ k: piece.k, t0: b, t1: marks[h + 1] });
        }
      } else close();
    }
  }
  close();
  if (kept.length === 0) return [];
  return linked(path, kept, at, side, normal);
}

/** Point and derivative (for t from 0 to 1 of the segment) of the offset. */
type OffsetPoint = (k: number, t: number) => { p: Vec3; d: Vec3 };

function offsetPoint(path: CompiledPath, side: number, normal: Vec3): OffsetPoint {
  const q = path.powers;
  const read = (k: number, t: number, order: 0 | 1 | 2): Vec3 =>
    [0, 1, 2].map((a) => {
      const o = k * 12 + a;
      if (order === 0) return ((q[o] * t + q[o + 3]) * t + q[o + 6]) * t + q[o + 9];
      if (order === 1) return (3 * q[o] * t + 2 * q[o + 3]) * t + q[o + 6];
      return 6 * q[o] * t + 2 * q[o + 3];
    }) as Vec3;
  return (k, t) => {
    const d1 = read(k, t, 1);
    const d2 = read(k, t, 2);
    const c = cross(d1, normal);
    const l = length(c);
    if (!(l > 1e-12 * (1 + length(d1)))) {
      const e = path.endTangents.subarray(k * 6 + (t > 0.5 ? 3 : 0));
      const right = normalize(cross([e[0], e[1], e[2]], normal), [0, 0, 0]);
      return { p: addScaled(read(k, t, 0), right, side), d: d1 };
    }
    const right = scale(c, 1 / l);
    const dc = cross(d2, normal);
    // Derivative of c / |c|: the part of dc square to c, over |c|.
    const turn = scale(sub(dc, scale(right, dot(dc, right))), 1 / l);
    return { p: addScaled(read(k, t, 0), right, side), d: addScaled(d1, turn, side) };
  };
}

/** The base cut so that each piece turns little. */
function allPieces(path: CompiledPath): Piece[] {
  const out: Piece[] = [];
  for (let k = 0; k < path.segmentCount; k++) {
    if (!(path.table.segmentS[k + 1] - path.table.segmentS[k] > 1e-12 * path.length)) continue;
    const o = k * 12;
    const c = path.controls;
    const legs = [0, 3, 6].map((j): Vec3 => [0, 1, 2].map((a) => c[o + j + 3 + a] - c[o + j + a]) as Vec3);
    let turn = 0;
    for (let i = 0; i < 2; i++) {
      const [u, v] = [normalize(legs[i], [0, 0, 0]), normalize(legs[i + 1], [0, 0, 0])];
      turn += atan2(length(cross(u, v)), dot(u, v));
    }
    const cuts = Math.min(64, Math.max(1, Math.ceil(turn / 0.12)));
    for (let i = 0; i < cuts; i++) out.push({ k, t0: i / cuts, t1: (i + 1) / cuts });
  }
  return out;
}

/** One cubic Hermite piece of the offset, from t0 to t1 of segment k. */
interface Fitted {
  p0: Vec3;
  d0: Vec3;
  p1: Vec3;
  d1: Vec3;
}

function fit(at: OffsetPoint, piece: Piece, tolerance: number, depth: number, out: Fitted[]): void {
  const { k, t0, t1 } = piece;
  const [a, b] = [at(k, t0), at(k, t1)];
  const h = t1 - t0;
  const made = { p0: a.p, d0: scale(a.d, h), p1: b.p, d1: scale(b.d, h) };
  const off = [0.25, 0.5, 0.75].some((u) => distance(hermite(made, u), at(k, t0 + h * u).p) > tolerance);
  if (!off || depth >= 7) return void out.push(made);
  const mid = (t0 + t1) / 2;
  fit(at, { k, t0, t1: mid }, tolerance, depth + 1, out);
  fit(at, { k, t0: mid, t1 }, tolerance, depth + 1, out);
}

function hermite(f: Fitted, u: number): Vec3 {
  const [u2, u3] = [u * u, u * u * u];
  const w = [2 * u3 - 3 * u2 + 1, u3 - 2 * u2 + u, -2 * u3 + 3 * u2, u3 - u2];
  return [0, 1, 2].map((a) => f.p0[a] * w[0] + f.d0[a] * w[1] + f.p1[a] * w[2] + f.d1[a] * w[3]) as Vec3;
}

/** Puts the kept runs together: ends that meet are one stroke. */
function linked(
  path: CompiledPath,
  kept: Piece[][],
  at: OffsetPoint,
  side: number,
  normal: Vec3,
): Generated[] {
  const start = (r: Piece[]) => at(r[0].k, r[0].t0).p;
  const end = (r: Piece[]) => at(r[r.length - 1].k, r[r.length - 1].t1).p;
  const meets = (a: Vec3, b: Vec3) => distance(a, b) <= 1e-4 * (Math.abs(side) + 1e-6);
  const chains: Piece[][] = [];
  for (const run of kept) {
    const last = chains[chains.length - 1];
    if (last && meets(end(last), start(run))) last.push(...run);
    else chains.push([...run]);
  }
  const wraps = path.closed && chains.length > 1 && meets(end(chains[chains.length - 1]), start(chains[0]));
  if (wraps) chains[0] = [...chains.pop()!, ...chains[0]];
  return chains.map((c) => joined(path, c, at, side, normal)).filter((g) => g.points.length > 1);
}

/** One stroke from pieces that follow each other; gaps at outer corners are joined. */
function joined(path: CompiledPath, pieces: Piece[], at: OffsetPoint, side: number, normal: Vec3): Generated {
  const tolerance = 1e-7 * Math.max(Math.abs(side), path.length / 1000);
  const fitted: Fitted[] = [];
  for (const piece of pieces) fit(at, piece, tolerance, 0, fitted);
  const same = 1e-4 * (Math.abs(side) + 1e-6);
  const closed =
    path.closed &&
    (distance(fitted[fitted.length - 1].p1, fitted[0].p0) <= same ||
      (pieces[0].k === 0 && pieces[pieces.length - 1].k === path.segmentCount - 1 && pieces[0].t0 === 0));
  const points: PathPoint[] = [];
  const straight = (f: Fitted) => {
    const way = normalize(sub(f.p1, f.p0));
    return length(cross(way, normalize(f.d0, way))) < 1e-9 && length(cross(way, normalize(f.d1, way))) < 1e-9;
  };
  /** The joint between two pieces: one point where they touch, else up to a mitred corner. */
  const joint = (a: Fitted | null, b: Fitted | null) => {
    if (a && b && distance(a.p1, b.p0) > same) {
      const [u, v] = [normalize(a.d1), normalize(b.d0)];
      const reach = mitre(a.p1, u, b.p0, v, Math.abs(side), normal);
      points.push(end(a, null));
      if (reach) points.push(corner(reach));
      points.push(end(null, b));
    } else points.push(end(a, b));
  };
  const end = (a: Fitted | null, b: Fitted | null): PathPoint => {
    const p = (a?.p1 ?? b!.p0) as Vec3;
    if ((!a || straight(a)) && (!b || straight(b))) return corner([...p]);
    const made = through([...p], [0, 0, 0]);
    return {
      ...made,
      handleIn: a ? scale(a.d1, -1 / 3) : [0, 0, 0],
      handleOut: b ? scale(b.d0, 1 / 3) : [0, 0, 0],
    };
  };
  const n = fitted.length;
  joint(closed ? fitted[n - 1] : null, fitted[0]);
  for (let i = 1; i < n; i++) joint(fitted[i - 1], fitted[i]);
  if (!closed) joint(fitted[n - 1], null);
  return { points: withoutStraightSteps(points, closed), closed };
}

/** Corners in the middle of a straight say nothing. */
function withoutStraightSteps(points: PathPoint[], closed: boolean): PathPoint[] {
  const n = points.length;
  return points.filter((p, i) => {
    if (p.kind !== 'corner' || (!closed && (i === 0 || i === n - 1)) || n < 4) return true;
    const [a, b] = [points[(i + n - 1) % n], points[(i + 1) % n]];
    if (a.kind !== 'corner' || b.kind !== 'corner') return true;
    const [u, v] = [normalize(sub(p.position, a.position)), normalize(sub(b.position, p.position))];
    return length(cross(u, v)) > 1e-9 || dot(u, v) < 0;
  });
}

/** Where the straight continuations of two ends meet in front of both; null where that is too far out. */
function mitre(p: Vec3, u: Vec3, q: Vec3, v: Vec3, side: number, normal: Vec3): Vec3 | null {
  const w = sub(q, p);
  const c = dot(cross(u, v), normal);
  if (Math.abs(c) < 1e-9) return null;
  const a = dot(cross(w, v), normal) / c;
  const b = dot(cross(w, u), normal) / c;
  if (!(a >= 0 && b <= 0) || a > MITRE * side) return null;
  return add(p, scale(u, a));
}
