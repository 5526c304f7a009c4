import { compilePath } from '@/core/curve/compile';
import { samplePath } from '@/core/curve/sample';
import { outlineArea, PLAIN_PROFILES, plainProfile } from '@/core/mesh/make/profiles';
import { shapeSchema } from '@/core/mesh/make/schema';
import { newPoint } from '@/core/scene/defaults';
import { asPoints, flatOf, placedAt, profilePlan, type Swept } from './profile';

test.each(PLAIN_PROFILES)('%s as points holds nearly what it does as a plain profile', (plain) => {
  const shape = shapeSchema.parse({ shape: 'swept', path: 'p', plain, width: 0.4, height: 0.6 }) as Swept;
  const points = asPoints(shape).map(({ at, kind }, i) => newPoint(`pt${i}`, kind, [at[0], at[1], 0]));
  const made = compilePath({ source: { kind: 'points', points }, closed: true } as never);
  if (!made.ok) throw new Error(made.problem);
  const lengths = Float64Array.from({ length: 2000 }, (_, i) => (made.path.length * i) / 2000);
  const { position: p } = samplePath(made.path, lengths);
  const ring = Array.from({ length: 2001 }, (_, i): [number, number] => [
    p[(i % 2000) * 3],
    p[(i % 2000) * 3 + 1],
  ]);
  const wanted = outlineArea(plainProfile(plain)) * 0.4 * 0.6;
  expect(Math.abs(outlineArea([ring]) / wanted - 1)).toBeLessThan(0.05);
});

test('the plan and its way back, and a place moved in the plane of its profile alone', () => {
  const plan = profilePlan(
    [
      [-1, 0],
      [3, 2],
    ],
    { width: 400, height: 300 },
  );
  expect(plan.back(...plan.at(1.3, 0.4)).map((v) => Number(v.toFixed(9)))).toEqual([1.3, 0.4]);
  const [left, right] = [plan.at(-1, 0), plan.at(3, 2)];
  expect(left[0]).toBeGreaterThan(0);
  expect(right[0]).toBeLessThan(400);
  expect(right[1]).toBeLessThan(left[1]);
  const ground = { h: 0, v: 2, up: -1 as const };
  expect(flatOf([5, 7, -2], ground)).toEqual([5, 2]);
  expect(placedAt([5, 7, -2], ground, [6, 3])).toEqual([6, 7, -3]);
});
