import { emptyScene, newEntry, newPath, newProp, newRun } from '../../scene/defaults';
import type { Run } from '../../arrange/run/schema';
import type { Scene } from '../../scene/schema';
import { corrected } from '../../arrange/steps/corrected';
import { slotName } from '../../arrange/slotId';
import { points } from '../../testing/paths';
import { exampleMesh } from '../../testing/scene';
import { Evaluator } from '../scene';
import { pushedApart } from './pushed';

/** What is pushed along its path: boxes half a metre long, one behind the other. */

const ASSETS = { mesh: () => exampleMesh() };

function sceneOf(long: number, along: Record<string, number>, pitch = 0.6): Scene {
  const run = newRun('a', 'a', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'crate' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 6, insetEnd: long - pitch * 5 };
  run.hand = Object.fromEntries(Object.entries(along).map(([slot, by]) => [slot, { along: by }]));
  return {
    ...emptyScene('S'),
    props: [newProp('crate', 'Crate', { source: 'built', name: 'crate' })],
    paths: [
      newPath(
        'line',
        'Line',
        points('corner', [
          [0, 0, 0],
          [long, 0, 0],
        ]),
      ),
    ],
    arrangements: [run],
  };
}

function push(scene: Scene) {
  const evaluator = new Evaluator(ASSETS);
  evaluator.evaluate(scene);
  const work = pushedApart(scene.arrangements[0] as Run, evaluator.contextAt(0));
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
}

/** Where the boxes stand along the line, with what they were pushed by. */
function along(scene: Scene, made: NonNullable<ReturnType<typeof push>>): number[] {
  const run = scene.arrangements[0] as Run;
  const by = new Map(made.slots.map((slot, i) => [slotName(slot), made.by[i]]));
  const hand = corrected(run.hand, [...by.keys()], (now, name) => ({
    along: (now?.along ?? 0) + by.get(name)!,
  }));
  const { placements } = new Evaluator(ASSETS).evaluate({ ...scene, arrangements: [{ ...run, hand }] })
    .arrangements[0];
  return [...placements.s];
}

test('one that was moved into the next pushes that, and no other, and no farther than it has to', () => {
  const scene = sceneOf(12, { '2': 0.5 }, 0.8);
  const made = push(scene)!;
  expect(made.slots).toEqual([3]);
  // It stands at 0.8 + 0.5: the third has to be half a metre on.
  const [, two, three, four] = along(scene, made);
  expect(three - two).toBeGreaterThanOrEqual(0.5 - 1e-5);
  expect(three - two).toBeLessThan(0.502);
  expect(four - three).toBeGreaterThanOrEqual(0.5 - 1e-5);
});

test('a row that is too tight is pushed out to its lengths, each after the other', () => {
  const scene = sceneOf(12, {}, 0.4);
  const made = push(scene)!;
  const s = along(scene, made);
  s.slice(1).forEach((at, i) => {
    expect(at - s[i]).toBeGreaterThanOrEqual(0.5 - 1e-5);
    expect(at - s[i]).toBeLessThan(0.51);
  });
  expect(s[0]).toBe(0);
});

test('without room, or without need, nothing is pushed', () => {
  expect(push(sceneOf(12, {}))).toBeNull();
  expect(push(sceneOf(2, {}, 0.4))).toBeNull();
});
