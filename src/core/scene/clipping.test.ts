import { OWN } from '../arrange/base';
import { allPegs, inBlocks } from '../arrange/pegs/blocks';
import { pegsSchema, type Pegs } from '../arrange/pegs/schema';
import { needsOf } from '../arrange/registry';
import type { Run } from '../arrange/run/schema';
import type { PointsPath } from '../curve/schema';
import { exampleScene } from '../testing/scene';
import { clip, pasting, shownAlone } from './clipping';
import { emptyScene } from './defaults';
import { readScene } from './migrate';
import { applyPatches } from './patch';
import { sceneSchema, type Scene } from './schema';

const into = (
  scene: Scene,
  clipping: ReturnType<typeof clip>,
  key: string,
  aside?: Record<string, number>,
) => {
  const { made, patches } = pasting(scene, clipping, key, aside);
  const next = applyPatches(scene, patches).value;
  expect(sceneSchema.parse(next)).toEqual(next);
  expect(readScene(JSON.parse(JSON.stringify(next))).mends).toEqual([]);
  return { made, next };
};
const ids = (value: unknown, found: string[] = []): string[] => {
  if (typeof value !== 'object' || value === null) return found;
  for (const [key, v] of Object.entries(value)) {
    if (key === 'id' && typeof v === 'string') found.push(v);
    ids(v, found);
  }
  return found;
};
const first = (scene: Scene) => scene.arrangements.find((a) => a.kind === 'run') as Run;

test('a run goes into an empty scene with its props and its path, and names just what came along', () => {
  const scene = exampleScene();
  const run = first(scene);
  const { made, next } = into(emptyScene('Other'), clip(scene, [run.id], 'here'), 'there');
  const copy = first(next);
  expect(made).toEqual([copy.id]);
  expect(next.props.map((p) => p.name).sort()).toEqual(
    scene.props
      .filter((p) => needsOf(run).props.includes(p.id))
      .map((p) => p.name)
      .sort(),
  );
  const needs = needsOf(copy);
  for (const prop of needs.props) expect(next.props.some((p) => p.id === prop)).toBe(true);
  for (const path of needs.paths) expect(next.paths.some((p) => p.id === path)).toBe(true);
  expect(copy.thread).toBe(run.thread);
  // All that differs is what things are called by number.
  const bare = (value: unknown) => JSON.stringify(value).replace(/"[a-z]+\d+"/g, '"id"');
  expect(bare(copy)).toBe(bare(run));
  const all = ids(next);
  expect(new Set(all).size).toBe(all.length);
});

test('a prop that the other scene has just so is not brought twice; one that differs is', () => {
  const scene = exampleScene();
  const run = first(scene);
  const clipping = clip(scene, [run.id], 'here');
  const once = into(emptyScene('Other'), clipping, 'there').next;
  const twice = into(once, clipping, 'there').next;
  expect(twice.props).toHaveLength(once.props.length);
  expect(new Set(twice.arrangements.map((a) => a.name)).size).toBe(2);
  const other = structuredClone(once);
  other.props[0].front = '-z';
  expect(into(other, clipping, 'there').next.props).toHaveLength(once.props.length + 1);
});

test('in its own scene it stands on the same path, behind its original; with its path it stands on the copy of that', () => {
  const scene = exampleScene();
  const run = first(scene);
  const [path] = needsOf(run).paths;
  const alone = into(scene, clip(scene, [run.id], 'here'), 'here', { [run.id]: 2 });
  const copy = alone.next.arrangements.find((a) => a.id === alone.made[0]) as Run;
  expect(needsOf(copy).paths).toEqual([path]);
  expect(copy.facing.side).toBe(run.facing.side + 2);
  expect(copy.thread).not.toBe(run.thread);
  expect(alone.next.arrangements.indexOf(copy)).toBe(scene.arrangements.indexOf(run) + 1);
  expect(alone.next.paths).toHaveLength(scene.paths.length);
  const both = into(scene, clip(scene, [run.id, path], 'here'), 'here', { [run.id]: 2, [path]: 0.5 });
  const [one, onto] = both.made;
  const second = both.next.arrangements.find((a) => a.id === one) as Run;
  expect(needsOf(second).paths).toEqual([onto]);
  // It is moved with its path alone.
  expect(second.facing.side).toBe(run.facing.side);
  const points = (id: string) =>
    (both.next.paths.find((p) => p.id === id) as PointsPath).source.points.map((p) => p.position);
  expect(points(onto)).toEqual(points(path).map(([x, y, z]) => [x + 0.5, y, z + 0.5]));
});

test('an overlap that is meant is with what came along, and with nothing that has its id by chance', () => {
  const scene = exampleScene();
  const run = first(scene);
  run.meant = [OWN, scene.surfaces[0].id];
  const other = exampleScene();
  const alone = into(other, clip(scene, [run.id], 'here'), 'there');
  expect((alone.next.arrangements.find((a) => a.id === alone.made[0]) as Run).meant).toEqual([OWN]);
  const both = into(other, clip(scene, [run.id, scene.surfaces[0].id], 'here'), 'there');
  const [made, surface] = both.made;
  expect((both.next.arrangements.find((a) => a.id === made) as Run).meant).toEqual([OWN, surface]);
});

test('what only its name has in common with an id keeps its name', () => {
  const scene = exampleScene();
  const run = first(scene);
  run.name = scene.paths[0].id;
  const { next, made } = into(emptyScene('Other'), clip(scene, [run.id], 'a'), 'b');
  expect(next.arrangements.find((a) => a.id === made[0])!.name).toBe(run.name);
});

test('many pegs get ids of their own, and pins name the surface that came along', () => {
  const scene = exampleScene();
  const surface = scene.surfaces[0].id;
  scene.arrangements.push(
    pegsSchema.parse({
      id: 'pegs900',
      kind: 'pegs',
      name: 'Pegs',
      thread: 'plum',
      pegs: inBlocks(
        Array.from({ length: 600 }, (_, i) => ({
          id: `peg${901 + i}`,
          prop: scene.props[0].id,
          position: [i, 0, 0] as [number, number, number],
          rotation: [0, 0, 0, 1] as [number, number, number, number],
          scale: [1, 1, 1] as [number, number, number],
          pin: i % 2 ? { surface, face: 0, u: 0.2, v: 0.3, faces: 2, lift: 0, spinDeg: 0, lean: 1 } : null,
        })),
      ) as Pegs['pegs'],
    }),
  );
  scene.nextId = 2000;
  const { next } = into(emptyScene('Other'), clip(scene, ['pegs900'], 'a'), 'b');
  const pegs = [...allPegs((next.arrangements[0] as Pegs).pegs)];
  expect(pegs).toHaveLength(600);
  expect(new Set(pegs.map((p) => p.id)).size).toBe(600);
  expect(new Set(pegs.map((p) => p.pin?.surface))).toEqual(new Set([undefined, next.surfaces[0].id]));
});

test('shown alone, nothing but what is visible changes', () => {
  const scene = exampleScene();
  const run = first(scene);
  const alone = shownAlone(scene, [run.id]);
  expect([...alone.arrangements, ...alone.paths, ...alone.surfaces].filter((n) => n.visible)).toEqual([run]);
  const shown = (s: Scene) => JSON.stringify(s).replace(/"visible":(true|false)/g, '');
  expect(shown(alone)).toBe(shown(scene));
});
