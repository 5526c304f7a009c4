import fc from 'fast-check';
import { planFor, type SeenBlock } from './plan';

const block = (pixels: number, instances: number, full = 80, simple = 12): SeenBlock => ({
  pixels,
  instances,
  full,
  simple,
});

test('where all fits all is drawn in full, however far away', () => {
  const { levels, share, drawn } = planFor([block(0.1, 500), block(0, 500), block(90, 500)], {
    triangles: 120_000,
    points: 0,
  });
  expect(levels).toEqual(['full', 'full', 'full']);
  expect([share, drawn]).toEqual([1, { full: 1500, simple: 0, boxes: 0, points: 0, left: 0 }]);
});

test('a million: the nearest in full, then simply, the rest as points, all counted', () => {
  const blocks = Array.from({ length: 1000 }, (_, i) => block(1000 - i, 1000));
  const { levels, share, drawn } = planFor(blocks, { triangles: 400_000, points: 300_000 });
  // Three blocks of 80,000 triangles are within 0.7 of it, then 13 of 12,000.
  expect(levels.slice(0, 4)).toEqual(['full', 'full', 'full', 'simple']);
  expect(drawn).toMatchObject({ full: 3000, simple: 13_000, points: 984_000 });
  expect(share * 984_000).toBeCloseTo(300_000, 6);
  expect(drawn.left).toBe(684_000);
});

test('within any budget: nothing nearer is coarser, nothing is forgotten, no more is drawn than may be', () => {
  const blocks = fc.array(
    fc.record({
      pixels: fc.constantFrom(0, 0.5, 1, 2, 3, 5, 8, 13, 21, 34),
      instances: fc.integer({ min: 1, max: 1024 }),
      full: fc.integer({ min: 12, max: 400 }),
      simple: fc.constant(12),
      onlyPoints: fc.boolean(),
      asBoxes: fc.boolean(),
    }),
    { maxLength: 60 },
  );
  const budget = fc.record({ triangles: fc.nat(3e6), points: fc.nat(50_000) });
  fc.assert(
    fc.property(blocks, budget, (list, most) => {
      const { levels, share, drawn, triangles: said } = planFor(list, most);
      const fine = { full: 2, simple: 1, points: 0 };
      const count = (holds: (i: number) => boolean) =>
        list.reduce((n, b, i) => n + (holds(i) ? b.instances : 0), 0);
      expect([drawn.full, drawn.simple, drawn.points]).toEqual(
        (['full', 'simple', 'points'] as const).map((l) =>
          count((i) => levels[i] === l && (l === 'points' || !list[i].asBoxes)),
        ),
      );
      expect(drawn.full + drawn.simple + drawn.boxes + drawn.points).toBe(count(() => true));
      const triangles = list.reduce(
        (n, b, i) => n + (levels[i] === 'points' ? 0 : b.instances * b[levels[i]]),
        0,
      );
      expect(said).toBe(triangles);
      expect(triangles).toBeLessThanOrEqual(most.triangles);
      expect(share * count((i) => levels[i] === 'points' && list[i].pixels > 0)).toBeLessThanOrEqual(
        most.points + 1e-6,
      );
      const coarser = list.some((a, i) =>
        list.some((b, j) => !a.onlyPoints && a.pixels > b.pixels && fine[levels[i]] < fine[levels[j]]),
      );
      expect(coarser).toBe(false);
      expect(list.every((b, i) => !b.onlyPoints || levels[i] === 'points')).toBe(true);
    }),
    { numRuns: 300 },
  );
});
