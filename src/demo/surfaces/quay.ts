import { compilePath } from '@/core/curve/compile';
import { polyline, samplePath } from '@/core/curve/sample';
import { newPath, newPoint } from '@/core/scene/defaults';
import type { Vec3 } from '@/core/math/vec3';
import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** The line along which the quay meets the water, from west to east. */
export const QUAY_EDGE: Vec3[] = [
  [-22, 0, 5.5],
  [-15, 0, 6.6],
  [-8, 0, 4.4],
  [-2, 0, 2.2],
  [3, 0, 4],
  [9, 0, 7.4],
  [15, 0, 7],
  [22, 0, 3.6],
];
/** Where the steps go down to the water, metres along the edge. */
export const STEPS = { from: 28.9, to: 32.2, deep: 1.5, count: 6 };
const WALL = 2.4;
const BACK = -16;

export function quayEdgePath() {
  const points = QUAY_EDGE.map((p, i) => newPoint(`e${i}`, 'smooth', p));
  const compiled = compilePath(newPath('edge', 'Edge', points));
  if (!compiled.ok) throw new Error('The quay edge does not compile');
  return compiled.path;
}

/** Paved top, wall to below the water, and a flight of steps let into the edge. */
export function quay(): Mesh {
  const path = quayEdgePath();
  const marks = [...polyline(path, 0.03).s].filter((s) => s < STEPS.from - 0.2 || s > STEPS.to + 0.2);
  const s = [...marks, STEPS.from, STEPS.to].sort((a, b) => a - b);
  const { position, tangent } = samplePath(path, s);
  const edge = s.map((_, i): Vec3 => [position[i * 3], 0, position[i * 3 + 2]]);
  const inward = s.map((_, i): Vec3 => [tangent[i * 3 + 2], 0, -tangent[i * 3]]);
  const shape = new Shape();
  const down = (p: Vec3, y: number): Vec3 => [p[0], y, p[2]];
  for (let i = 0; i + 1 < s.length; i++) {
    let [a, b] = [edge[i], edge[i + 1]];
    const steps = s[i] === STEPS.from;
    if (steps) {
      const back = (p: Vec3, k: number, r: number): Vec3 => [
        p[0] + inward[k][0] * r,
        0,
        p[2] + inward[k][2] * r,
      ];
      const [outA, outB] = [a, b];
      addSteps(
        shape,
        (r) => back(outA, i, r),
        (r) => back(outB, i + 1, r),
        down,
      );
      [a, b] = [back(a, i, STEPS.deep), back(b, i + 1, STEPS.deep)];
      shape.face([down(outA, -WALL), down(a, -WALL), a, outA].reverse() as Vec3[], C.darkStone);
      shape.face([down(b, -WALL), down(outB, -WALL), outB, b].reverse() as Vec3[], C.darkStone);
      // The steps go inland square to the edge, the paving straight back: a sliver is left on either side.
      shape.sheet([outB, [outB[0], 0, BACK], b], C.stone);
      shape.sheet([a, [outA[0], 0, BACK], outA], C.stone);
      shape.face([a, b, [outB[0], 0, BACK], [outA[0], 0, BACK]], C.stone);
    } else shape.face([a, b, [b[0], 0, BACK], [a[0], 0, BACK]], C.stone);
    if (!steps) {
      const curb = 0.14;
      const [ca, cb] = [a, b].map((p): Vec3 => [p[0], -curb, p[2]]);
      shape.face([ca, cb, b, a], C.linen);
      shape.face([down(a, -WALL), down(b, -WALL), cb, ca], C.darkStone);
    }
  }
  return shape.mesh();
}

function addSteps(
  shape: Shape,
  left: (inward: number) => Vec3,
  right: (inward: number) => Vec3,
  down: (p: Vec3, y: number) => Vec3,
): void {
  const { count, deep } = STEPS;
  for (let k = 0; k < count; k++) {
    const y = -((k + 1) * 1.5) / (count + 1);
    const above = -(k * 1.5) / (count + 1);
    const far = deep - (k * deep) / count;
    const near = deep - ((k + 1) * deep) / count;
    shape.face([down(left(near), y), down(right(near), y), down(right(far), y), down(left(far), y)], C.linen);
    shape.face(
      [down(left(far), y), down(right(far), y), down(right(far), above), down(left(far), above)],
      C.stone,
    );
  }
  shape.face(
    [down(left(0), -WALL), down(right(0), -WALL), down(right(0), -1.3), down(left(0), -1.3)],
    C.darkStone,
  );
}

/** A plain floor of 20 × 20 m. */
export function floor(): Mesh {
  return new Shape()
    .face(
      [
        [-10, 0, 10],
        [10, 0, 10],
        [10, 0, -10],
        [-10, 0, -10],
      ],
      C.linen,
    )
    .mesh();
}
