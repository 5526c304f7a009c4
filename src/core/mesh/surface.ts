import { DEG, quatRotate, quatTurnTipRoll } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { Surface } from './surfaceSchema';
import { ownAxes } from './mesh';

/** The affine map from a surface's mesh to its own frame, column-major 4×4: up axis and unit scale, metres. */
export function ownMatrix(surface: Pick<Surface, 'unitScale' | 'up'>): Float64Array {
  const [x, y, z] = ownAxes(surface.up[1] === 'z' ? '+x' : '+z', surface.up);
  // The stand-in front of a Z-up mesh is X; swap so that a Y-up mesh is left as it is.
  const rows = surface.up[1] === 'z' ? [z, y, [-x[0], -x[1], -x[2]]] : [x, y, z];
  const m = new Float64Array(16);
  for (let r = 0; r < 3; r++)
    for (let col = 0; col < 3; col++) m[col * 4 + r] = rows[r][col] * surface.unitScale + 0;
  m[15] = 1;
  return m;
}

/** The map from a surface's own frame to the scene: size, then roll, tip, turn, then position. */
export function placeMatrix(
  surface: Pick<Surface, 'turnDeg' | 'tipDeg' | 'rollDeg' | 'size' | 'position'>,
): Float64Array {
  const q = quatTurnTipRoll(surface.turnDeg * DEG, surface.tipDeg * DEG, surface.rollDeg * DEG);
  const m = new Float64Array(16);
  const axes: Vec3[] = [
    [surface.size, 0, 0],
    [0, surface.size, 0],
    [0, 0, surface.size],
  ];
  axes.forEach((axis, col) => quatRotate(q, axis).forEach((v, r) => (m[col * 4 + r] = v)));
  surface.position.forEach((v, r) => (m[12 + r] = v));
  m[15] = 1;
  return m;
}

/** a·b of column-major 4×4: first b, then a. */
export function times(a: ArrayLike<number>, b: ArrayLike<number>): Float64Array {
  const out = new Float64Array(16);
  for (let col = 0; col < 4; col++)
    for (let r = 0; r < 4; r++) for (let k = 0; k < 4; k++) out[col * 4 + r] += a[k * 4 + r] * b[col * 4 + k];
  return out;
}

/** The affine map from a surface's mesh to the scene. */
export const surfaceMatrix = (surface: Surface): Float64Array =>
  times(placeMatrix(surface), ownMatrix(surface));

/** A place carried by a column-major 4×4. */
export const through = (m: ArrayLike<number>, p: Vec3): Vec3 =>
  [0, 1, 2].map((r) => m[r] * p[0] + m[4 + r] * p[1] + m[8 + r] * p[2] + m[12 + r]) as Vec3;

/** A place carried back by a 4×4 that turns, moves and scales evenly, as a surface's does. */
export function throughInverse(m: ArrayLike<number>, p: Vec3): Vec3 {
  const away = [0, 1, 2].map((r) => p[r] - m[12 + r]);
  const square = m[0] * m[0] + m[1] * m[1] + m[2] * m[2];
  return [0, 1, 2].map(
    (column) =>
      (m[column * 4] * away[0] + m[column * 4 + 1] * away[1] + m[column * 4 + 2] * away[2]) / square,
  ) as Vec3;
}
