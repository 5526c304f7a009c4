import { pegsSchema } from '@/core/arrange/pegs/schema';
import type { Run } from '@/core/arrange/run/schema';
import { needsOf } from '@/core/arrange/registry';
import { withPropReplaced } from '@/core/arrange/replaceProp';
import type { PointsPath } from '@/core/curve/schema';
import { newPath, newPoint } from '@/core/scene/defaults';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { pasteStepInto } from './arrangements';
import { duplicateNodes, removeNodes, setThreads, showNodes, showOnly } from './nodes';
import { duplicatePoints, insertMidway } from './pathEdits';
import { replaceProp } from './scene';

/** What everyone's hands do: copies beside what they are of, points between neighbours, one for another, only this. */

const run = <A>(scene: Scene, command: Command<A>, args: A) => {
  const applied = applyCommand(scene, command, args);
  expect(sceneSchema.safeParse(applied.scene).success).toBe(true);
  return applied;
};
const square = (closed: boolean): Scene => {
  const at = (id: string, x: number, z: number) => newPoint(id, 'corner', [x, 0, z]);
  const scene = exampleScene();
  scene.paths = [
    newPath('sq', 'Square', [at('a', 0, 0), at('b', 4, 0), at('c', 4, 4), at('d', 0, 4)], closed),
  ];
  return scene;
};
const pathOf = (scene: Scene) => scene.paths[0] as PointsPath;
const order = (scene: Scene) =>
  pathOf(scene).source.points.map((p) => p.position.map((v) => Number(v.toFixed(9))).join(' '));

test.each([
  // Two neighbours: one between them. The last and the first of a loop are neighbours too.
  [true, ['a', 'b'], ['0 0 0', '2 0 0', '4 0 0', '4 0 4', '0 0 4']],
  [true, ['d', 'a'], ['0 0 0', '4 0 0', '4 0 4', '0 0 4', '0 0 2']],
  [true, ['a', 'b', 'c'], ['0 0 0', '2 0 0', '4 0 0', '4 0 2', '4 0 4', '0 0 4']],
  // Alone: after it, and at an open end before it.
  [true, ['d'], ['0 0 0', '4 0 0', '4 0 4', '0 0 4', '0 0 2']],
  [false, ['d'], ['0 0 0', '4 0 0', '4 0 4', '2 0 4', '0 0 4']],
  [false, ['a', 'd'], ['0 0 0', '2 0 0', '4 0 0', '4 0 4', '2 0 4', '0 0 4']],
])('midway, closed %s, %s', (closed, ids, points) => {
  expect(order(run(square(closed), insertMidway, { path: 'sq', ids }).scene)).toEqual(points);
});

test('a duplicate is seen: the next thread, and beside its original by so much', () => {
  const scene = exampleScene();
  const was = scene.arrangements.find((a) => a.kind === 'run') as Run;
  const { scene: next, made } = run(scene, duplicateNodes, { ids: [was.id], aside: { [was.id]: 0.7 } });
  const copy = next.arrangements.find((a) => a.id === made) as Run;
  expect(copy.thread).not.toBe(was.thread);
  expect(copy.facing).toEqual({ ...was.facing, side: was.facing.side + 0.7 });
  const peg = { prop: 'prop1', rotation: [0, 0, 0, 1] as const };
  scene.arrangements.push(
    pegsSchema.parse({
      id: 'pegs90',
      kind: 'pegs',
      name: 'Pegs',
      thread: 'plum',
      pegs: [
        [
          { ...peg, id: 'peg91', position: [1, 2, 3] },
          {
            ...peg,
            id: 'peg92',
            position: [4, 5, 6],
            pin: { surface: 's', face: 0, u: 0.2, v: 0.2, faces: 2 },
          },
        ],
      ],
    }),
  );
  scene.nextId = 93;
  const pegs = run(scene, duplicateNodes, { ids: ['pegs90'], aside: { ['pegs90']: 1 } });
  const [free, pinned] = pegsSchema
    .parse(pegs.scene.arrangements.find((a) => a.id === pegs.made))
    .pegs.flat();
  expect([free.position, pinned.position]).toEqual([
    [2, 2, 3],
    [4, 5, 6],
  ]);
  const path = run(square(true), duplicateNodes, { ids: ['sq'], aside: { ['sq']: 0.5 } });
  expect((path.scene.paths[1] as PointsPath).source.points[0].position).toEqual([0.5, 0, 0.5]);
});

test('points that are doubled are a stroke of their own beside theirs; one alone takes all of its stroke', () => {
  const two = run(square(false), duplicatePoints, { path: 'sq', ids: ['b', 'c'], aside: 1 });
  const { points } = pathOf(two.scene).source;
  expect(points.map((p) => p.begins)).toEqual([false, false, false, false, true, false]);
  expect(order(two.scene).slice(4)).toEqual(['5 0 1', '5 0 5']);
  expect(two.made!.split(' ')).toEqual(points.slice(4).map((p) => p.id));
  const one = run(square(false), duplicatePoints, { path: 'sq', ids: ['b'], aside: 1 });
  expect(order(one.scene).slice(4)).toEqual(['1 0 1', '5 0 1', '5 0 5', '1 0 5']);
});

