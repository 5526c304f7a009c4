import fc from 'fast-check';
import { cases, SEED } from '../testing/prove';
import { circle, line } from '../testing/runs';
import { asResult } from '../testing/paths';
import { newEntry, newRun } from '../scene/defaults';
import type { ArrangeContext } from './context';
import type { Placements } from './result';
import { evaluateRun } from './run/evaluate';
import { runSchema, type Run } from './run/schema';

/** What stands in columns comes out as what is settled slot by slot: a hand that moves nothing asks for the latter. */

const bounds = { min: [-0.2, 0, -0.25] as const, max: [0.2, 1, 0.25] as const };
const context: ArrangeContext = {
  path: (id) => asResult(id === 'circle' ? circle : line),
  prop: () => ({ state: 'ready', bounds: { min: [...bounds.min], max: [...bounds.max] } }),
};
const range = (most: number, middle = 0) =>
  fc.tuple(
    fc.oneof(fc.constant(middle), fc.double({ min: middle - most, max: middle, noNaN: true })),
    fc.oneof(fc.constant(middle), fc.double({ min: middle, max: middle + most, noNaN: true })),
  );
const recipes = fc.record({
  path: fc.constantFrom('line', 'circle'),
  seed: fc.nat(),
  spacing: fc.record({
    mode: fc.constantFrom('pitch', 'count', 'touch', 'divide'),
    count: fc.integer({ min: 1, max: 40 }),
    rows: fc.record({ count: fc.integer({ min: 1, max: 3 }), mirrored: fc.boolean() }),
  }),
  facing: fc.record({
    heading: fc.constantFrom('along', 'across', 'outward', 'compass'),
    posture: fc.constantFrom('upright', 'slope', 'bank'),
    alternate: fc.constantFrom('none', 'turn', 'mirror'),
    lift: fc.constantFrom(0, 0.3),
    turnDeg: fc.constantFrom(0, 25),
    tipDeg: fc.constantFrom(0, 5),
    size: fc.constantFrom(1, 1.3),
  }),
  variation: fc.record({
    along: range(0.1),
    side: range(0.2),
    lift: range(0.2),
    turnDeg: range(40),
    tipDeg: range(10),
    rollDeg: range(10),
    size: range(0.3, 1),
    sizeY: range(0.3, 1),
    turnStepDeg: fc.constantFrom(0, 15),
    mirror: fc.constantFrom(0, 0.5),
    spread: fc.record({ turnDeg: fc.constantFrom('uniform', 'bell', 'extremes') }),
    perProp: fc.constantFrom({}, { b: { turnDeg: [3, 9] } }),
  }),
  gaps: fc.record({
    chance: fc.constantFrom(0, 0.3),
    after: fc.constantFrom('hole', 'close'),
  }),
});

function worked({ path, ...settings }: { path: string } & object, hand: Run['hand']): Placements {
  const run = newRun('r', 'R', 'madder', path, [
    newEntry('e', { kind: 'prop', prop: 'a' }),
    newEntry('f', { kind: 'prop', prop: 'b' }),
  ]);
  return evaluateRun(runSchema.parse({ ...run, ...settings, hand }), context).placements;
}

test('in columns everything stands as it does slot by slot', () => {
  fc.assert(
    fc.property(recipes, (recipe) => {
      const [columns, single] = [worked(recipe, {}), worked(recipe, { 'p9.1': { side: 1 } })];
      expect(columns.count).toBeGreaterThan(0);
      for (const list of ['slot', 'state', 'prop', 's', 'position', 'rotation', 'scale'] as const)
        expect(columns[list]).toEqual(single[list]);
    }),
    { seed: SEED, numRuns: cases(4000) },
  );
});
