import type { Generator, PathPoint } from '../schema';
import { DEG } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { corner, through } from './points';
import { cos, sin, tan } from '../../math/portable';

/** Shapes in the ground plane about the origin. They run counter-clockwise as seen from above. */

type Of<S extends Generator['shape']> = Extract<Generator, { shape: S }>;
export interface Generated {
  points: PathPoint[];
  closed: boolean;
}

/** Cubic arcs of at most 45° are within 4.2e-6 of their radius. */
const ARC_STEP = Math.PI / 4;

/** Free points on an arc whose handles make each stretch the cubic nearest to the circle. */
function arcPoints(radius: number, start: number, sweep: number): PathPoint[] {
  const pieces = Math.max(1, Math.ceil(Math.abs(sweep) / ARC_STEP - 1e-9));
  const step = sweep / pieces;
  // `through` takes a third of the tangent as handle: 4 tan(step / 4) in place of the derivative's own length.
  const reach = 4 * tan(step / 4) * radius;
  return Array.from({ length: pieces + 1 }, (_, k) => {
    const a = start + step * k;
    const at: Vec3 = [radius * cos(a), 0, -radius * sin(a)];
    return through(at, [-sin(a) * reach, 0, -cos(a) * reach]);
  });
}

/** A circle about the origin, counter-clockwise seen from above, of cubic arcs. */
export const circle = (g: Of<'circle'>): Generated => ({
  points: arcPoints(g.radius, 0, 2 * Math.PI).slice(0, -1),
  closed: true,
});

/** A sweep of the whole turn closes. */
export function arc(g: Of<'arc'>): Generated {
  const whole = Math.abs(g.sweepDeg) >= 360;
  const points = arcPoints(g.radius, g.startDeg * DEG, g.sweepDeg * DEG);
  return { points: whole ? points.slice(0, -1) : points, closed: whole };
}

/** From the origin straight to a place. */
export const line = (g: Of<'line'>): Generated => ({
  points: [corner([0, 0, 0]), corner([...g.to])],
  closed: false,
});

/** From corner to corner, each rounded by the same radius. */
export const polyline = (g: Of<'polyline'>): Generated => ({
  points: g.corners.map((p) => corner([...p], g.fillet)),
  closed: g.closed,
});

/** A rectangle about the origin with rounded corners. */
export function rectangle(g: Of<'rectangle'>): Generated {
  const [x, z] = [g.width / 2, g.depth / 2];
  const corners: Vec3[] = [
    [-x, 0, z],
    [x, 0, z],
    [x, 0, -z],
    [-x, 0, -z],
  ];
  return { points: corners.map((p) => corner(p, g.fillet)), closed: true };
}

/** A regular polygon about the origin, its corners rounded. */
export const polygon = (g: Of<'polygon'>): Generated => ({
  points: Array.from({ length: g.sides }, (_, k) => {
    const a = (2 * Math.PI * k) / g.sides;
    return corner([g.radius * cos(a), 0, -g.radius * sin(a)], g.fillet);
  }),
  closed: true,
});
