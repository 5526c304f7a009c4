import { compilePath, type CompiledPath, type CompileResult } from '../curve/compile';
import { newPoint } from '../scene/defaults';
import type { PathPoint } from '../curve/schema';
import type { Vec3 } from '../math/vec3';

/** Points of one kind for tests, with settings on top. */
export function points(kind: PathPoint['kind'], at: Vec3[], extra: Partial<PathPoint> = {}): PathPoint[] {
  return at.map((position, i) => ({ ...newPoint(`pt${i + 1}`, kind, position), ...extra }));
}

/** A compiled path from points; fails the test where it does not compile. */
export function compiled(pts: PathPoint[], closed = false): CompiledPath {
  const result = compilePath({ source: { kind: 'points', points: pts }, closed });
  if (!result.ok) throw new Error(result.problem);
  return result.path;
}

/** Compiled paths as the result that an arrangement asks for. */
export const asResult = (...strokes: CompiledPath[]): CompileResult => ({
  ok: true,
  path: strokes[0],
  strokes,
});

/** A full circle of free points whose handles are the cubic arc's own; within 2.7e-4/4^k of the radius. */
export function circlePoints(radius: number, count: number, y = 0): PathPoint[] {
  const reach = (4 / 3) * Math.tan(Math.PI / (2 * count)) * radius;
  return Array.from({ length: count }, (_, i) => {
    const a = (2 * Math.PI * i) / count;
    const dir: Vec3 = [-Math.sin(a), 0, -Math.cos(a)];
    return {
      ...newPoint(`pt${i + 1}`, 'free', [radius * Math.cos(a), y, -radius * Math.sin(a)]),
      handleOut: [dir[0] * reach, 0, dir[2] * reach] as Vec3,
      handleIn: [-dir[0] * reach, 0, -dir[2] * reach] as Vec3,
    };
  });
}
