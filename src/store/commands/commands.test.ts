import { allPegs } from '@/core/arrange/pegs/blocks';
import { pegNumber, type Peg } from '@/core/arrange/pegs/schema';
import { applyPatches } from 'immer';
import fc from 'fast-check';
import { compilePath } from '@/core/curve/compile';
import { emptyScene } from '@/core/scene/defaults';
import { readScene } from '@/core/scene/migrate';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { exampleScene, firstPoints, firstRun } from '@/core/testing/scene';
import { applyCommand, mergeEntries, type Command } from '../command';
import * as arrangements from './arrangements';
import * as gaps from './gaps';
import * as hand from './hand';
import * as nodes from './nodes';
import * as order from './order';
import * as edits from './pathEdits';
import * as paths from './paths';
import * as pegs from './pegs';
import * as runs from './runs';
import * as scenes from './scene';
import * as surfaces from './surfaces';

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
const LOCK = {
  prop: 'prop2',
  s: 1,
  position: [1, 2, 3],
  rotation: [0, 0, 0, 1],
  scale: [1, 1, 1],
} as const satisfies object as never;

test('every command leaves a valid scene, undoes exactly, and has a name', () => {
  const s = exampleScene();
  const points = firstPoints(s);
  const names = [
    run(s, scenes.setScene, { name: 'B' }).name,
    run(s, scenes.setScene, { units: 'cm' }).name,
    run(s, scenes.addProp, { name: 'Box', mesh: { source: 'built', name: 'box' } }).name,
    run(s, scenes.setProp, { id: 'prop1', values: { up: '+z', front: '+y' } }).name,
    run(s, nodes.removeNodes, { ids: ['prop1'] }).name,
    run(s, surfaces.addSurface, { name: 'Floor', mesh: { source: 'built', name: 'floor' } }).name,
    run(s, surfaces.setSurface, { id: 'surface3', values: { position: [0, 1, 0] } }).name,
    run(s, nodes.removeNodes, { ids: ['surface3'] }).name,
    run(s, paths.addPath, {
      points: [
        [0, 0, 0],
        [1, 0, 0],
      ],
    }).name,
    run(s, paths.closePaths, { ids: [P], closed: true }).name,
    run(s, paths.reversePaths, { ids: [P] }).name,
    run(s, nodes.duplicateNodes, { ids: [P] }).name,
    run(s, nodes.removeNodes, { ids: [P] }).name,
    run(s, paths.movePoints, { path: P, to: { [points[1].id]: [0, 1, 2] } }).name,
    run(s, paths.setPoint, { path: P, id: points[1].id, values: { tension: 0.5 } }).name,
    run(s, paths.setPointKind, { path: P, id: points[1].id, kind: 'free' }).name,
    run(s, paths.addPointAt, { path: P, s: 2, segment: 0, t: 0.3 }).name,
    run(s, paths.removePoints, { path: P, ids: [points[0].id, points[1].id] }).name,
    run(s, runs.addRun, { prop: 'prop1', path: P }).name,
    run(s, arrangements.setArrangement, { id: R, values: { visible: false } }).name,
    run(s, arrangements.setSeed, { id: R, seed: 7 }).name,
    run(s, nodes.removeNodes, { ids: [R] }).name,
    run(s, nodes.duplicateNodes, { ids: [R] }).name,
    run(s, runs.setRunPaths, { id: R, paths: [] }).name,
    run(s, arrangements.setStep, { id: R, step: 'spacing', values: { pitch: 1.8 } }).name,
    run(s, arrangements.resetStep, { id: R, step: 'variation' }).name,
    run(s, order.addEntry, { id: R, item: { kind: 'pause' }, at: 0 }).name,
    run(s, order.setEntry, { id: R, entry: 'entry6', values: { times: [2, 3] } }).name,
    run(s, order.moveEntry, { id: R, entry: 'entry6', to: 2 }).name,
    run(s, order.removeEntry, { id: R, entry: 'entry6' }).name,
    run(s, gaps.addKeepOut, { id: R, keepOut: { kind: 'range', part: 0, stroke: 0, from: 1, to: 2 } }).name,
    run(s, arrangements.setSlotsRemoved, { id: R, slots: [3, 4], removed: true }).name,
    run(s, hand.nudgeSlot, { id: R, slot: 3, values: { along: 0.2 } }).name,
    run(s, hand.swapSlots, { id: R, slots: [3], prop: 'prop2' }).name,
    run(s, hand.lockSlots, { id: R, slots: [3], places: { '3': LOCK } }).name,
    run(s, runs.setRows, { id: R, values: { count: 3 } }).name,
    run(s, arrangements.duplicateTo, { id: R, to: { path: P } }).name,
    run(s, arrangements.pasteStep, {
      id: R,
      copied: { step: 'facing', settings: { ...firstRun(s).facing, turnDeg: 9 } },
    }).name,
    run(s, arrangements.freeze, {
      id: R,
      pegs: [{ prop: 'prop1', pin: null, position: [0, 1, 2], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }],
    }).name,
    run(s, order.groupEntry, { id: R, entry: 'entry6' }).name,
    run(s, paths.addGenerated, { shape: 'helix' }).name,
    run(s, paths.addFromMesh, { surface: 'surface3', take: { what: 'borders' } }).name,
    run(s, paths.addOffset, { path: P, distance: 1 }).name,
    run(s, paths.setPoints, { path: P, ids: points.map((p) => p.id), values: { zone: 2 } }).name,
    run(s, edits.addStroke, {
      path: P,
      points: [
        [0, 0, 9],
        [1, 0, 9],
      ],
    }).name,
    run(s, edits.continueStroke, { path: P, point: points[3].id, points: [[9, 0, 9]] }).name,
    run(s, edits.transformPoints, {
      path: P,
      ids: points.map((p) => p.id),
      motion: { about: [0, 0, 0], size: 2 },
    }).name,
    run(s, edits.splitPath, { path: P, point: points[1].id }).name,
    run(s, edits.simplifyPath, { path: P, tolerance: 0.5 }).name,
    run(s, edits.resamplePath, { path: P, step: 1 }).name,
    run(s, edits.subdividePath, { path: P }).name,
    run(s, edits.insertMidway, { path: P, ids: [points[0].id, points[2].id] }).name,
    run(s, edits.roundCorners, { path: P, ids: [points[1].id], radius: 0.5 }).name,
    run(s, edits.alignPoints, { path: P, ids: points.map((p) => p.id), plane: 'level' }).name,
  ];
  expect(new Set(names).size).toBe(names.length);
  expect(names).toContain('pitch auto → 1.8');
});

