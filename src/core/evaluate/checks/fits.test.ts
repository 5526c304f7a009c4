import { newEntry, emptyScene, newPath, newProp, newRun } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { exampleMesh } from '../../testing/scene';
import { Evaluator } from '../scene';
import { fitting, type Fits } from './fits';

/** What is changed until it fits: boxes of 0.4 × 0.6 × 0.5 m one behind the other, half a metre long. */

const scene = (pitch: number, size = 1): Scene => {
  const made = newRun('a', 'a', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'crate' })]);
  made.spacing = { ...made.spacing, mode: 'pitch', pitch, leftover: 'end' };
  made.facing = { ...made.facing, size };
  const line = newPath(
    'line',
    'Line',
    points('corner', [
      [0, 0, 0],
      [12, 0, 0],
    ]),
  );
  return {
    ...emptyScene('S'),
    props: [newProp('crate', 'Crate', { source: 'built', name: 'crate' })],
    paths: [line],
    arrangements: [made],
  };
};

function fit(of: Scene, fits: Fits, from: number): number | null {
  const evaluator = new Evaluator({ mesh: () => exampleMesh() });
  evaluator.evaluate(of);
  const work = fitting(of.arrangements[0], fits, from, evaluator.contextAt(0));
  let step = work.next();
  while (!step.done) step = work.next();
  return step.value;
}

test.each([0.31, 0.12, 0.499, 0.03])('a pitch of %s m is widened to just the length of a box', (pitch) => {
  const found = fit(scene(pitch), 'pitch', pitch)!;
  expect(found).toBeGreaterThanOrEqual(0.5 - 1e-6);
  expect(found).toBeLessThan(0.502);
});

test.each([0.31, 0.4, 0.06])('at a pitch of %s m they are shrunk to just that length', (pitch) => {
  const found = fit(scene(pitch), 'size', 1)!;
  expect(found * 0.5).toBeLessThanOrEqual(pitch + 1e-6);
  expect(found * 0.5).toBeGreaterThan(pitch * 0.99);
});

test('where nothing reaches into anything, or there is no such number, nothing is found', () => {
  expect(fit(scene(0.6), 'pitch', 0.6)).toBeNull();
  const touch = scene(0.3);
  expect(
    fit(
      { ...touch, arrangements: [{ ...touch.arrangements[0], spacing: undefined } as never] },
      'pitch',
      0.3,
    ),
  ).toBeNull();
});
