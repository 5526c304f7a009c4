import type { Vec3 } from './vec3';

/** The vector that the 3 × 3 matrix of the rows `m` takes to (x, y, z): Cramer's rule. Not finite where it flattens. */
export function solve3(m: ArrayLike<number>, x: number, y: number, z: number): Vec3 {
  const a = m[4] * m[8] - m[5] * m[7];
  const b = m[5] * m[6] - m[3] * m[8];
  const c = m[3] * m[7] - m[4] * m[6];
  const k = 1 / (m[0] * a + m[1] * b + m[2] * c);
  return [
    (a * x + (m[2] * m[7] - m[1] * m[8]) * y + (m[1] * m[5] - m[2] * m[4]) * z) * k,
    (b * x + (m[0] * m[8] - m[2] * m[6]) * y + (m[2] * m[3] - m[0] * m[5]) * z) * k,
    (c * x + (m[1] * m[6] - m[0] * m[7]) * y + (m[0] * m[4] - m[1] * m[3]) * z) * k,
  ];
}
