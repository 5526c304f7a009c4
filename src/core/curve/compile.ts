import type { PathPoint, PathSource } from './schema';
import {
  add,
  addScaled,
  cross,
  distance,
  dot,
  length,
  lerp,
  normalize,
  scale,
  sub,
  type Vec3,
} from '../math/vec3';
import { buildArcLength, type ArcLengthTable } from './arcLength';
import { atan2, cos, sin, tan } from '../math/portable';

/** What was noticed while a path was compiled; numbers and point ids only. */
interface CurveNote {
  kind:
    | 'fillet-clipped'
    | 'fillet-needs-straight-sides'
    | 'coincident-points'
    | 'tie-missing'
    | 'tie-other'
    | 'hang-short'
    | 'hang-over'
    | 'hang-ground';
  pointId: string;
  /** For a clipped fillet: the radius that fits, metres. */
  amount?: number;
}

/** A path as piecewise cubics with its arc-length table. */
export interface CompiledPath {
  closed: boolean;
  /** Metres. */
  length: number;
  segmentCount: number;
  /** Bézier control points, 12 numbers a segment. */
  controls: Float64Array;
  /** Power-basis coefficients a·t³+b·t²+c·t+d, 12 numbers a segment (a, b, c, d as xyz). */
  powers: Float64Array;
  /** Unit tangents at both ends of each segment, 6 numbers a segment; never NaN. */
  endTangents: Float64Array;
  table: ArcLengthTable;
  /** Arc length at each document point (the middle of a fillet for a rounded corner). */
  pointS: Float64Array;
  pointIds: string[];
  /** Index of the stroke's first point in the path's own list. */
  firstPoint: number;
  /** For each segment, the index in the path's own list of the point it leaves from. */
  segmentPoint: Int32Array;
  /** Arc lengths where the direction jumps by more than 1e-6 rad. */
  corners: Float64Array;
  rollDeg: Float64Array;
  size: Float64Array;
  /** Zone from each point to the next. */
  zone: Int32Array;
  /** 1 where the point is a corner, rounded or not. */
  isCorner: Uint8Array;
  notes: CurveNote[];
  /** Where it lies on a surface: which one, and the face of each segment (-1 where it bridges a hole in it). */
  on?: { surface: string; face: Int32Array };
  /**
   * The same path on its surface at rest, segment by segment, in metres of the scene: what a length there is on the
   * material, whatever the surface does now.
   */
  rest?: CompiledPath;
  /** Its points are where what they are connected to has taken them, not where they are kept. */
  moved?: true;
  /** The smooth path that it stands for, where it is laid from face to face: that tells how it bends. */
  like?: CompiledPath;
}

export type PathProblem =
  | 'too-few-points'
  | 'zero-length'
  | 'not-finite'
  | 'surface-missing'
  | 'base-missing'
  | 'no-uv'
  | 'nothing-there'
  | 'too-fine'
  | 'cycle'
  | 'failed';

/** A path's strokes; `path` is the first of them. */
export type CompileResult =
  { ok: true; path: CompiledPath; strokes: CompiledPath[] } | { ok: false; problem: PathProblem };

/** Tangent at a smooth point from its neighbours, centripetal parametrisation (Yuksel, Schaefer, Keyser 2011). */
function centripetalTangent(
  before: Vec3,
  at: Vec3,
  after: Vec3,
): { direction: Vec3; into: number; out: number } {
  const a = Math.sqrt(distance(before, at));
  const b = Math.sqrt(distance(at, after));
  if (a === 0 || b === 0) return { direction: scale(sub(after, before), 1), into: 0, out: 0 };
  const m = add(
    sub(scale(sub(at, before), 1 / a), scale(sub(after, before), 1 / (a + b))),
    scale(sub(after, at), 1 / b),
  );
  return { direction: m, into: a / 3, out: b / 3 };
}

interface Stretch {
  controls: [Vec3, Vec3, Vec3, Vec3];
  point: number;
}