test('a prop that is removed leaves every order; a path that is removed leaves its runs asking', () => {
  const s = exampleScene();
  expect(firstRun(run(s, nodes.removeNodes, { ids: ['prop1'] }).scene).order.entries).toHaveLength(2);
  expect(firstRun(run(s, nodes.removeNodes, { ids: [P] }).scene).paths).toEqual([]);
});

test('one path for another keeps the slots’ part; a second one gets its own, never used before', () => {
  const doubled = run(exampleScene(), nodes.duplicateNodes, { ids: [P] });
  const other = doubled.made!;
  let { scene } = doubled;
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [P, other] }));
  expect(firstRun(scene).paths).toEqual([
    { part: 0, path: P },
    { part: 1, path: other },
  ]);
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [other] }));
  expect(firstRun(scene).paths).toEqual([{ part: 1, path: other }]);
  ({ scene } = run(scene, runs.setRunPaths, { id: R, paths: [P] }));
  expect(firstRun(scene).paths).toEqual([{ part: 1, path: P }]);
});

test('the hand: removing, bringing back, and keeping in spite of a gap leave nothing behind when undone by hand', () => {
  const s = exampleScene();
  const removed = run(s, arrangements.setSlotsRemoved, { id: R, slots: [3], removed: true }).scene;
  expect(firstRun(removed).hand).toEqual({ '3': { removed: true } });
  expect(
    firstRun(run(removed, arrangements.setSlotsRemoved, { id: R, slots: [3], removed: false }).scene).hand,
  ).toEqual({});
  const kept = run(s, arrangements.setSlotsRemoved, { id: R, slots: [4], removed: false }).scene;
  expect(firstRun(kept).hand).toEqual({ '4': { removed: false } });
  expect(
    firstRun(run(kept, arrangements.setSlotsRemoved, { id: R, slots: [4], removed: true }).scene).hand,
  ).toEqual({});
});

