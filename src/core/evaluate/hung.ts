import {
  compileStrokes,
  splitStrokes,
  type CompiledPath,
  type CompileResult,
  type Stroke,
} from '../curve/compile';
import { meeting } from '../curve/generate/points';
import { hungBetween, type Ends } from '../curve/hang/hang';
import { groundUnder, liesOn } from '../mesh/lines/groundUnder';
import type { TriMesh } from '../mesh/triMesh';
import type { Hang } from '../curve/hang/schema';
import { downIn } from '../curve/hang/wind';
import type { PathPoint, PointsPath } from '../curve/schema';
import { channel, random01 } from '../math/random';
import { lerp } from '../math/vec3';
import type { PathContext } from './pathContext';
import type { TiedPlace } from '../arrange/tiedPlace';

/** Paths whose points are connected to other things, or whose sides hang between their points. */

export const isHungOrTied = ({ source }: PointsPath): boolean =>
  source.hang !== undefined || source.points.some((p) => p.tie);

/** Whether a path moves by itself: wind blows in what hangs. */
export const hangMoves = ({ source }: PointsPath): boolean =>
  source.hang?.how === 'sag' && source.hang.wind !== null && source.hang.wind.strength > 0;

type Notes = CompiledPath['notes'];

/** Compiles such a path: its points where what they are connected to is now, its sides as they hang. */
export function compileHung(path: PointsPath, context: PathContext): CompileResult {
  const { points, hang } = path.source;
  const notes: Notes = [];
  const ends = points.map((p) => (p.tie ? (context.tie?.(p.tie, p.position) ?? null) : null));
  const placed = points.map((p, i): PathPoint => {
    const end = ends[i];
    if (p.tie && !end) notes.push({ kind: 'tie-missing', pointId: p.id });
    if (end?.other) notes.push({ kind: 'tie-other', pointId: p.id });
    return end ? { ...p, position: end.position } : p;
  });
  const strokes = splitStrokes(placed, path.closed);
  const compiled = hang
    ? hungStrokes(
        strokes,
        hang,
        { ends, seed: path.id, time: context.time ?? 0, meshes: meshesUnder(path, context, notes) },
        notes,
      )
    : compileStrokes(strokes);
  if (!compiled.ok) return compiled;
  const [first, ...rest] = compiled.strokes.map((s): CompiledPath => ({ ...s, moved: true }));
  const told = { ...first, notes: [...first.notes, ...notes] };
  return { ok: true, path: told, strokes: [told, ...rest] };
}

/** What a path may lie on, as it stands now. */
function meshesUnder({ id: path, source }: PointsPath, context: PathContext, notes: Notes): TriMesh[] {
  const on = source.hang ? liesOn(source.hang) : [];
  const ids = on === 'all' ? (context.grounds?.(path) ?? []) : on;
  const meshes = ids.flatMap((id) => context.ground?.(id)?.now ?? []);
  if (on !== 'all' && meshes.length < on.length)
    notes.push({ kind: 'hang-ground', pointId: source.points[0]?.id ?? '' });
  return meshes;
}

function hungStrokes(
  strokes: readonly Stroke[],
  hang: Hang,
  given: {
    ends: readonly (TiedPlace | null)[];
    seed: string;
    time: number;
    meshes: readonly TriMesh[];
  },
  notes: Notes,
): CompileResult {
  const { ends, seed, time, meshes } = given;
  const key = channel(`hang ${seed}`);
  const own: number[][] = [];
  const made = strokes.map((stroke): Stroke => {
    const { points, closed, firstPoint } = stroke;
    const sides = closed && points.length > 1 ? points.length : points.length - 1;
    const out: PathPoint[] = [];
    const at: number[] = [];
    for (let i = 0; i < sides; i++) {
      const [a, b] = [points[i], points[(i + 1) % points.length]];
      const factor = 1 + hang.loose * (2 * random01(0, firstPoint + i, key) - 1);
      const leaves = [ends[firstPoint + i], ends[firstPoint + ((i + 1) % points.length)]];
      const down = downIn(hang.wind, lerp(a.position, b.position, 0.5), time);
      const between: Ends = {
        from: a.position,
        to: b.position,
        leaves: [leaves[0]?.direction ?? null, leaves[1]?.direction ?? null],
      };
      const ground = groundUnder(meshes, between, hang, down, factor);
      const side = hungBetween({ ...between, ground }, hang, down, factor);
      if (side.over !== undefined) notes.push({ kind: 'hang-over', pointId: a.id });
      if (side.short) notes.push({ kind: 'hang-short', pointId: a.id });
      join(out, side.points);
      at.push(out.length - side.points.length);
    }
    // The point itself has its number, roll, size and zone; what lies between them has those of the point before.
    if (!closed || points.length < 2) at.push(out.length - 1);
    else out[0] = meeting(out.pop()!, out[0]);
    own.push(at);
    return { ...stroke, points: sides > 0 ? named(out, points, at) : points };
  });
  const compiled = compileStrokes(made);
  if (!compiled.ok) return compiled;
  const back = compiled.strokes.map((s) => {
    const k = strokes.findIndex((stroke) => stroke.firstPoint === s.firstPoint);
    return withOwnPoints(s, own[k]);
  });
  return { ok: true, path: back[0], strokes: back };
}

/** Puts a side behind those before: the place where they meet is one point with the handles of both. */
function join(out: PathPoint[], side: PathPoint[]): void {
  const last = out.pop();
  const [first, ...rest] = side;
  out.push(last ? meeting(last, first) : first, ...rest);
}

/** Points that were made, with the names and the rest of what the path's own points say from each of these on. */
function named(made: PathPoint[], points: PathPoint[], at: readonly number[]): PathPoint[] {
  let k = 0;
  return made.map((p, i) => {
    if (at[k + 1] === i) k++;
    const { rollDeg, size, zone, id } = points[Math.min(k, points.length - 1)];
    return { ...p, rollDeg, size, zone, id: at[k] === i ? id : `${id}.${i}` };
  });
}

/** A stroke that knows of the path's own points alone, not of those that were made between them. */
function withOwnPoints(s: CompiledPath, at: readonly number[]): CompiledPath {
  const pick = <T extends { [i: number]: number }>(from: T, to: T): T => {
    at.forEach((i, k) => (to[k] = from[i]));
    return to;
  };
  const n = at.length;
  const own = new Int32Array(s.pointS.length);
  for (let i = 0, k = 0; i < own.length; i++) {
    if (at[k + 1] === i) k++;
    own[i] = k;
  }
  return {
    ...s,
    pointS: pick(s.pointS, new Float64Array(n)),
    pointIds: at.map((i) => s.pointIds[i]),
    rollDeg: pick(s.rollDeg, new Float64Array(n)),
    size: pick(s.size, new Float64Array(n)),
    zone: pick(s.zone, new Int32Array(n)),
    // Where a line hangs it turns: its own points are corners.
    isCorner: new Uint8Array(n).fill(1),
    segmentPoint: s.segmentPoint.map((i) => s.firstPoint + own[i - s.firstPoint]),
  };
}