/** The handles of one point: where its incoming and outgoing sides leave it, or null to aim at the neighbour. */
function handlesOf(points: PathPoint[], i: number, closed: boolean): { into: Vec3 | null; out: Vec3 | null } {
  const point = points[i];
  const n = points.length;
  if (point.kind === 'free') {
    return { into: add(point.position, point.handleIn), out: add(point.position, point.handleOut) };
  }
  const hasBoth = closed || (i > 0 && i < n - 1);
  if (point.kind === 'corner' || !hasBoth || n < 3) return { into: null, out: null };
  const t = centripetalTangent(
    points[(i + n - 1) % n].position,
    point.position,
    points[(i + 1) % n].position,
  );
  const loose = 1 - point.tension;
  return {
    into: addScaled(point.position, t.direction, -t.into * loose),
    out: addScaled(point.position, t.direction, t.out * loose),
  };
}

/** A side between two points; a missing handle aims at the other end, which makes corner–corner sides straight. */
function side(p0: Vec3, out: Vec3 | null, into: Vec3 | null, p3: Vec3): Stretch['controls'] {
  if (!out && !into) return [p0, lerp(p0, p3, 1 / 3), lerp(p0, p3, 2 / 3), p3];
  return [p0, out ?? lerp(p0, into!, 0.5), into ?? lerp(p3, out!, 0.5), p3];
}

/** Cubics of an arc of `radius` from `start`, turning from `direction` by `angle` about `axis`; ≤ 45° a piece. */
function arcPieces(
  start: Vec3,
  direction: Vec3,
  inward: Vec3,
  radius: number,
  angle: number,
): Stretch['controls'][] {
  const pieces = Math.max(1, Math.ceil(angle / (Math.PI / 4)));
  const step = angle / pieces;
  const reach = (4 / 3) * tan(step / 4) * radius;
  const centre = addScaled(start, inward, radius);
  const at = (a: number): [Vec3, Vec3] => [
    add(centre, add(scale(direction, sin(a) * radius), scale(inward, -cos(a) * radius))),
    add(scale(direction, cos(a)), scale(inward, sin(a))),
  ];
  return Array.from({ length: pieces }, (_, k) => {
    const [p, d] = at(k * step);
    const [q, e] = at((k + 1) * step);
    return [p, addScaled(p, d, reach), addScaled(q, e, -reach), q];
  });
}

/** Sides of the path, corners rounded where they carry a fillet. */
function buildStretches(points: PathPoint[], closed: boolean, notes: CurveNote[]) {
  const n = points.length;
  const sides = closed ? n : n - 1;
  const handles = points.map((_, i) => handlesOf(points, i, closed));
  const straight = (i: number) => !handles[i].out && !handles[(i + 1) % n].into;
  // How much of each side a fillet may take from its start and its end.
  const trimStart = new Float64Array(sides);
  const trimEnd = new Float64Array(sides);
  const arcs = new Map<number, Stretch['controls'][]>();
  for (let i = 0; i < n; i++) {
    const point = points[i];
    if (point.kind !== 'corner' || point.fillet <= 0 || (!closed && (i === 0 || i === n - 1))) continue;
    const before = (i + n - 1) % n;
    if (!straight(before) || !straight(i)) {
      notes.push({ kind: 'fillet-needs-straight-sides', pointId: point.id });
      continue;
    }
    const a = sub(point.position, points[before].position);
    const b = sub(points[(i + 1) % n].position, point.position);
    const u = normalize(a, [0, 0, 0]);
    const v = normalize(b, [0, 0, 0]);
    const turn = atan2(length(cross(u, v)), dot(u, v));
    if (!(turn > 1e-9) || turn > Math.PI - 1e-6) continue;
    const ends = (other: number) => !closed && (other === 0 || other === n - 1);
    const share = (other: number) =>
      points[other].kind === 'corner' && points[other].fillet > 0 && !ends(other) ? 0.5 : 1;
    const room = Math.min(length(a) * share(before), length(b) * share((i + 1) % n));
    const wanted = point.fillet * tan(turn / 2);
    const trim = Math.min(wanted, room);
    const radius = trim / tan(turn / 2);
    if (wanted > room * (1 + 1e-12))
      notes.push({ kind: 'fillet-clipped', pointId: point.id, amount: radius });
    const inward = normalize(sub(v, scale(u, dot(u, v))));
    arcs.set(i, arcPieces(addScaled(point.position, u, -trim), u, inward, radius, turn));
    trimEnd[before] = trim;
    trimStart[i] = trim;
  }
  const stretches: Stretch[] = [];
  /** Index into stretches where the point lies, and whether at its start or in the middle of its arc. */
  const pointStretch: { first: number; last: number }[] = [];
  for (let i = 0; i < n; i++) {
    const first = stretches.length;
    for (const controls of arcs.get(i) ?? []) stretches.push({ controls, point: i });
    pointStretch.push({ first, last: stretches.length });
    if (i >= sides) continue;
    let p = points[i].position;
    let q = points[(i + 1) % n].position;
    const long = distance(p, q);
    if (long === 0 && straight(i)) notes.push({ kind: 'coincident-points', pointId: points[(i + 1) % n].id });
    if (trimStart[i] > 0 || trimEnd[i] > 0) {
      const d = normalize(sub(q, p));
      p = addScaled(p, d, trimStart[i]);
      q = addScaled(q, d, -trimEnd[i]);
    }
    stretches.push({ controls: side(p, handles[i].out, handles[(i + 1) % n].into, q), point: i });
  }
  return { stretches, pointStretch };
}

