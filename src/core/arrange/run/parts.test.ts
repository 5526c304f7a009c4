import { Evaluator } from '../../evaluate/scene';
import { ASSETS, exampleScene, firstRun } from '../../testing/scene';
import { freePart, withOwnParts } from './parts';

test('a free number is the one after all, and when these are used up the first that is left', () => {
  expect(freePart([])).toBe(0);
  expect(freePart([{ part: 3, path: 'a' }])).toBe(4);
  expect(
    freePart([
      { part: 4095, path: 'a' },
      { part: 0, path: 'b' },
    ]),
  ).toBe(1);
});

test('two paths of one number still give slots of names of their own; the first keeps its names', () => {
  const paths = [2, 2, 3].map((part, i) => ({ part, path: `p${i}` }));
  expect(withOwnParts(paths).map((p) => p.part)).toEqual([2, 4, 3]);
  const scene = exampleScene();
  const run = firstRun(scene);
  const alone = new Evaluator(ASSETS).evaluate(scene).arrangements[0].placements;
  const twice = structuredClone(scene);
  firstRun(twice).paths.push({ ...run.paths[0] });
  const { slot, count } = new Evaluator(ASSETS).evaluate(twice).arrangements[0].placements;
  expect(count).toBe(alone.count * 2);
  expect(new Set(slot).size).toBe(count);
  expect([...slot.subarray(0, alone.count)]).toEqual([...alone.slot]);
});