test('any row of changes is one step once merged: undo goes to its start, redo to its end', () => {
  const change = fc.oneof(
    fc
      .double({ min: 0.1, max: 9, noNaN: true })
      .map(
        (pitch) => (s: Scene) =>
          applyCommand(s, arrangements.setStep, { id: R, step: 'spacing', values: { pitch } }),
      ),
    fc.tuple(fc.integer({ min: 1, max: 9 }), fc.boolean()).map(
      ([slot, removed]) =>
        (s: Scene) =>
          applyCommand(s, arrangements.setSlotsRemoved, { id: R, slots: [slot], removed }),
    ),
    fc.constant((s: Scene) => applyCommand(s, order.addEntry, { id: R, item: { kind: 'pause' } })),
    fc.constant((s: Scene) => applyCommand(s, paths.reversePaths, { ids: [P] })),
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
    scene = run(made.scene, nodes.removeNodes, { ids: [made.made!] }).scene;
  }
});

describe('paths taken apart and put together', () => {
  const with2 = () =>
    run(exampleScene(), edits.addStroke, {
      path: P,
      points: [
        [9, 0, 1],
        [12, 0, 1],
      ],
    }).scene;
  test('strokes apart: runs stand on all of them; joined again they are one', () => {
    const apart = run(with2(), edits.strokesApart, { path: P }).scene;
    expect(apart.paths).toHaveLength(2);
    expect(firstRun(apart).paths.map((p) => p.part)).toEqual([0, 1]);
    const joined = run(apart, edits.joinPaths, { path: P, other: apart.paths[1].id }).scene;
    expect(joined.paths).toHaveLength(1);
    expect(firstPoints(joined).map((p) => p.begins)).toEqual([false, false, false, false, false, false]);
    expect(firstRun(joined).paths).toEqual([{ part: 0, path: P }]);
    expect(firstPoints(run(with2(), edits.joinStrokes, { path: P }).scene).some((p) => p.begins)).toBe(false);
  });

  test('splitting keeps the curve: the cut point takes handles', () => {
    const s = exampleScene();
    const cut = run(s, edits.splitPath, { path: P, point: firstPoints(s)[1].id }).scene;
    expect(firstPoints(cut)).toHaveLength(5);
    expect(firstPoints(cut)[2]).toMatchObject({ begins: true, kind: 'free' });
    const [a, b] = [compilePath(s.paths[0]), compilePath(cut.paths[0])];
    if (!a.ok || !b.ok) throw new Error('broken');
    expect(b.strokes.reduce((sum, x) => sum + x.length, 0)).toBeCloseTo(a.path.length, 9);
  });

  test('deleting the first point of a stroke lets the next one begin it', () => {
    const s = with2();
    const left = run(s, paths.removePoints, { path: P, ids: [firstPoints(s)[4].id] }).scene;
    expect(firstPoints(left).map((p) => p.begins)).toEqual([false, false, false, false, true]);
  });

  test('points that stay where they were keep their ids when a path is subdivided', () => {
    const s = exampleScene();
    const before = firstPoints(s).map((p) => p.id);
    const after = firstPoints(run(s, edits.subdividePath, { path: P }).scene).map((p) => p.id);
    expect(after.filter((id) => before.includes(id))).toEqual(before);
  });

  test('loops among open strokes become a path of their own, and runs stand on both', () => {
    const s = run(exampleScene(), paths.addGenerated, { shape: 'circle' });
    const stroke = (closed: boolean, z: number) => ({
      closed,
      firstPoint: 0,
      points: firstPoints(s.scene).map((p) => ({
        ...p,
        position: [p.position[0], 0, z] as [number, number, number],
      })),
    });
    const made = run(s.scene, paths.turnIntoPoints, {
      id: P,
      strokes: [stroke(false, 1), stroke(true, 2)],
    }).scene;
    expect(made.paths.map((p) => p.closed)).toEqual([false, false, true]);
    expect(firstRun(made).paths).toHaveLength(2);
  });
});

