import type { Scene } from '../scene/schema';
import { ASSETS, exampleScene } from '../testing/scene';
import { newRun } from '../scene/defaults';
import { orderNodes } from './graph';
import { Evaluator } from './scene';

const copy = (s: Scene): Scene => JSON.parse(JSON.stringify(s));

describe('evaluator', () => {
  test('a change works out only what follows from it', () => {
    const scene = exampleScene();
    scene.arrangements.push({ ...copy(scene).arrangements[0], id: 'run9', paths: [] });
    const evaluator = new Evaluator(ASSETS);
    const first = evaluator.evaluate(scene);
    const renamed = copy(scene);
    renamed.arrangements[0].name = 'Another name';
    const second = evaluator.evaluate(renamed);
    expect(second.arrangements[0]).toBe(first.arrangements[0]);
    expect(second.paths[0]).toBe(first.paths[0]);
    const moved = copy(scene);
    moved.paths[0].source.points[1].position = [-1, 0, 4];
    const third = evaluator.evaluate(moved);
    expect(third.arrangements[0]).not.toBe(first.arrangements[0]);
    expect(third.arrangements[1]).toBe(first.arrangements[1]);
  });

  test('the same scene gives the same numbers, whatever was evaluated before', () => {
    const evaluator = new Evaluator(ASSETS);
    const other = exampleScene();
    other.arrangements[0].seed = 99;
    other.paths[0].closed = true;
    evaluator.evaluate(other);
    expect(evaluator.evaluate(exampleScene())).toEqual(new Evaluator(ASSETS).evaluate(exampleScene()));
  });

  test('a broken node is a finding on the node that asks; the others go on', () => {
    const scene = exampleScene();
    scene.props[1].mesh = { source: 'built', name: 'gone' };
    scene.paths.push({ ...copy(scene).paths[0], id: 'path20', source: { kind: 'points', points: [] } });
    scene.arrangements.push(newRun('run21', 'B', 'weld', 'path20', []));
    const { arrangements, paths } = new Evaluator(ASSETS).evaluate(scene);
    expect(arrangements[0].findings.map((f) => f.kind)).toContain('mesh-missing');
    expect(arrangements[0].placements.count).toBeGreaterThan(3);
    expect(arrangements[1].findings.map((f) => f.kind)).toEqual(
      expect.arrayContaining(['path-too-few-points', 'no-props']),
    );
    expect(paths[1].findings[0].kind).toBe('path-too-few-points');
  });
});

test('nodes come after what they stand on; rings are named and left out', () => {
  const { order, cycles } = orderNodes([
    { id: 'c', dependsOn: ['b'] },
    { id: 'b', dependsOn: ['a', 'unknown'] },
    { id: 'a', dependsOn: [] },
    { id: 'x', dependsOn: ['y'] },
    { id: 'y', dependsOn: ['x'] },
  ]);
  expect(order).toEqual(['a', 'b', 'c']);
  expect(cycles).toEqual([['x', 'y']]);
});
