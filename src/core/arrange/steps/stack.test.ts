import fc from 'fast-check';
import { propShape } from '../../mesh/contact/support';
import { STATE, type Placements } from '../result';
import { newEntry, newRun } from '../../scene/defaults';
import { asResult, compiled, points } from '../../testing/paths';
import { boxBetween } from '../../testing/plumb';
import { triMeshOf } from '../../testing/surfaces';
import { evaluateRun } from '../run/evaluate';
import { groundSchema } from './schema';
import { cases } from '../../testing/prove';

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
/** A box 1 m long, wide and high, its foot in the middle of its base. */
const box = boxBetween([-0.5, 0, -0.5], [0.5, 1, 0.5]);
const shape = propShape(
  box,
  SAME,
  Array.from({ length: box.length / 3 }, (_, k) => k),
);
const floor = triMeshOf({ shape: 'plane', width: 60, depth: 10 });
const line = compiled(
  points('corner', [
    [-20, 3, 0],
    [20, 3, 0],
  ]),
);

function piled(
  stack: boolean,
  count: number,
  more: (r: ReturnType<typeof newRun>) => void = () => {},
): Placements {
  const run = newRun('r', 'R', 'madder', 'p', [newEntry('e', { kind: 'prop', prop: 'box' })]);
  run.spacing = { ...run.spacing, mode: 'count', count };
  run.ground = groundSchema.parse({ mode: 'land', stack, contact: 'lowest' });
  more(run);
  return evaluateRun(run, {
    path: () => asResult(line),
    prop: () => ({
      state: 'ready',
      bounds: { min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] },
      shape: () => shape,
    }),
    surface: () => floor,
    grounds: () => ['floor'],
  }).placements;
}
const xy = (p: Placements) =>
  Array.from({ length: p.count }, (_, i) => [p.position[i * 3], p.position[i * 3 + 1]]);

test('without stacking nothing lands on its fellows', () => {
  xy(piled(false, 100)).forEach(([, y]) => expect(y).toBeCloseTo(0, 9));
});

test('in slot order each stands exactly on the highest of those below it', () => {
  fc.assert(
    fc.property(fc.integer({ min: 2, max: 120 }), fc.integer({ min: 1, max: 99 }), (count, seed) => {
      const p = piled(true, count, (r) => {
        r.seed = seed;
        r.variation = { ...r.variation, along: [-1, 1] };
      });
      const stood: number[][] = [];
      for (const [x, y] of xy(p)) {
        const below = stood.filter(([other]) => Math.abs(other - x) < 1 - 1e-5);
        expect(y).toBeCloseTo(Math.max(0, ...below.map(([, top]) => top + 1)), 6);
        stood.push([x, y]);
      }
    }),
    { numRuns: cases(1000) },
  );
});

test('end to end they stand side by side; gaps carry nothing; sizes are minded', () => {
  const row = piled(true, 0, (r) => (r.spacing = { ...r.spacing, mode: 'touch' }));
  xy(row).forEach(([, y]) => expect(y).toBeCloseTo(0, 9));
  const close = piled(true, 60, (r) => {
    r.gaps = { ...r.gaps, chance: 0.5 };
    r.facing = { ...r.facing, size: 0.5 };
  });
  const placed = xy(close).filter((_, i) => close.state[i] === STATE.placed);
  // 40 m for 60 of 0.5 m: no two meet.
  placed.forEach(([, y]) => expect(y).toBeCloseTo(0, 9));
});
