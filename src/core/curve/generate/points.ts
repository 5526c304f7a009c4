import type { PathPoint } from '../schema';
import { DEG } from '../../math/quat';
import { rotateAbout, scale, type Vec3 } from '../../math/vec3';

/** What generators build their strokes from. Points are named g1, g2 … in their order. */

const plain = (position: Vec3): PathPoint => ({
  id: '',
  kind: 'corner',
  position,
  begins: false,
  fillet: 0,
  tension: 0,
  handleIn: [0, 0, 0],
  handleOut: [0, 0, 0],
  rollDeg: 0,
  size: 1,
  zone: 0,
});

/** A corner, rounded by a radius in metres. */
export const corner = (position: Vec3, fillet = 0): PathPoint => ({ ...plain(position), fillet });
/** A point that the path passes smoothly. */
export const smooth = (position: Vec3): PathPoint => ({ ...plain(position), kind: 'smooth' });

/** A point with straight-through handles: `tangent` is the derivative for a step of one to the next point. */
export const through = (position: Vec3, tangent: Vec3, before = 1, after = 1): PathPoint => ({
  ...plain(position),
  kind: 'free',
  handleIn: scale(tangent, -before / 3),
  handleOut: scale(tangent, after / 3),
});

/** Gives generated points the ids g1, g2 … so that they stay the same while numbers change. */
export const named = (points: PathPoint[]): PathPoint[] => points.map((p, i) => ({ ...p, id: `g${i + 1}` }));

/** Points tipped about X, then turned about Y, then moved. */
export function placed(points: PathPoint[], position: Vec3, turnDeg: number, tipDeg: number): PathPoint[] {
  const turn = (v: Vec3): Vec3 =>
    rotateAbout(rotateAbout(v, [1, 0, 0], tipDeg * DEG), [0, 1, 0], turnDeg * DEG);
  return points.map((p) => {
    const at = turn(p.position);
    return {
      ...p,
      position: [at[0] + position[0], at[1] + position[1], at[2] + position[2]],
      handleIn: turn(p.handleIn),
      handleOut: turn(p.handleOut),
    };
  });
}

/** Two points in one place as one, with the handle into the first and that out of the second. */
export function meeting(before: PathPoint, after: PathPoint): PathPoint {
  if (before.kind === 'corner' && after.kind === 'corner') return after;
  const none: Vec3 = [0, 0, 0];
  const into = before.kind === 'free' ? before.handleIn : none;
  const out = after.kind === 'free' ? after.handleOut : none;
  return { ...after, kind: 'free', handleIn: into, handleOut: out };
}
