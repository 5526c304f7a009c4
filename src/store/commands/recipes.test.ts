import { newArrangement } from '@/core/arrange/registry';
import type { Run } from '@/core/arrange/run/schema';
import { clip, pasting } from '@/core/scene/clipping';
import { applyPatches } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, type Command } from '../command';
import { setArrangement, setSeed, setStep } from './arrangements';
import { addKeepOut } from './gaps';
import { addEntry } from './order';
import { leaveRecipe, shareRecipe, sharing } from './recipes';

/** Recipes that several runs share: one change is a change of all, and a step back takes all of it back. */

const NAMES = ['a', 'b', 'c'];
const run = (id: string, more: object) =>
  newArrangement(
    'run',
    { id, name: id, thread: 'moss' },
    { paths: [{ part: 0, path: 'path4' }], seed: id.charCodeAt(0), hand: { '2': { side: 0.1 } }, ...more },
  );
const start = (): Scene => ({
  ...exampleScene(),
  arrangements: [
    run('a', { spacing: { pitch: 1.5 }, gaps: { chance: 0.2 } }),
    run('b', {
      spacing: { mode: 'count', count: 4 },
      gaps: { keepOuts: [{ id: 'k1', kind: 'range', from: 1, to: 2 }] },
    }),
    run('c', {}),
    newArrangement('pegs', { id: 'pegs', name: 'pegs', thread: 'moss' }, {}),
  ],
});
const done = <A>(scene: Scene, c: Command<A>, args: A) => applyCommand(scene, c, args);
const of = (scene: Scene, id: string) => scene.arrangements.find((a) => a.id === id) as Run;

test('all take the recipe of the first; each keeps its places, its seed, its hand and its stretches', () => {
  const before = start();
  const { scene, entry } = done(before, shareRecipe, { ids: NAMES });
  for (const id of NAMES) {
    expect(of(scene, id).spacing).toEqual(of(before, 'a').spacing);
    expect(of(scene, id).gaps.chance).toBe(0.2);
    expect([of(scene, id).seed, of(scene, id).hand]).toEqual([of(before, id).seed, of(before, id).hand]);
  }
  expect(of(scene, 'b').gaps.keepOuts.map((k) => k.id)).toEqual(['k1']);
  expect(sharing(scene, 'b').map((a) => a.id)).toEqual(NAMES);
  expect(applyPatches(scene, entry!.inverse).value).toEqual(before);
  expect(() => done(before, shareRecipe, { ids: ['a', 'pegs'] })).toThrow('one kind');
});

test('a change of one is a change of all, whatever command makes it; one step back takes it back', () => {
  const { scene } = done(start(), shareRecipe, { ids: NAMES });
  const paced = done(scene, setStep, { id: 'b', step: 'spacing', values: { pitch: 2.25 } });
  for (const id of NAMES) expect(of(paced.scene, id).spacing.pitch).toBe(2.25);
  expect(applyPatches(paced.scene, paced.entry!.inverse).value).toEqual(scene);
  const fuller = done(paced.scene, addEntry, { id: 'c', item: { kind: 'pause' } }).scene;
  for (const id of NAMES) expect(of(fuller, id).order.entries.map((e) => e.item.kind)).toEqual(['pause']);
  const region = { kind: 'region' as const, path: 'path4', where: 'inside' as const };
  const kept = done(fuller, addKeepOut, { id: 'a', keepOut: region });
  expect(of(kept.scene, 'b').gaps.keepOuts.map((k) => k.kind)).toEqual(['range', 'region']);
  const seeded = done(fuller, setSeed, { id: 'a', seed: 77 }).scene;
  expect([of(seeded, 'a').seed, of(seeded, 'b').seed]).toEqual([77, of(fuller, 'b').seed]);
  const named = done(fuller, setArrangement, { id: 'a', values: { name: 'Other', paths: [] } }).scene;
  expect([of(named, 'b').name, of(named, 'b').paths.length]).toEqual(['b', 1]);
});

test('one that leaves goes on by its own; the last one left shares with nobody; elsewhere the recipe is another', () => {
  const { scene } = done(start(), shareRecipe, { ids: NAMES });
  const left = done(scene, leaveRecipe, { id: 'b' }).scene;
  const paced = done(left, setStep, { id: 'a', step: 'spacing', values: { pitch: 3 } }).scene;
  expect([of(paced, 'b').spacing.pitch, of(paced, 'c').spacing.pitch]).toEqual([1.5, 3]);
  const alone = done(paced, leaveRecipe, { id: 'a' }).scene;
  expect(NAMES.map((id) => of(alone, id).recipe)).toEqual([undefined, undefined, undefined]);
  const other = { ...exampleScene(), nextId: 500 };
  const { patches } = pasting(other, clip(scene, ['a', 'c'], 'here'), 'there');
  const pasted = applyPatches(other, patches).value.arrangements.filter((a) => a.recipe !== undefined);
  expect(pasted.length).toBe(2);
  expect(pasted[0].recipe).toBe(pasted[1].recipe);
  expect(pasted[0].recipe).not.toBe(of(scene, 'a').recipe);
});
