import { applyPatches } from 'immer';
import fc from 'fast-check';
import { emptyScene } from '@/core/scene/defaults';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene } from '@/core/testing/scene';
import { applyCommand, mergeEntries, type Command } from '../command';
import * as paths from './paths';
import * as runs from './runs';
import * as scenes from './scene';

/** Runs a command and checks what holds for all: the scene stays valid, and undo and redo are exact. */
function run<A>(scene: Scene, command: Command<A>, args: A): { scene: Scene; name: string; made?: string } {
  const before = JSON.stringify(scene);
  const { scene: after, entry, made } = applyCommand(scene, command, args);
  expect(JSON.stringify(scene)).toBe(before);
  expect(sceneSchema.parse(after)).toEqual(after);
  expect(entry!.name).not.toMatch(/undefined|NaN|\[object/);
  expect(applyPatches(after, entry!.inverse)).toEqual(scene);
  expect(applyPatches(scene, entry!.patches)).toEqual(after);
  return { scene: after, name: entry!.name, made };
}

const P = 'path4';
const R = 'run5';

test('every command leaves a valid scene, undoes exactly, and has a name', () => {
  const s = exampleScene();
  const points = s.paths[0].source.points;
  const names = [
    run(s, scenes.setScene, { name: 'B' }).name,
    run(s, scenes.setScene, { units: 'cm' }).name,
    run(s, scenes.addProp, { name: 'Box', mesh: { source: 'built', name: 'box' } }).name,
    run(s, scenes.setProp, { id: 'prop1', values: { up: '+z', front: '+y' } }).name,
    run(s, scenes.removeProp, { id: 'prop1' }).name,
    run(s, scenes.addSurface, { name: 'Floor', mesh: { source: 'built', name: 'floor' } }).name,
    run(s, scenes.setSurface, { id: 'surface3', values: { position: [0, 1, 0] } }).name,
    run(s, scenes.removeSurface, { id: 'surface3' }).name,
    run(s, paths.addPath, {
      points: [
        [0, 0, 0],
        [1, 0, 0],
      ],
    }).name,
    run(s, paths.setPath, { id: P, values: { closed: true } }).name,
    run(s, paths.reversePath, { id: P }).name,
    run(s, paths.duplicatePath, { id: P }).name,
    run(s, paths.removePath, { id: P }).name,
    run(s, paths.movePoints, { path: P, to: { [points[1].id]: [0, 1, 2] } }).name,
    run(s, paths.setPoint, { path: P, id: points[1].id, values: { tension: 0.5 } }).name,
    run(s, paths.setPointKind, { path: P, id: points[1].id, kind: 'free' }).name,
    run(s, paths.addPointAt, { path: P, s: 2, segment: 0, t: 0.3 }).name,
    run(s, paths.removePoints, { path: P, ids: [points[0].id, points[1].id] }).name,
    run(s, runs.addRun, { prop: 'prop1', path: P }).name,
    run(s, runs.setArrangement, { id: R, values: { seed: 7 } }).name,
    run(s, runs.removeArrangement, { id: R }).name,
    run(s, runs.duplicateArrangement, { id: R }).name,
    run(s, runs.setRunPaths, { id: R, paths: [] }).name,
    run(s, runs.setStep, { id: R, step: 'spacing', values: { pitch: 1.8 } }).name,
    run(s, runs.resetStep, { id: R, step: 'variation' }).name,
    run(s, runs.addEntry, { id: R, item: { kind: 'rest' }, at: 0 }).name,
    run(s, runs.setEntry, { id: R, entry: 'entry6', values: { times: [2, 3] } }).name,
    run(s, runs.moveEntry, { id: R, entry: 'entry6', to: 2 }).name,
    run(s, runs.removeEntry, { id: R, entry: 'entry6' }).name,
    run(s, runs.addKeepOut, { id: R, from: 1, to: 2 }).name,
    run(s, runs.setSlotsRemoved, { id: R, slots: [3, 4], removed: true }).name,
  ];
  expect(new Set(names).size).toBe(names.length);
  expect(names).toContain('pitch auto → 1.8');
});

test('a prop that is removed leaves every order; a path that is removed leaves its runs asking', () => {
  const s = exampleScene();
  expect(run(s, scenes.removeProp, { id: 'prop1' }).scene.arrangements[0].order.entries).toHaveLength(2);
  expect(run(s, paths.removePath, { id: P }).scene.arrangements[0].paths).toEqual([]);
});

test('one path for another keeps the slots’ part; a second one gets its own, never used before', () => {
  const doubled = run(exampleScene(), paths.duplicatePath, { id: P });
  const other = doubled.made!;
  let { scene } = doubled;
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [P, other] }));
  expect(scene.arrangements[0].paths).toEqual([
    { part: 0, path: P },
    { part: 1, path: other },
  ]);
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [other] }));
  expect(scene.arrangements[0].paths).toEqual([{ part: 1, path: other }]);
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [P] }));
  expect(scene.arrangements[0].paths).toEqual([{ part: 1, path: P }]);
});