/** Unit tangents at both ends of every segment: the first control point that differs decides; neighbours fill in. */
export function findEndTangents(controls: Float64Array, count: number, closed: boolean): Float64Array {
  const out = new Float64Array(count * 6);
  const known = new Uint8Array(count);
  const read = (k: number, j: number): Vec3 => [
    controls[k * 12 + j * 3],
    controls[k * 12 + j * 3 + 1],
    controls[k * 12 + j * 3 + 2],
  ];
  let scaleOf = 0;
  for (const c of controls) scaleOf = Math.max(scaleOf, Math.abs(c));
  const tiny = 1e-12 * scaleOf + 1e-300;
  for (let k = 0; k < count; k++) {
    const p = [read(k, 0), read(k, 1), read(k, 2), read(k, 3)];
    const ahead = p.slice(1).find((q) => distance(q, p[0]) > tiny);
    const behind = [p[2], p[1], p[0]].find((q) => distance(q, p[3]) > tiny);
    if (!ahead || !behind) continue;
    known[k] = 1;
    out.set(normalize(sub(ahead, p[0])), k * 6);
    out.set(normalize(sub(p[3], behind)), k * 6 + 3);
  }
  for (let k = 0; k < count; k++) {
    if (known[k]) continue;
    for (let off = 1; off <= count; off++) {
      const back = closed ? (k - off + count) % count : k - off;
      const on = closed ? (k + off) % count : k + off;
      const from = back >= 0 && known[back] ? back * 6 + 3 : on < count && known[on] ? on * 6 : -1;
      if (from < 0) continue;
      out.set(out.slice(from, from + 3), k * 6);
      out.set(out.slice(from, from + 3), k * 6 + 3);
      break;
    }
  }
  return out;
}

/** Power-basis coefficients of Bézier control points, 12 numbers a segment each. */
export function powersOf(controls: Float64Array): Float64Array {
  const powers = new Float64Array(controls.length);
  for (let k = 0; k * 12 < controls.length; k++)
    for (let axis = 0; axis < 3; axis++) {
      const [p0, p1, p2, p3] = [0, 3, 6, 9].map((o) => controls[k * 12 + o + axis]);
      powers[k * 12 + axis] = p3 - p0 + 3 * (p1 - p2);
      powers[k * 12 + 3 + axis] = 3 * (p0 - 2 * p1 + p2);
      powers[k * 12 + 6 + axis] = 3 * (p1 - p0);
      powers[k * 12 + 9 + axis] = p0;
    }
  return powers;
}

/** Points of one stroke, where they begin in the path's own list, and what each piece between them lies on. */
export interface Stroke {
  points: PathPoint[];
  closed: boolean;
  firstPoint: number;
  on?: CompiledPath['on'];
  /** Its points on a surface at rest. */
  rest?: PathPoint[];
}

/** The strokes of a list of points: each point that begins one starts anew. */
export function splitStrokes(points: PathPoint[], closed: boolean): Stroke[] {
  const out: Stroke[] = [];
  points.forEach((point, i) => {
    if (out.length === 0 || point.begins) out.push({ points: [], closed, firstPoint: i });
    out[out.length - 1].points.push(point);
  });
  return out;
}

/** Compiles a path that has its own points; see {@link compileStrokes}. */
export function compilePath(path: { source: PathSource; closed: boolean }): CompileResult {
  if (path.source.kind !== 'points') throw new Error('Only a path with its own points compiles by itself.');
  return compileStrokes(splitStrokes(path.source.points, path.closed));
}

