import { inBlocks, allPegs } from '@/core/arrange/pegs/blocks';
import type { Pegs } from '@/core/arrange/pegs/schema';
import { newArrangement } from '@/core/arrange/registry';
import { Evaluator } from '@/core/evaluate/scene';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { ASSETS, exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { copyOutOfBundle, dissolveBundle, openBundle, putIntoBundle, setCopiesAlike } from './bundles';
import { makeBundle } from './makeBundle';
import { removeNodes } from './nodes';
import { replaceProp } from './scene';

/** Bundles by their commands: what is hidden and shown, what comes back, and that nothing is lost on the way. */

const start = (): Scene => {
  const scene = exampleScene();
  scene.arrangements = [
    newArrangement(
      'run',
      { id: 'row', name: 'Row', thread: 'moss' },
      {
        paths: [{ part: 0, path: 'path4' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'prop1' } }] },
        spacing: { mode: 'count', count: 4 },
      },
    ),
    newArrangement(
      'pegs',
      { id: 'some', name: 'Some', thread: 'weld' },
      { pegs: inBlocks([{ id: 'peg90', prop: 'prop2', position: [0, 0, 0] }] as never) },
    ),
  ];
  return scene;
};
/** What a command makes of a scene: one that the schema takes, with a way back to just what it was. */
function done<A>(scene: Scene, c: Command<A>, args: A): { scene: Scene; made: string } {
  const { scene: next, entry, made = '', refused } = applyCommand(scene, c, args);
  expect(refused).toBeNull();
  expect(sceneSchema.safeParse(next).success).toBe(true);
  if (entry) expect(applyPatches(next, entry.inverse).value).toEqual(scene);
  return { scene: next, made };
}
const visible = (scene: Scene) =>
  [...scene.arrangements, ...scene.paths].filter((n) => n.visible).map((n) => n.id);
const bundled = () => {
  const { scene, made } = done(start(), makeBundle, { members: ['row'], name: 'Crate', origin: [1, 0, 2] });
  const [prop, pegs] = made.split(' ');
  return { scene, prop, pegs };
};

test('a run goes in with the path that only it stands on; the prop stands there as a peg', () => {
  const { scene, prop, pegs } = bundled();
  expect(visible(scene)).toEqual(['some', pegs]);
  expect(scene.bundles[0].members).toEqual([
    { id: 'row', shown: true },
    { id: 'path4', shown: true },
  ]);
  const [peg] = [...allPegs((scene.arrangements.find((a) => a.id === pegs) as Pegs).pegs)];
  expect([peg.prop, peg.position]).toEqual([prop, [1, 0, 2]]);
  const placed = new Evaluator(ASSETS).evaluate(scene).arrangements.find((a) => a.id === pegs)!;
  expect(placed.inside!.count).toBe(4);
});

test('opened and closed everything is as it was, and what was hidden meanwhile stays so', () => {
  const { scene, prop } = bundled();
  const open = done(scene, openBundle, { prop, open: true }).scene;
  expect(visible(open)).toContain('row');
  expect(done(open, openBundle, { prop, open: false }).scene).toEqual(scene);
  const hidden = { ...open, paths: open.paths.map((p) => ({ ...p, visible: false })) };
  const closed = done(hidden, openBundle, { prop, open: false }).scene;
  expect(closed.bundles[0].members.find((m) => m.id === 'path4')!.shown).toBe(false);
  expect(done(closed, setCopiesAlike, { prop, alike: true }).scene.bundles[0].alike).toBe(true);
});

test('things are put into an open bundle and taken out; apart, what it held stands by itself', () => {
  const { scene, prop, pegs } = bundled();
  const open = done(scene, openBundle, { prop, open: true }).scene;
  const fuller = done(open, putIntoBundle, { prop, ids: ['some'], within: true }).scene;
  expect(fuller.bundles[0].members.map((m) => m.id)).toContain('some');
  const less = done(fuller, putIntoBundle, { prop, ids: ['some'], within: false }).scene;
  expect(less.bundles[0].members.map((m) => m.id)).not.toContain('some');
  const apart = done(scene, dissolveBundle, { prop }).scene;
  expect([apart.bundles, apart.props.map((p) => p.id)]).toEqual([[], start().props.map((p) => p.id)]);
  expect(apart.arrangements.map((a) => a.id)).toEqual(['row', 'some']);
  expect(visible(apart)).toEqual(['row', 'some', 'path4']);
  const copied = done(scene, copyOutOfBundle, { prop }).scene;
  expect(copied.arrangements.length).toBe(scene.arrangements.length + 1);
  expect(visible(copied).length).toBe(visible(scene).length + 2);
  expect(copied.arrangements.some((a) => a.id === pegs)).toBe(true);
});

test('with its prop a bundle goes and takes what only it held; a member that goes leaves it', () => {
  const { scene, prop } = bundled();
  const gone = done(scene, removeNodes, { ids: [prop] }).scene;
  expect([gone.bundles, gone.arrangements.map((a) => a.id).includes('row'), gone.paths]).toEqual([
    [],
    false,
    [],
  ]);
  const without = done(scene, removeNodes, { ids: ['row'] }).scene;
  expect(without.bundles[0].members.map((m) => m.id)).toEqual(['path4']);
});

test('a prop is replaced by a bundle everywhere, and a bundle by a prop', () => {
  const { scene, prop, pegs } = bundled();
  const by = done(scene, replaceProp, { id: 'prop2', by: prop }).scene;
  const inside = (s: Scene, id: string) =>
    new Evaluator(ASSETS).evaluate(s).arrangements.find((a) => a.id === id)!.inside?.count ?? 0;
  expect([inside(scene, 'some'), inside(by, 'some')]).toEqual([0, 4]);
  const back = done(by, replaceProp, { id: prop, by: 'prop2' }).scene;
  expect([inside(back, 'some'), inside(back, pegs)]).toEqual([0, 0]);
});
