import { DEG } from '../math/quat';
import type { Surface } from '../scene/schema';
import { ownAxes } from './mesh';

/** The affine map from a surface's mesh to the scene, column-major 4×4: up axis, unit scale, turn, position. */
export function surfaceMatrix(
  surface: Pick<Surface, 'unitScale' | 'up' | 'turnDeg' | 'position'>,
): Float64Array {
  const [x, y, z] = ownAxes(surface.up[1] === 'z' ? '+x' : '+z', surface.up);
  // The stand-in front of a Z-up mesh is X; swap so that a Y-up mesh is left as it is.
  const rows = surface.up[1] === 'z' ? [z, y, [-x[0], -x[1], -x[2]]] : [x, y, z];
  const c = Math.cos(surface.turnDeg * DEG);
  const s = Math.sin(surface.turnDeg * DEG);
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
