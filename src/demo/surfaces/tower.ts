import type { Mesh } from '@/core/mesh/mesh';
import { linearColor } from '@/core/math/color';
import { COLORS } from '../shape';
import { cos, exp, hypot, sin } from '@/core/math/portable';

/** Radius of the beacon tower at a height, metres: a foot, a waist, and a wider gallery. */
export const towerRadius = (y: number): number =>
  2.1 - 0.11 * y + 0.85 * exp((-(y - 9.2) * (y - 9.2)) / 0.9) + 0.5 * exp(-y * 1.4);
const TOWER_HEIGHT = 10;

/** The beacon tower: a turned profile with u around (0–1) and v up (0–1). Its outside looks out. */
export function tower(around = 40, up = 36): Mesh {
  const positions: number[] = [];
  const normals: number[] = [];
  const uvs: number[] = [];
  const colors: number[] = [];
  const indices: number[] = [];
  const pale = linearColor(COLORS.white);
  const band = linearColor(COLORS.madder);
  for (let j = 0; j <= up; j++) {
    const y = (TOWER_HEIGHT * j) / up;
    const r = towerRadius(y);
    const slope = (towerRadius(y + 1e-4) - towerRadius(y - 1e-4)) / 2e-4;
    const l = hypot(1, slope);
    for (let i = 0; i <= around; i++) {
      const a = (2 * Math.PI * i) / around;
      const [c, s] = [cos(a), -sin(a)];
      positions.push(r * c, y, r * s);
      normals.push(c / l, -slope / l, s / l);
      uvs.push(i / around, j / up);
      colors.push(...(y > 4.2 && y < 6.4 ? band : pale));
    }
  }
  const at = (i: number, j: number) => j * (around + 1) + i;
  for (let j = 0; j < up; j++)
    for (let i = 0; i < around; i++)
      indices.push(at(i, j), at(i + 1, j), at(i + 1, j + 1), at(i, j), at(i + 1, j + 1), at(i, j + 1));
  return {
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs: Float32Array.from(uvs),
    colors: Float32Array.from(colors),
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
    materials: [
      {
        name: 'whitewash',
        color: [1, 1, 1, 1],
        metallic: 0,
        roughness: 0.9,
        emissive: [0, 0, 0],
        doubleSided: true,
      },
    ],
  };
}
