import { allPegs, inBlocks } from '@/core/arrange/pegs/blocks';
import { pegNumber, type Pegs } from '@/core/arrange/pegs/schema';
import { needsOf, newArrangement } from '@/core/arrange/registry';
import { bundleSchema } from '@/core/scene/bundleSchema';
import { newProp } from '@/core/scene/defaults';
import { applyPatches } from '@/core/scene/patch';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { duplicateTo } from './arrangements';
import { duplicateNodes, removeNodes } from './nodes';
import { correctedAt, correctWithin, letGoWithin, wayName } from './within';

/** Corrections within copies, by their commands; and what becomes of them when things are copied, and go. */

const base = { name: 'x', thread: 'moss' as const };
const start = (): Scene => {
  const scene = exampleScene();
  scene.props.push(newProp('crate', 'Crate', { source: 'bundle', bundle: 'bundle1' }));
  scene.arrangements = [
    newArrangement('run', { id: 'row', ...base }, { paths: [{ part: 0, path: 'path4' }] }),
    newArrangement(
      'pegs',
      { id: 'crates', ...base },
      { pegs: inBlocks([{ id: 'peg90', prop: 'crate', position: [0, 0, 0] }] as never) },
    ),
    newArrangement('run', { id: 'line', ...base }, { paths: [{ part: 0, path: 'path4' }] }),
  ];
  scene.bundles = [bundleSchema.parse({ id: 'bundle1', members: [{ id: 'row' }] })];
  return scene;
};
const way = (of = 'crates', slot = '90') => [
  { arrangement: of, slot },
  { arrangement: 'row', slot: '3' },
];
function done<A>(scene: Scene, c: Command<A>, args: A) {
  const { scene: next, entry, made = '' } = applyCommand(scene, c, args);
  expect(sceneSchema.safeParse(next).success).toBe(true);
  expect(applyPatches(next, entry!.inverse).value).toEqual(scene);
  return { scene: next, name: entry!.name, made };
}
const of = (scene: Scene, id: string) => scene.arrangements.find((a) => a.id === id)!;

test('fields of one way add up, those that correct nothing go, and so does what is let go', () => {
  let { scene, name } = done(start(), correctWithin, { way: way(), values: { lift: 0.5 } });
  expect(name).toBe('nudge #90/3: lift 0 → 0.5');
  ({ scene, name } = done(scene, correctWithin, { way: way(), values: { prop: 'prop1' } }));
  expect(name).toBe('swap #90/3 for “Box”');
  expect(correctedAt(of(scene, 'crates'), way())).toEqual({ lift: 0.5, prop: 'prop1' });
  expect(needsOf(of(scene, 'crates')).props).toEqual(['crate', 'prop1']);
  ({ scene } = done(scene, correctWithin, { way: way(), values: { lift: 0 } }));
  expect(correctedAt(of(scene, 'crates'), way())).toEqual({ prop: 'prop1' });
  ({ scene, name } = done(scene, correctWithin, { way: way(), values: null }));
  expect([name, 'within' in of(scene, 'crates')]).toEqual(['let go of #90/3', false]);
});

test('a copy of the arrangement has them for its own slots; on another path they are left behind', () => {
  const { scene } = done(start(), correctWithin, { way: way(), values: { removed: true } });
  const twice = done(scene, duplicateNodes, { ids: ['crates'] });
  const copy = of(twice.scene, twice.made) as Pegs;
  const [{ id }] = allPegs(copy.pegs);
  expect(copy.within).toEqual([{ way: way(copy.id, String(pegNumber(id))), hand: { removed: true } }]);
  expect(wayName(copy.within![0].way)).not.toBe('90/3');
  const line = done(start(), correctWithin, { way: way('line', '2'), values: { removed: true } });
  const moved = done(line.scene, duplicateTo, { id: 'line', to: { path: 'path4' } });
  expect('within' in of(moved.scene, moved.made)).toBe(false);
});

test('a prop that was swapped in goes out with the basket; the rest of the correction stays', () => {
  let { scene } = done(start(), correctWithin, { way: way(), values: { prop: 'prop2', turnDeg: 20 } });
  ({ scene } = done(scene, removeNodes, { ids: ['prop2'] }));
  expect(of(scene, 'crates').within).toEqual([{ way: way(), hand: { turnDeg: 20 } }]);
  ({ scene } = done(scene, letGoWithin, { id: 'crates' }));
  expect('within' in of(scene, 'crates')).toBe(false);
});
