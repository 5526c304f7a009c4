import type { Run } from '../arrange/run/schema';
import type { PointsPath } from '../curve/schema';
import type { Scene } from '../scene/schema';
import { ASSETS, exampleScene } from '../testing/scene';
import { newRun } from '../scene/defaults';
import { pathSchema } from '../curve/schema';
import { orderNodes } from './graph';
import { Evaluator } from './scene';

const copy = (s: Scene): Scene => JSON.parse(JSON.stringify(s));

describe('evaluator', () => {
  test('a change works out only what follows from it', () => {
    const scene = exampleScene();
    scene.arrangements.push({ ...(copy(scene).arrangements[0] as Run), id: 'run9', paths: [] });
    const evaluator = new Evaluator(ASSETS);
    const first = evaluator.evaluate(scene);
    const renamed = copy(scene);
    renamed.arrangements[0].name = 'Another name';
    const second = evaluator.evaluate(renamed);
    expect(second.arrangements[0]).toBe(first.arrangements[0]);
    expect(second.paths[0]).toBe(first.paths[0]);
    const moved = copy(scene);
    (moved.paths[0] as PointsPath).source.points[1].position = [-1, 0, 4];
    const third = evaluator.evaluate(moved);
    expect(third.arrangements[0]).not.toBe(first.arrangements[0]);
    expect(third.arrangements[1]).toBe(first.arrangements[1]);
  });

  test('the same scene gives the same numbers, whatever was evaluated before', () => {
    const evaluator = new Evaluator(ASSETS);
    const other = exampleScene();
    (other.arrangements[0] as Run).seed = 99;
    other.paths[0].closed = true;
    evaluator.evaluate(other);
    // Keys only tell the states of one evaluator apart.
    const numbers = (e: Evaluator) =>
      e.evaluate(exampleScene()).arrangements.map(({ key: _, ...rest }) => rest);
    expect(numbers(evaluator)).toEqual(numbers(new Evaluator(ASSETS)));
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

describe('what waits for itself', () => {
  const offset = (id: string, path: string) =>
    pathSchema.parse({ id, name: id, source: { kind: 'offset', path, distance: 1 } });
  const coil = (id: string, path: string) =>
    pathSchema.parse({ id, name: id, source: { kind: 'generator', generator: { shape: 'coil', path } } });

  test('rings of paths are named on each of them; what stands on them says so; the rest goes on', () => {
    const scene = exampleScene();
    scene.paths.push(
      coil('path30', 'path30'),
      offset('path31', 'path32'),
      offset('path32', 'path31'),
      offset('path33', 'path31'),
      offset('path34', 'path4'),
    );
    scene.arrangements.push(newRun('run40', 'R', 'weld', 'path30', []));
    const { paths, arrangements } = new Evaluator(ASSETS).evaluate(scene);
    const found = (id: string) => paths.find((p) => p.id === id)!.findings[0];
    expect(found('path30')).toMatchObject({ kind: 'path-cycle', detail: { ring: '“path30”' } });
    expect(found('path31').detail.ring).toBe(found('path32').detail.ring);
    expect(found('path33').kind).toBe('path-base-missing');
    expect(paths.find((p) => p.id === 'path34')!.ok).toBe(true);
    expect(arrangements[1].findings.map((f) => f.kind)).toContain('path-cycle');
    expect(arrangements[0].placements.count).toBeGreaterThan(3);
  });

  test('a run kept out by its own distance', () => {
    const scene = exampleScene();
    const run = scene.arrangements[0] as Run;
    run.gaps.keepOuts = [
      { id: 'k', kind: 'near', name: 'K', of: { kind: 'arrangement', id: run.id }, distance: 1 },
    ];
    const result = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
    expect(result.findings.map((f) => f.kind)).toEqual(['cycle']);
    expect(result.placements.count).toBe(0);
  });

  test('a ring mended is worked out again', () => {
    const scene = exampleScene();
    const evaluator = new Evaluator(ASSETS);
    scene.paths.push(offset('path31', 'path31'));
    expect(evaluator.evaluate(scene).paths[1].ok).toBe(false);
    scene.paths[1] = offset('path31', 'path4');
    expect(evaluator.evaluate(scene).paths[1].ok).toBe(true);
  });
});

test('only what moves with time is worked out anew for another time', () => {
  const scene = exampleScene();
  const moving = scene.arrangements[0] as Run;
  scene.arrangements.push({ ...(copy(scene).arrangements[0] as Run), id: 'run9' });
  moving.pulley.speed = 0.5;
  const evaluator = new Evaluator(ASSETS);
  const [a, b] = [0, 2].map((time) => evaluator.evaluate(scene, undefined, time).arrangements);
  expect(b[1]).toBe(a[1]);
  expect(b[0].placements.s[0] - a[0].placements.s[0]).toBeCloseTo(1, 12);
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
