import type { Vec3 } from '../math/vec3';
import { propMatrix } from './mesh';
import type { Prop } from './propSchema';
import { snapPointsKept } from './snapPoints';

const bounds = { min: [-3, 1, 10] as [number, number, number], max: [5, 2, 14] as [number, number, number] };
const AXES = ['+x', '-x', '+y', '-y', '+z', '-z'] as const;
const FEET: Prop['foot'][] = [
  { at: 'base' },
  { at: 'centre' },
  { at: 'origin' },
  { at: 'point', point: [1, 2, 3] },
];

test('whatever foot, axes and unit become, a snap point stays on its place of the mesh', () => {
  const place = [4.25, 1.5, 11];
  const postures = FEET.flatMap((foot) =>
    AXES.flatMap((up) =>
      AXES.filter((front) => front[1] !== up[1]).flatMap((front) =>
        [1, 0.01].map((unitScale) => ({ foot, up, front, unitScale })),
      ),
    ),
  );
  const own = (p: (typeof postures)[number]) => {
    const m = propMatrix(p, bounds);
    return [0, 1, 2].map((r) => m[r] * place[0] + m[4 + r] * place[1] + m[8 + r] * place[2] + m[12 + r]);
  };
  /** Where the mesh's own z points. */
  const way = (p: (typeof postures)[number]) =>
    [...propMatrix(p, bounds).subarray(8, 11)].map((v) => v / p.unitScale);
  const first = postures[17];
  const points: Prop['snapPoints'] = [
    { name: 'Eye', position: own(first) as Vec3, direction: way(first) as Vec3 },
  ];
  for (const next of postures) {
    const [kept] = snapPointsKept(points, first, next, bounds);
    expect(kept.name).toBe('Eye');
    expect(kept.direction).toEqual(way(next).map((v) => expect.closeTo(v, 9)));
    expect(kept.position).toEqual(own(next).map((v) => expect.closeTo(v, 9)));
  }
});