test('a prop for another everywhere: nothing names the old one any more, and what does not name it stays', () => {
  const scene = exampleScene();
  const [old, other] = scene.props;
  const { scene: next, entry } = run(scene, replaceProp, { id: old.id, by: other.id });
  expect(next.props).toBe(scene.props);
  expect(JSON.stringify(next.arrangements)).not.toContain(`"${old.id}"`);
  next.arrangements.forEach((a, i) => {
    const before = scene.arrangements[i];
    const names = needsOf(before).props.includes(old.id);
    expect(a === before).toBe(!names);
    if (names) expect(needsOf(a).props).toContain(other.id);
  });
  expect(entry!.name).toContain('everywhere');
});

test('only this: the others of its sort are hidden; everything is shown again', () => {
  const first = exampleScene();
  const { scene } = run(first, duplicateNodes, { ids: [first.arrangements[0].id] });
  const { id } = scene.arrangements[1];
  const only = run(scene, showOnly, { ids: [id] }).scene;
  expect(only.arrangements.filter((a) => a.visible).map((a) => a.id)).toEqual([id]);
  expect(only.paths).toBe(scene.paths);
  const all = run(only, showOnly, { ids: [] }).scene;
  expect(all.arrangements.every((a) => a.visible)).toBe(true);
  expect(run(all, showOnly, { ids: [] }).entry).toBeNull();
});

test('what is drawn by weight keeps its shares where one prop takes the place of another that is there too', () => {
  const given = {
    props: [
      { prop: 'a', weight: 2 },
      { prop: 'b', weight: 3 },
      { prop: 'c', weight: 1 },
    ],
    corner: { prop: 'b', angleDeg: 20 },
    rigid: ['a', 'b'],
    perProp: { a: { size: [1, 2] }, b: { size: [3, 4] } },
    gaps: { keepOuts: [] },
  };
  const made = withPropReplaced(given, 'b', 'a');
  expect(made).toEqual({
    ...given,
    props: [
      { prop: 'a', weight: 5 },
      { prop: 'c', weight: 1 },
    ],
    corner: { prop: 'a', angleDeg: 20 },
    rigid: ['a'],
    perProp: { a: { size: [1, 2] } },
  });
  expect(made.gaps).toBe(given.gaps);
  expect(withPropReplaced(given, 'z', 'a')).toBe(given);
});

test('several at once: removed, hidden, on one thread, each one step; what named them names them no more', () => {
  const scene = exampleScene();
  const [a] = scene.arrangements;
  const gone = run(scene, removeNodes, { ids: [scene.props[0].id, scene.paths[0].id] });
  expect(gone.entry!.name).toBe('remove 2 things');
  expect(gone.scene.props).toHaveLength(scene.props.length - 1);
  for (const left of gone.scene.arrangements) {
    expect(needsOf(left).props).not.toContain(scene.props[0].id);
    expect(needsOf(left).paths).not.toContain(scene.paths[0].id);
  }
  const all = run(scene, removeNodes, {
    ids: [...scene.arrangements, ...scene.paths, ...scene.surfaces, ...scene.props].map((n) => n.id),
  });
  const { arrangements, paths, surfaces, props } = all.scene;
  expect([arrangements, paths, surfaces, props].flat()).toEqual([]);
  const two = run(scene, duplicateNodes, { ids: [a.id] }).scene;
  const ids = two.arrangements.map((one) => one.id);
  const hidden = run(two, showNodes, { ids, visible: false });
  expect(hidden.scene.arrangements.some((one) => one.visible)).toBe(false);
  expect(run(hidden.scene, showNodes, { ids, visible: false }).entry).toBeNull();
  const dyed = run(two, setThreads, { ids, thread: 'moss' }).scene;
  expect(new Set(dyed.arrangements.map((one) => one.thread))).toEqual(new Set(['moss']));
});

test('a step alike in several is one step, and each keeps the rest of its recipe', () => {
  const scene = exampleScene();
  const was = scene.arrangements.find((a) => a.kind === 'run') as Run;
  const two = run(run(scene, duplicateNodes, { ids: [was.id] }).scene, duplicateNodes, {
    ids: [was.id],
  }).scene;
  const others = two.arrangements.filter((a) => a.kind === 'run' && a.id !== was.id).map((a) => a.id);
  const settings = { ...was.spacing, pitch: 7.25 };
  const { scene: next, entry } = run(two, pasteStepInto, {
    ids: others,
    copied: { step: 'spacing', settings },
  });
  expect(entry!.name).toBe(`spacing alike in ${others.length + 1}`);
  for (const id of others) {
    const one = next.arrangements.find((a) => a.id === id) as Run;
    expect(one.spacing).toEqual(settings);
    expect(one.facing).toEqual(was.facing);
  }
  expect((next.arrangements.find((a) => a.id === was.id) as Run).spacing).toEqual(was.spacing);
});
