import { channel, random01 } from '../../math/random';
import { Evaluator } from '../../evaluate/scene';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun } from '../../scene/defaults';
import { sceneSchema } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import { STATE } from '../result';
import type { Run } from './schema';
import type { Gaps } from '../steps/schema';

/** Props of half a metre end to end over 20 m, closed up. */
function closedUp(gaps: Partial<Gaps>, seed = 4, more: (run: Run) => void = () => {}) {
  const run = newRun('run', 'Run', 'weld', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'touch', leftover: 'end' };
  run.seed = seed;
  run.gaps = { ...run.gaps, after: 'close', ...gaps };
  more(run);
  const scene = sceneSchema.parse({
    ...emptyScene('Close up'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    paths: [
      newPath('line', 'Line', [newPoint('a', 'corner', [0, 0, 0]), newPoint('b', 'corner', [20, 0, 0])]),
    ],
    arrangements: [run],
  });
  const { placements: p } = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
  const rows = [...p.slot.keys()];
  const feet = rows.filter((i) => p.state[i] === STATE.placed).map((i) => p.position[i * 3]);
  return { rows, state: p.state, slot: p.slot, prop: p.prop, feet };
}
const CHANCE = channel('gaps.chance');
const whole = Array.from({ length: 40 }, (_, i) => 0.25 + i / 2);
const near = (a: number[], b: number[]) => {
  expect(a).toHaveLength(b.length);
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i], 9));
};

test('what comes to fit when others are gone by chance is judged once, like all the others: there are no holes', () => {
  for (let seed = 1; seed <= 60; seed++) {
    const { rows, state, slot, feet } = closedUp({ chance: 0.3 }, seed);
    near(feet, whole);
    for (const i of rows) expect(state[i] === STATE.chance).toBe(random01(seed, slot[i], CHANCE) < 0.3);
  }
});

test('a share of those that fit at first is taken, wherever from, and the rest closes up from the beginning', () => {
  for (const from of ['start', 'end', 'random'] as const) {
    const { state, feet } = closedUp({ taken: { share: 0.25, from } });
    expect(state.filter((s) => s === STATE.taken)).toHaveLength(10);
    near(feet, whole);
  }
});

test('places that are kept out stay empty, and all the others stand, up to the end', () => {
  const keepOuts: Gaps['keepOuts'] = [
    { id: 'k', name: 'K', kind: 'range', part: 0, stroke: 0, from: 6, to: 9 },
  ];
  for (let seed = 1; seed <= 20; seed++) {
    const { feet, state } = closedUp({ chance: 0.3, keepOuts }, seed);
    near(
      feet,
      whole.filter((s) => s < 6 || s > 9),
    );
    expect(state.filter((s) => s === STATE.keepOut)).toHaveLength(6);
  }
});

test('a pause at the end stays one though the end moves with every place that closes up, and with the pulley', () => {
  const keepOuts: Gaps['keepOuts'] = [
    { id: 'k', name: 'K', kind: 'range', part: 0, stroke: 0, from: 6, to: 9 },
  ];
  for (let seed = 1; seed <= 60; seed++)
    for (const offset of [0, 1.3]) {
      const { rows, state, prop, feet } = closedUp({ chance: 0.3, keepOuts }, seed, (run) => {
        run.order = { ...run.order, first: { kind: 'pause' }, last: { kind: 'pause' } };
        run.variation = { ...run.variation, size: [0.3, 1.9] };
        run.pulley = { ...run.pulley, offset };
      });
      expect(rows.filter((i) => prop[i] < 0 && state[i] === STATE.placed)).toEqual([]);
      expect(prop[rows.length - 1]).toBe(-1);
      expect(feet.filter((x) => x >= 6 && x <= 9)).toEqual([]);
    }
});
