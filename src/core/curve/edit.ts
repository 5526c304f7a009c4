import type { PathPoint } from './schema';
import { lerp, scale, sub, type Vec3 } from '../math/vec3';
import { splitStrokes, type CompiledPath } from './compile';
import { pointAt } from './sample';

/** Puts strokes back into one list: the first point of every later one begins it. */
export function mergeStrokes(strokes: readonly (readonly PathPoint[])[]): PathPoint[] {
  return strokes
    .filter((s) => s.length > 0)
    .flatMap((s, k) => s.map((p, i) => ({ ...p, begins: k > 0 && i === 0 })));
}

/**
 * The same curves run through the other way: points of each stroke in reverse order, handles swapped, rolls negated,
 * zones still on the stretches that they were on.
 */
export function reversePoints(points: readonly PathPoint[], closed = false): PathPoint[] {
  return mergeStrokes(
    splitStrokes([...points], closed).map(({ points: own }) => {
      const n = own.length;
      return own.map((_, i) => {
        const p = own[n - 1 - i];
        const zoneFrom = n - 2 - i >= 0 ? own[n - 2 - i] : closed ? own[n - 1] : p;
        return {
          ...p,
          handleIn: p.handleOut,
          handleOut: p.handleIn,
          rollDeg: p.rollDeg === 0 ? 0 : -p.rollDeg,
          zone: zoneFrom.zone,
        };
      });
    }),
  );
}

/**
 * Where a new point goes when the path is clicked at length `s` of segment `segment`, parameter `t`.
 * Between corners it is a corner, next to a free point it is free and the curve keeps its shape exactly
 * (de Casteljau); elsewhere it is smooth.
 * @returns the points with the new one in, and its index
 */
export function insertPoint(
  own: readonly PathPoint[],
  compiled: CompiledPath,
  at: { s: number; segment: number; t: number },
  id: string,
): { points: PathPoint[]; index: number } {
  const points = own.map((p) => ({ ...p }));
  const before = compiled.segmentPoint[at.segment];
  const last = compiled.firstPoint + compiled.pointS.length - 1;
  const after = before < last ? before + 1 : compiled.firstPoint;
  const a = points[before];
  const b = points[after];
  const position = pointAt(compiled, at.s);
  const fresh: PathPoint = {
    id,
    kind: a.kind === 'corner' && b.kind === 'corner' ? 'corner' : 'smooth',
    position,
    begins: false,
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

/** Handles that keep the curve as it is when the point at `index` of the path's own list, a corner or smooth point becomes free. */
export function freeHandles(compiled: CompiledPath, index: number): { handleIn: Vec3; handleOut: Vec3 } {
  const read = (segment: number, j: number): Vec3 => {
    const o = segment * 12 + j * 3;
    return [compiled.controls[o], compiled.controls[o + 1], compiled.controls[o + 2]];
  };
  const leaving = compiled.segmentPoint.lastIndexOf(index);
  const n = compiled.pointS.length;
  const own = index - compiled.firstPoint;
  const arriving = compiled.segmentPoint.lastIndexOf(compiled.firstPoint + ((own + n - 1) % n));
  const out = leaving >= 0 ? sub(read(leaving, 1), read(leaving, 0)) : null;
  const into =
    arriving >= 0 && (compiled.closed || own > 0) ? sub(read(arriving, 2), read(arriving, 3)) : null;
  return {
    handleOut: out ?? (into ? scale(into, -1) : [0, 0, 0]),
    handleIn: into ?? (out ? scale(out, -1) : [0, 0, 0]),
  };
}
