import type { Run } from '../../arrange/run/schema';
import { pathSchema } from '../../curve/schema';
import { clip, pasting } from '../../scene/clipping';
import { emptyScene, newEntry, newPath, newProp, newRun } from '../../scene/defaults';
import { applyPatches } from '../../scene/patch';
import { sceneSchema, type Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { SceneChecks } from '../checks/sceneChecks';
import { Evaluator } from '../scene';
import { referencesIn, valueOf } from './expression';

/** Numbers that follow what other things measure, against those measures by hand. */

test('expressions are read as sums and products are, and come to nothing where they are none', () => {
  const of: Record<string, number> = { 'p1.length': 12, 'r1.count': 5 };
  const value = (text: string) => valueOf(text, ({ id, measure }) => of[`${id}.${measure}`]);
  for (const [text, wanted] of [
    ['[p1.length] / 12', 1],
    ['2 + 3 * 4 - 1', 13],
    ['(2 + 3) * -[r1.count]', -25],
    ['[p1.length] / [r1.count] / 2', 1.2],
    ['.5e1', 5],
  ] as const)
    expect(value(text)).toBeCloseTo(wanted, 12);
  for (const text of ['', '1 +', '(2', '2 3', '[p1.colour]', '[gone.length]', '1 / 0', 'x', '[p1.length'])
    expect(value(text)).toBeNull();
  expect(referencesIn('[p1.length] + [r1.count]')).toEqual([
    { id: 'p1', measure: 'length' },
    { id: 'r1', measure: 'count' },
  ]);
});

/** A line of 12 m with a run, and a circle with another run. */
function sceneOf(links: { node: string; field: string; expression: string }[]): Scene {
  const run = (id: string, path: string) => {
    const made = newRun(id, id, 'madder', path, [newEntry(`${id}-e`, { kind: 'prop', prop: 'box' })]);
    made.spacing = { ...made.spacing, mode: 'pitch', pitch: 5, leftover: 'end' };
    return made;
  };
  return sceneSchema.parse({
    ...emptyScene('Links'),
    nextId: 100,
    props: [newProp('box', 'Box', { source: 'built', name: 'box' })],
    paths: [
      newPath(
        'line',
        'Line',
        points('corner', [
          [0, 0, 0],
          [12, 0, 0],
        ]),
      ),
      pathSchema.parse({
        id: 'ring',
        name: 'Ring',
        source: { kind: 'generator', generator: { shape: 'circle', radius: 3 } },
      }),
    ],
    arrangements: [run('a', 'line'), run('b', 'ring')],
    links: links.map((l, i) => ({ ...l, id: `link${i}`, field: l.field.split('.') })),
  });
}
const counts = (scene: Scene, evaluator = new Evaluator(ASSETS)) => {
  const result = evaluator.evaluate(scene);
  return { placed: result.arrangements.map((a) => a.placements.count), result };
};
const longer = (scene: Scene, x: number): Scene => {
  const next = structuredClone(scene);
  if (next.paths[0].source.kind === 'points') next.paths[0].source.points[1].position = [x, 0, 0];
  return next;
};

test('a pitch that is a twelfth of a path, a radius from a count, a count on that circle: they follow at once, in any order', () => {
  const scene = sceneOf([
    { node: 'b', field: 'spacing.pitch', expression: '2 * [ring.length] / [a.count]' },
    { node: 'ring', field: 'source.generator.radius', expression: '[a.count] / 4' },
    { node: 'a', field: 'spacing.pitch', expression: '[line.length] / 12' },
  ]);
  const evaluator = new Evaluator(ASSETS);
  for (const long of [12, 30, 12]) {
    const { placed, result } = counts(longer(scene, long), evaluator);
    expect(placed[0]).toBe(13);
    expect(result.paths[1].length).toBeCloseTo((2 * Math.PI * 13) / 4, 3);
    expect(placed[1]).toBe(6);
    expect(result.links.map((l) => l.problem)).toEqual([undefined, undefined, undefined]);
    expect(result.links[2].value).toBeCloseTo(long / 12, 12);
    // As if it were evaluated for the first time.
    expect(counts(longer(scene, long)).result.links).toEqual(result.links);
  }
  // Another number: the document itself has not changed.
  expect((scene.arrangements[0] as Run).spacing.pitch).toBe(5);
});

test('numbers are held to what their fields may be; whole ones are whole', () => {
  const { result, placed } = counts(
    sceneOf([
      { node: 'a', field: 'spacing.pitch', expression: '[line.length] / 24' },
      { node: 'b', field: 'spacing.count', expression: '[line.length] / 7' },
      { node: 'b', field: 'spacing.rows.count', expression: '[line.length] * 1000' },
    ]),
  );
  expect(placed[0]).toBe(25);
  expect(result.links[1].value).toBe(2);
  const most = result.links[2].value!;
  expect(Number.isInteger(most)).toBe(true);
  expect(most).toBeLessThan(12_000);
});

test('what is gone, what waits for itself and what has no such number are told, and the last number serves', () => {
  const scene = sceneOf([
    { node: 'a', field: 'spacing.pitch', expression: '[gone.length] / 12' },
    { node: 'ring', field: 'source.generator.radius', expression: '[b.count]' },
    { node: 'b', field: 'spacing.nothing', expression: '[line.length]' },
    { node: 'b', field: 'spacing.pitch', expression: '[line.length] +' },
  ]);
  const evaluator = new Evaluator(ASSETS);
  const { placed, result } = counts(scene, evaluator);
  expect(placed[0]).toBe(3);
  expect(result.links.map((l) => l.problem)).toEqual(['broken', 'ring', 'no-field', 'broken']);
  const work = new SceneChecks().look(scene, result, evaluator.contextAt(0));
  let step = work.next();
  while (!step.done) step = work.next();
  const told = [...step.value].flatMap(([node, found]) => found.map((f) => [node, f.kind]));
  expect(told.filter(([, kind]) => kind.startsWith('link'))).toEqual([
    ['a', 'link-broken'],
    ['ring', 'link-ring'],
    ['b', 'link-no-field'],
    ['b', 'link-broken'],
  ]);
  // Two links that go into each other’s source are a ring too.
  const each = sceneOf([
    { node: 'ring', field: 'source.generator.radius', expression: '[a.count]' },
    { node: 'a', field: 'spacing.pitch', expression: '[ring.length] / 3' },
  ]);
  expect(counts(each).result.links.map((l) => l.problem)).toEqual(['ring', 'ring']);
});

test('a copy follows too: the copy of what it followed where that is copied along', () => {
  const scene = sceneOf([{ node: 'a', field: 'spacing.pitch', expression: '[line.length] / 12' }]);
  const put = (ids: string[], from = 'here', key = 'here', into = scene) => {
    const { made, patches } = pasting(into, clip(scene, ids, from), key);
    const next = sceneSchema.parse(applyPatches(into, patches).value);
    return { made, links: next.links };
  };
  const alone = put(['a']);
  expect(alone.links.at(-1)).toMatchObject({ node: alone.made[0], expression: '[line.length] / 12' });
  const both = put(['a', 'line']);
  expect(both.links.at(-1)).toMatchObject({
    node: both.made[0],
    expression: `[${both.made[1]}.length] / 12`,
  });
  const other = put(['a'], 'here', 'there', emptyScene('Other'));
  expect(other.links).toHaveLength(1);
  expect(other.links[0].expression).toMatch(/^\[.+\.length\] \/ 12$/);
});
