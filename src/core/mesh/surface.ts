import { DEG } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { Surface } from '../scene/schema';
import { ownAxes } from './mesh';
import { cos, sin } from '../math/portable';

/** The affine map from a surface's mesh to the scene, column-major 4×4: up axis, unit scale, turn, position. */
export function surfaceMatrix(
  surface: Pick<Surface, 'unitScale' | 'up' | 'turnDeg' | 'position'>,
): Float64Array {
  const [x, y, z] = ownAxes(surface.up[1] === 'z' ? '+x' : '+z', surface.up);
  // The stand-in front of a Z-up mesh is X; swap so that a Y-up mesh is left as it is.
  const rows = surface.up[1] === 'z' ? [z, y, [-x[0], -x[1], -x[2]]] : [x, y, z];
  const c = cos(surface.turnDeg * DEG);
  const s = sin(surface.turnDeg * DEG);
  const turned = [
    rows[0].map((v, i) => c * v + s * rows[2][i]),
    rows[1],
    rows[2].map((v, i) => c * v - s * rows[0][i]),
  ];
  const m = new Float64Array(16);
  for (let r = 0; r < 3; r++) {
    for (let col = 0; col < 3; col++) m[col * 4 + r] = turned[r][col] * surface.unitScale + 0;
    m[12 + r] = surface.position[r];
  }
  m[15] = 1;
  return m;
}

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