test('the hand: removing, bringing back, and keeping in spite of a gap leave nothing behind when undone by hand', () => {
  const s = exampleScene();
  const removed = run(s, runs.setSlotsRemoved, { id: R, slots: [3], removed: true }).scene;
  expect(removed.arrangements[0].hand).toEqual({ '3': { removed: true } });
  expect(
    run(removed, runs.setSlotsRemoved, { id: R, slots: [3], removed: false }).scene.arrangements[0].hand,
  ).toEqual({});
  const kept = run(s, runs.setSlotsRemoved, { id: R, slots: [4], removed: false }).scene;
  expect(kept.arrangements[0].hand).toEqual({ '4': { removed: false } });
  expect(
    run(kept, runs.setSlotsRemoved, { id: R, slots: [4], removed: true }).scene.arrangements[0].hand,
  ).toEqual({});
});

test('any row of changes is one step once merged: undo goes to its start, redo to its end', () => {
  const change = fc.oneof(
    fc
      .double({ min: 0.1, max: 9, noNaN: true })
      .map(
        (pitch) => (s: Scene) => applyCommand(s, runs.setStep, { id: R, step: 'spacing', values: { pitch } }),
      ),
    fc.tuple(fc.integer({ min: 1, max: 9 }), fc.boolean()).map(
      ([slot, removed]) =>
        (s: Scene) =>
          applyCommand(s, runs.setSlotsRemoved, { id: R, slots: [slot], removed }),
    ),
    fc.constant((s: Scene) => applyCommand(s, runs.addEntry, { id: R, item: { kind: 'rest' } })),
    fc.constant((s: Scene) => applyCommand(s, paths.reversePath, { id: P })),
  );
  fc.assert(
    fc.property(fc.array(change, { minLength: 2, maxLength: 8 }), (changes) => {
      const start = exampleScene();
      let scene: Scene = start;
      let merged = null;
      for (const c of changes) {
        const { scene: next, entry } = c(scene);
        if (!entry) continue;
        merged = merged ? mergeEntries(merged, entry, 'drag') : entry;
        scene = next;
      }
      if (!merged) return;
      expect(applyPatches(scene, merged.inverse)).toEqual(start);
      expect(applyPatches(start, merged.patches)).toEqual(scene);
    }),
  );
});

test('ids are never used again', () => {
  let scene = emptyScene('S');
  const ids = new Set<string>();
  for (let i = 0; i < 5; i++) {
    const made = run(scene, paths.addPath, {
      points: [
        [0, 0, 0],
        [1, 0, 0],
      ],
    });
    expect(ids.has(made.made!)).toBe(false);
    ids.add(made.made!);
    scene = run(made.scene, paths.removePath, { id: made.made! }).scene;
  }
});
