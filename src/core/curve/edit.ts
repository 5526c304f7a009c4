import type { Path, PathPoint } from '../scene/schema';
import { lerp, scale, sub, type Vec3 } from '../math/vec3';
import type { CompiledPath } from './compile';
import { pointAt } from './sample';

/** The same curve run through the other way: points in reverse order, handles swapped, rolls negated. */
export function reversePoints(points: readonly PathPoint[]): PathPoint[] {
  return [...points].reverse().map((p) => ({
    ...p,
    handleIn: p.handleOut,
    handleOut: p.handleIn,
    rollDeg: p.rollDeg === 0 ? 0 : -p.rollDeg,
  }));
}

/**
 * Where a new point goes when the path is clicked at length `s` of segment `segment`, parameter `t`.
 * Between corners it is a corner, next to a free point it is free and the curve keeps its shape exactly
 * (de Casteljau); elsewhere it is smooth.
 * @returns the points with the new one in, and its index
 */
export function insertPoint(
  path: Pick<Path, 'source' | 'closed'>,
  compiled: CompiledPath,
  at: { s: number; segment: number; t: number },
  id: string,
): { points: PathPoint[]; index: number } {
  const points = path.source.points.map((p) => ({ ...p }));
  const before = compiled.segmentPoint[at.segment];
  const after = (before + 1) % points.length;
  const a = points[before];
  const b = points[after];
  const position = pointAt(compiled, at.s);
  const fresh: PathPoint = {
    id,
    kind: a.kind === 'corner' && b.kind === 'corner' ? 'corner' : 'smooth',
    position,
    fillet: 0,
    tension: 0,
    handleIn: [0, 0, 0],
    handleOut: [0, 0, 0],
    rollDeg: (a.rollDeg + b.rollDeg) / 2,
    size: (a.size + b.size) / 2,
    zone: a.zone,
  };
  if (a.kind === 'free' && b.kind === 'free') {
    const c = compiled.controls.subarray(at.segment * 12, at.segment * 12 + 12);
    const p = [0, 3, 6, 9].map((o): Vec3 => [c[o], c[o + 1], c[o + 2]]);
    const q0 = lerp(p[0], p[1], at.t);
    const q1 = lerp(p[1], p[2], at.t);
    const q2 = lerp(p[2], p[3], at.t);
    fresh.kind = 'free';
    fresh.handleIn = sub(lerp(q0, q1, at.t), position);
    fresh.handleOut = sub(lerp(q1, q2, at.t), position);
    a.handleOut = sub(q0, a.position);
    b.handleIn = sub(q2, b.position);
  }
  points.splice(before + 1, 0, fresh);
  return { points, index: before + 1 };
}

/** Handles that keep the curve as it is when a corner or smooth point becomes free. */
export function freeHandles(compiled: CompiledPath, index: number): { handleIn: Vec3; handleOut: Vec3 } {
  const read = (segment: number, j: number): Vec3 => {
    const o = segment * 12 + j * 3;
    return [compiled.controls[o], compiled.controls[o + 1], compiled.controls[o + 2]];
  };
  const leaving = compiled.segmentPoint.lastIndexOf(index);
  const n = compiled.pointS.length;
  const arriving = compiled.segmentPoint.lastIndexOf((index + n - 1) % n);
  const out = leaving >= 0 ? sub(read(leaving, 1), read(leaving, 0)) : null;
  const into =
    arriving >= 0 && (compiled.closed || index > 0) ? sub(read(arriving, 2), read(arriving, 3)) : null;
  return {
    handleOut: out ?? (into ? scale(into, -1) : [0, 0, 0]),
    handleIn: into ?? (out ? scale(out, -1) : [0, 0, 0]),
  };
}
