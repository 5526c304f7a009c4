import fc from 'fast-check';
import { OF_BOX, planFor, type SeenBlock } from './plan';

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

test('a million: the nearest in full, then simply, as boxes, the rest as points, all counted', () => {
  const blocks = Array.from({ length: 1000 }, (_, i) => block(1000 - i, 1000, 80, 20));
  const { levels, share, drawn } = planFor(blocks, { triangles: 800_000, points: 300_000 });
  // Of the half that is not for boxes three blocks of 80,000 triangles are within 0.7, then 8 of 20,000.
  expect(levels.slice(0, 4)).toEqual(['full', 'full', 'full', 'simple']);
  expect(drawn).toMatchObject({ full: 3000, simple: 8000, boxes: 33_000, points: 956_000 });
  expect(share * 956_000).toBeCloseTo(300_000, 6);
  expect(drawn.left).toBe(656_000);
});

test('boxes stand for what would be a flat spot and is large enough to have sides, for nothing smaller', () => {
  const many = (pixels: number) => Array.from({ length: 18 }, () => block(pixels, 1000, 300, Infinity));
  const budget = { triangles: 400_000, points: Infinity };
  expect(planFor(many(10), budget).drawn).toMatchObject({ full: 0, boxes: 18_000, points: 0 });
  expect(planFor(many(2), budget).drawn).toMatchObject({ full: 0, boxes: 0, points: 18_000 });
  // A tuft of twice a box's triangles is drawn as it is, as far as they reach: as a slab it would be none.
  const tufts = Array.from({ length: 18 }, () => block(10, 1000, 2 * OF_BOX, Infinity));
  expect(planFor(tufts, budget).drawn).toMatchObject({ full: 11_000, boxes: 0, points: 7000 });
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
      const fine = { full: 3, simple: 2, boxes: 1, points: 0 };
      const count = (holds: (i: number) => boolean) =>
        list.reduce((n, b, i) => n + (holds(i) ? b.instances : 0), 0);
      const asBoxes = (i: number) =>
        levels[i] === 'boxes' || (levels[i] !== 'points' && list[i].asBoxes === true);
      expect([drawn.full, drawn.simple, drawn.boxes, drawn.points]).toEqual([
        count((i) => levels[i] === 'full' && !asBoxes(i)),
        count((i) => levels[i] === 'simple' && !asBoxes(i)),
        count(asBoxes),
        count((i) => levels[i] === 'points'),
      ]);
      expect(drawn.full + drawn.simple + drawn.boxes + drawn.points).toBe(count(() => true));
      const triangles = list.reduce(
        (n, b, i) => n + b.instances * { ...b, boxes: OF_BOX, points: 0 }[levels[i]],
        0,
      );
      expect(said).toBe(triangles);
      expect(triangles).toBeLessThanOrEqual(most.triangles);
      expect(share * count((i) => levels[i] === 'points' && list[i].pixels > 0)).toBeLessThanOrEqual(
        most.points + 1e-6,
      );
      const coarser = list.some((a, i) =>
        list.some(
          (b, j) =>
            !a.onlyPoints &&
            a.pixels > b.pixels &&
            fine[levels[i]] < fine[levels[j]] &&
            // What is no more than two boxes is never one.
            !(levels[i] === 'points' && levels[j] === 'boxes' && a.full <= 2 * OF_BOX),
        ),
      );
      expect(coarser).toBe(false);
      expect(list.every((b, i) => !b.onlyPoints || levels[i] === 'points')).toBe(true);
    }),
    { numRuns: 300 },
  );
});