describe('the order', () => {
  test('entries go into groups and out again; a group never into itself', () => {
    const s = exampleScene();
    const grouped = run(s, order.groupEntry, { id: R, entry: 'entry6' });
    const group = grouped.made!;
    let { scene } = run(grouped.scene, order.moveEntry, { id: R, entry: 'entry7', to: 1, into: group });
    const shape = (entries: ReturnType<typeof firstRun>['order']['entries']): unknown[] =>
      entries.map((e) => (e.item.kind === 'group' ? shape(e.item.entries) : e.id));
    expect(shape(firstRun(scene).order.entries)).toEqual([['entry6', 'entry7'], 'entry8']);
    expect(
      applyCommand(scene, order.moveEntry, { id: R, entry: group, to: 0, into: group }).entry,
    ).toBeNull();
    ({ scene } = run(scene, order.ungroupEntry, { id: R, entry: group }));
    expect(shape(firstRun(scene).order.entries)).toEqual(['entry6', 'entry7', 'entry8']);
  });
});

describe('by hand', () => {
  test('going back to nothing leaves nothing behind; letting go does too', () => {
    const s = exampleScene();
    const nudged = run(s, hand.nudgeSlot, { id: R, slot: 3, values: { along: 0.2, size: 2 } }).scene;
    expect(firstRun(nudged).hand).toEqual({ '3': { along: 0.2, size: 2 } });
    expect(
      firstRun(run(nudged, hand.nudgeSlot, { id: R, slot: 3, values: { along: 0, size: 1 } }).scene).hand,
    ).toEqual({});
    expect(firstRun(run(nudged, hand.letGo, { id: R }).scene).hand).toEqual({});
    const swapped = run(nudged, hand.swapSlots, { id: R, slots: [3], prop: 'prop2' }).scene;
    expect(firstRun(run(swapped, nodes.removeNodes, { ids: ['prop2'] }).scene).hand).toEqual({
      '3': { along: 0.2, size: 2 },
    });
  });
});

test('a frozen run keeps its id and looks; its pegs are moved and removed', () => {
  const s = exampleScene();
  const peg = {
    prop: 'prop1',
    position: [0, 1, 2] as [number, number, number],
    rotation: [0, 0, 0, 1] as [number, number, number, number],
    scale: [1, 1, 1] as [number, number, number],
  };
  const frozen = run(s, arrangements.freeze, { id: R, pegs: [peg, peg] }).scene;
  const [a] = frozen.arrangements;
  if (a.kind !== 'pegs') throw new Error('no pegs');
  expect(a).toMatchObject({ id: R, name: firstRun(s).name, thread: 'woad' });
  const moved = run(frozen, pegs.movePegs, { id: R, to: { [a.pegs[0][0].id]: [5, 5, 5] } }).scene;
  expect(moved.arrangements[0]).toMatchObject({ pegs: [[{ position: [5, 5, 5] }, { position: [0, 1, 2] }]] });
  expect(
    run(moved, arrangements.setSlotsRemoved, { id: R, slots: [pegNumber(a.pegs[0][0].id)], removed: true })
      .scene.arrangements[0],
  ).toMatchObject({
    pegs: [[{ position: [0, 1, 2] }]],
  });
});

