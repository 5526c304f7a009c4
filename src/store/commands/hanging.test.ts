import type { Tie } from '@/core/curve/hang/schema';
import { hasPoints } from '@/core/curve/schema';
import { clip } from '@/core/scene/clipping';
import { newArrangement } from '@/core/arrange/registry';
import { emptyScene, newProp } from '@/core/scene/defaults';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { applyPatches } from '@/core/scene/patch';
import { applyCommand, type Command } from '../command';
import { addStrandsPath, hangPath, hangStrands, letGoOfPoints, tiePoint } from './hanging';
import { keepMeasure, removeMeasure } from './measures';
import { addPath, movePoints } from './paths';
import { addStrands, setStrandsEnd } from './strands';

const tie: Tie = { to: 'slot', arrangement: 'posts', slot: '2', snap: 'eye' };

/** Commands one after the other, each held to the schema and led back and on again. */
function doing() {
  let scene: Scene = {
    ...emptyScene('Lines'),
    nextId: 20,
    props: [newProp('post', 'Post', { source: 'built', name: 'lamp-post' })],
    arrangements: [newArrangement('run', { id: 'posts', name: 'Posts', thread: 'moss' }, { paths: [] })],
  };
  return {
    get scene() {
      return scene;
    },
    do<A>(c: Command<A>, args: A): { made: string; name: string } {
      const done = applyCommand(scene, c, args);
      expect(done.refused).toBeNull();
      expect(sceneSchema.safeParse(done.scene).success).toBe(true);
      const { patches, inverse, name } = done.entry!;
      expect(applyPatches(done.scene, inverse).value).toEqual(scene);
      expect(applyPatches(scene, patches).value).toEqual(done.scene);
      scene = done.scene;
      return { made: done.made ?? '', name };
    },
  };
}
const pointsOf = (scene: Scene, id: string) => {
  const path = scene.paths.find((p) => p.id === id);
  return hasPoints(path) ? path.source.points : [];
};

test('a path is drawn connected and hanging; moved by hand a point is let go, put on something it is connected to that', () => {
  const d = doing();
  const { made: path } = d.do(addPath, {
    points: [
      [0, 0, 0],
      [4, 0, 0],
    ],
    ties: [tie, null],
    hang: {},
  });
  const [a, b] = pointsOf(d.scene, path);
  expect([a.tie, b.tie]).toEqual([tie, undefined]);
  expect(d.scene.paths[0].source).toMatchObject({ hang: { how: 'sag', slack: 0.1 } });
  d.do(movePoints, { path, to: { [a.id]: [1, 0, 0] } });
  expect(pointsOf(d.scene, path)[0].tie).toBeUndefined();
  d.do(movePoints, { path, to: { [b.id]: [3, 1, 0] }, ties: { [b.id]: tie } });
  expect(pointsOf(d.scene, path)[1]).toMatchObject({ position: [3, 1, 0], tie });
  expect(d.do(tiePoint, { path, point: b.id, tie: null, at: [2, 2, 2] }).name).toBe('let go of “Path”');
  expect(pointsOf(d.scene, path)[1]).toMatchObject({ position: [2, 2, 2] });
  for (const { id } of [a, b]) d.do(tiePoint, { path, point: id, tie, at: [0, 0, 0] });
  const at = { [a.id]: [5, 0, 0], [b.id]: [6, 0, 0] } as Record<string, [number, number, number]>;
  expect(d.do(letGoOfPoints, { path, at }).name).toBe('let go of “Path”');
  expect(pointsOf(d.scene, path).map((p) => [p.position[0], p.tie])).toEqual([
    [5, undefined],
    [6, undefined],
  ]);
  // What is not connected stays where it is.
  d.do(tiePoint, { path, point: b.id, tie, at: [0, 0, 0] });
  d.do(letGoOfPoints, { path, at: { [a.id]: [9, 9, 9], [b.id]: [8, 0, 0] } });
  expect(pointsOf(d.scene, path).map((p) => p.position[0])).toEqual([5, 8]);
  expect(d.do(hangPath, { path, values: { slack: 0.2 } }).name).toMatch(/slack 10% → 20%|slack/);
  d.do(hangPath, { path, values: null });
  expect('hang' in d.scene.paths[0].source).toBe(false);
});

test('strands, their ends, how they hang, and the path of their lines; measures are kept and removed', () => {
  const d = doing();
  const { made: id } = d.do(addStrands, { on: 'posts', snap: 'eye' });
  expect(d.scene.arrangements.at(-1)).toMatchObject({
    kind: 'strands',
    from: { on: 'posts', snap: 'eye' },
    to: { on: null, snap: 'eye' },
  });
  d.do(setStrandsEnd, { id, end: 'to', values: { on: 'posts', snap: null } });
  d.do(hangStrands, { id, values: { how: 'stiff' } });
  expect(d.scene.arrangements.at(-1)).toMatchObject({
    to: { on: 'posts', snap: null },
    hang: { how: 'stiff' },
  });
  const { made: path } = d.do(addStrandsPath, { id });
  expect(d.scene.paths.find((p) => p.id === path)!.source).toEqual({ kind: 'lines', of: id });
  const { made: measure } = d.do(keepMeasure, {
    places: [{ position: [0, 0, 0], tie }, { position: [1, 0, 0] }],
  });
  expect(d.scene.measures).toHaveLength(1);
  d.do(removeMeasure, { id: measure });
  expect(d.scene.measures).toEqual([]);
});

test('a copied line takes along what it is connected to', () => {
  const d = doing();
  const { made: path } = d.do(addPath, {
    points: [
      [0, 0, 0],
      [4, 0, 0],
    ],
    ties: [tie, null],
  });
  const part = clip(d.scene, [path], 'one');
  expect(part.scene.arrangements.map((a) => a.id)).toEqual(['posts']);
});
