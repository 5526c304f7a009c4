import { ASSETS, exampleScene, towerOn } from '../testing/scene';
import { Evaluator } from './scene';

const copyOf = <T>(value: T): T => JSON.parse(JSON.stringify(value));
const evaluator = () => new Evaluator(ASSETS);

const tower = (deep: number) => towerOn(exampleScene(), deep);

test('keys stay short, however deep things stand on each other', () => {
  const { arrangements } = evaluator().evaluate(tower(40));
  expect(arrangements).toHaveLength(41);
  for (const { key } of arrangements) expect(key.length).toBeLessThan(40);
  expect(new Set(arrangements.map((a) => a.key)).size).toBe(41);
});

test('a change at the bottom gives every key above it anew, and one at the top none below', () => {
  const e = evaluator();
  const keys = (scene: ReturnType<typeof tower>) => e.evaluate(scene).arrangements.map((a) => a.key);
  const scene = tower(6);
  const before = keys(scene);
  const low = copyOf(scene);
  (low.arrangements[1] as { turnDeg: number }).turnDeg = 30;
  expect(keys(low).map((k, i) => k === before[i])).toEqual([true, ...Array(6).fill(false)]);
  const back = keys(scene);
  const high = copyOf(scene);
  (high.arrangements[6] as { turnDeg: number }).turnDeg = 30;
  expect(keys(high).map((k, i) => k === back[i])).toEqual([...Array(6).fill(true), false]);
});