test('a step pasted from another run gets ids of its own; stretches kept out stay the run’s own', () => {
  let { scene } = run(exampleScene(), gaps.addKeepOut, {
    id: R,
    keepOut: { kind: 'range', part: 0, stroke: 0, from: 1, to: 2 },
  });
  ({ scene } = run(scene, nodes.duplicateNodes, { ids: [R] }));
  const other = scene.arrangements[1] as ReturnType<typeof firstRun>;
  const pasted = run(scene, arrangements.pasteStep, {
    id: other.id,
    copied: { step: 'gaps', settings: { ...firstRun(scene).gaps, chance: 0.9 } },
  }).scene;
  const got = (pasted.arrangements[1] as typeof other).gaps;
  expect(got.chance).toBe(0.9);
  expect(got.keepOuts).toHaveLength(1);
  expect(got.keepOuts[0].id).not.toBe(firstRun(scene).gaps.keepOuts[0].id);
});

test('a table of places that are all too far away is held, each of them, and can be opened; so can one where many have no name', () => {
  const count = 5_000;
  const far = Array.from({ length: count }, () => ({
    prop: 'prop1',
    pin: null,
    position: [2e6, 0, -3e6] as [number, number, number],
    rotation: [0, 0, 0, 1] as [number, number, number, number],
    scale: [1, 1, 1] as [number, number, number],
  }));
  const { scene, held } = applyCommand(exampleScene(), pegs.addPegs, { id: null, pegs: far });
  expect(held).toHaveLength(count * 2);
  const made = (s: Scene) => s.arrangements.at(-1) as Extract<Scene['arrangements'][0], { kind: 'pegs' }>;
  expect(allPegs(made(scene).pegs).every((p) => p.position[0] === 1e6 && p.position[2] === -1e6)).toBe(true);
  const kept = structuredClone(scene);
  allPegs(made(kept).pegs).forEach((peg, i) => {
    peg.position[1] = 5e6;
    if (i % 2) delete (peg as { id?: string }).id;
  });
  const read = readScene(kept);
  expect(allPegs(made(read.scene).pegs)).toHaveLength(count / 2);
  expect(read.scene.aside).toHaveLength(count / 2);
  expect(read.mends.filter((m) => m.how === 'held').length).toBeGreaterThanOrEqual(count / 2);
});

test('pegs that are added fill the last block, then blocks of their own; undone, all is as it was', () => {
  const one = (x: number): Omit<Peg, 'id'> => ({
    prop: 'prop1',
    pin: null,
    position: [x, 0, 0],
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
  });
  const many = (n: number, from: number) => Array.from({ length: n }, (_, i) => one(from + i));
  const first = applyCommand(exampleScene(), pegs.addPegs, { id: null, pegs: many(1100, 0) });
  const id = first.made!.split(' ')[0];
  const of = (s: Scene) => s.arrangements.at(-1) as Extract<Scene['arrangements'][0], { kind: 'pegs' }>;
  const second = applyCommand(first.scene, pegs.addPegs, { id, pegs: many(700, 1100) });
  expect(of(second.scene).pegs.map((b) => b.length)).toEqual([250, 250, 250, 250, 250, 250, 250, 50]);
  expect(allPegs(of(second.scene).pegs).map((p) => p.position[0])).toEqual(
    Array.from({ length: 1800 }, (_, i) => i),
  );
  expect(second.made!.split(' ').slice(1)).toEqual(
    allPegs(of(second.scene).pegs)
      .slice(1100)
      .map((p) => p.id),
  );
  expect(applyPatches(second.scene, second.entry!.inverse)).toEqual(first.scene);
  const moved = applyCommand(second.scene, pegs.movePegs, {
    id,
    to: { [allPegs(of(second.scene).pegs)[1200].id]: [0, 9, 0] },
  }).scene;
  // Only the block of the one that moved is another object.
  expect(of(moved).pegs.map((b, i) => b === of(second.scene).pegs[i])).toEqual([
    true,
    true,
    true,
    true,
    false,
    true,
    true,
    true,
  ]);
});