/**
 * Compiles strokes to piecewise cubics. Smooth points take centripetal tangents scaled by their tension, corners
 * may be rounded by a true arc (each cubic spans ≤ 45°: within 4e-6 of its radius), free points use their own
 * handles. Strokes that have no length are left out as long as another one has.
 * @returns the compiled strokes, or why there is none: fewer than two points, no length, or a number not finite
 */
export function compileStrokes(strokes: Stroke[]): CompileResult {
  const made: CompiledPath[] = [];
  let problem: PathProblem = 'too-few-points';
  for (const stroke of strokes) {
    const one = compileStroke(stroke);
    if (typeof one === 'string') {
      if (one === 'not-finite') return { ok: false, problem: one };
      if (stroke.points.length > 1) problem = one;
    } else made.push(one);
  }
  return made.length ? { ok: true, path: made[0], strokes: made } : { ok: false, problem };
}

/** A stroke again from what was drawn of it: enough to sample it, to find nearest places, and to divide it. */
export function fromControls(drawn: {
  controls: Float64Array;
  closed: boolean;
  pointS: Float64Array;
  isCorner: Uint8Array;
  firstPoint: number;
  segmentPoint: Int32Array;
}): CompiledPath {
  const { controls, closed, pointS } = drawn;
  const count = controls.length / 12;
  const powers = powersOf(controls);
  const table = buildArcLength(powers, count);
  const n = pointS.length;
  return {
    ...drawn,
    length: table.segmentS[count],
    segmentCount: count,
    powers,
    endTangents: findEndTangents(controls, count, closed),
    table,
    pointIds: Array.from(pointS, (_, i) => `g${i + 1}`),
    corners: new Float64Array(0),
    rollDeg: new Float64Array(n),
    size: new Float64Array(n).fill(1),
    zone: new Int32Array(n),
    notes: [],
  };
}

function compileStroke(stroke: Stroke): CompiledPath | PathProblem {
  const { points, firstPoint } = stroke;
  if (points.length < 2) return 'too-few-points';
  const finite = points.every((p) => [...p.position, ...p.handleIn, ...p.handleOut].every(Number.isFinite));
  if (!finite) return 'not-finite';
  const closed = stroke.closed && points.length > 2;
  const notes: CurveNote[] = [];
  const { stretches, pointStretch } = buildStretches(points, closed, notes);
  const count = stretches.length;
  const controls = Float64Array.from(stretches.flatMap((stretch) => stretch.controls.flat()));
  const powers = powersOf(controls);
  const table = buildArcLength(powers, count);
  const total = table.segmentS[count];
  if (!Number.isFinite(total)) return 'not-finite';
  if (!(total > 1e-9)) return 'zero-length';
  const endTangents = findEndTangents(controls, count, closed);
  const corners: number[] = [];
  for (let k = 0; k < count; k++) {
    const prev = k > 0 ? k - 1 : closed ? count - 1 : -1;
    if (prev < 0) continue;
    const d =
      endTangents[prev * 6 + 3] * endTangents[k * 6] +
      endTangents[prev * 6 + 4] * endTangents[k * 6 + 1] +
      endTangents[prev * 6 + 5] * endTangents[k * 6 + 2];
    if (d < cos(1e-6)) corners.push(table.segmentS[k]);
  }
  const pointS = Float64Array.from(
    pointStretch,
    ({ first, last }) => (table.segmentS[first] + table.segmentS[last]) / 2,
  );
  return {
    closed,
    length: total,
    segmentCount: count,
    controls,
    powers,
    endTangents,
    table,
    pointS,
    pointIds: points.map((p) => p.id),
    firstPoint,
    segmentPoint: Int32Array.from(stretches, (s) => s.point + firstPoint),
    corners: Float64Array.from(corners),
    rollDeg: Float64Array.from(points, (p) => p.rollDeg),
    size: Float64Array.from(points, (p) => p.size),
    zone: Int32Array.from(points, (p) => p.zone),
    isCorner: Uint8Array.from(points, (p) => (p.kind === 'corner' ? 1 : 0)),
    notes,
    // Rounded corners make more segments than there are pieces; what comes from a mesh has none.
    ...(stroke.on?.face.length === count && { on: stroke.on }),
  };
}
