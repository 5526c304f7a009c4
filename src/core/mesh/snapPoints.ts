import { normalize, sub, type Vec3 } from '../math/vec3';
import { meshBounds, propMatrix, type Bounds, type Mesh } from './mesh';
import { through } from './surface';
import type { Prop } from './propSchema';

type Posture = Pick<Prop, 'unitScale' | 'foot' | 'front' | 'up'>;

/** The points that a mesh brings, in the space of a prop that lies on it so. */
export function snapPointsOf(mesh: Mesh, posture: Posture): Prop['snapPoints'] {
  const own = propMatrix(posture, meshBounds(mesh));
  const origin = through(own, [0, 0, 0]);
  return (mesh.snapPoints ?? []).map((p) => ({
    ...p,
    position: through(own, p.position),
    ...(p.direction && { direction: normalize(sub(through(own, p.direction), origin)) }),
  }));
}

/**
 * Snap points where they are on the mesh when its foot, axes or unit become others.
 * @param points in the prop's own space as it was @param bounds of the mesh, in its own space
 */
export function snapPointsKept(
  points: Prop['snapPoints'],
  before: Posture,
  after: Posture,
  bounds: Bounds,
): Prop['snapPoints'] {
  const [from, to] = [propMatrix(before, bounds), propMatrix(after, bounds)];
  // The axes of either are square to each other and of one size: back through the transpose.
  const turned = (v: readonly number[], k: number): Vec3 => {
    const own = [0, 1, 2].map(
      (c) => (from[c * 4] * v[0] + from[c * 4 + 1] * v[1] + from[c * 4 + 2] * v[2]) * k,
    );
    return [0, 1, 2].map((r) => to[r] * own[0] + to[4 + r] * own[1] + to[8 + r] * own[2]) as Vec3;
  };
  const unit = before.unitScale;
  // Where the old foot is by the new one.
  const foot = turned([-from[12], -from[13], -from[14]], 1 / (unit * unit)).map((v, r) => v + to[12 + r]);
  return points.map(({ position, direction, ...point }) => ({
    ...point,
    position: turned(position, 1 / (unit * unit)).map((v, r) => v + foot[r]) as Vec3,
    ...(direction && { direction: turned(direction, 1 / (unit * after.unitScale)) }),
  }));
}
