import { exampleScene } from '@/core/testing/scene';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { sceneSchema, type Scene } from '@/core/scene/schema';
import { applyCommand, type Command } from '../command';
import { setSlotsRemoved, setSeed, setStep } from './arrangements';
import { nudgeSlot } from './hand';
import { removeNodes, duplicateNodes } from './nodes';
import { addEntry } from './order';
import { addSheetPath } from './paths';
import { addCurves, addItem, addSheet, findSheet, setItem, setRepeat } from './sheets';

/** A scene with a sheet, and what commands make of it; every state is one that the schema takes. */
class Desk {
  scene: Scene = exampleScene();
  id = this.do(addSheet, { surface: 'surface3', prop: 'prop1' });

  do<A>(command: Command<A>, args: A): string {
    const { scene, made } = applyCommand(this.scene, command, args);
    this.scene = sceneSchema.parse(scene);
    return made ?? '';
  }
  get sheet(): Sheet {
    return findSheet(this.scene, this.id);
  }
}

test('a sheet is laid with its prop in the order; the commands of runs change what it shares with them', () => {
  const d = new Desk();
  expect(d.sheet.name).toBe('Box on Floor');
  d.do(addEntry, { id: d.id, item: { kind: 'pause' } });
  d.do(setStep, { id: d.id, step: 'variation', values: { turnDeg: [-5, 5] } });
  d.do(setSeed, { id: d.id, seed: 9 });
  d.do(setSlotsRemoved, { id: d.id, slots: [1], removed: true });
  d.do(nudgeSlot, { id: d.id, slot: 2, values: { side: 0.5 } });
  d.do(setStep, { id: d.id, step: 'grid', values: { columns: 7 } });
  expect(d.sheet.order.entries).toHaveLength(2);
  expect([d.sheet.seed, d.sheet.grid.columns, d.sheet.variation.turnDeg]).toEqual([9, 7, [-5, 5]]);
  expect(d.sheet.hand).toEqual({ '1': { removed: true }, '2': { side: 0.5 } });
  // What only runs have is refused for a sheet.
  expect(() => d.do(setStep, { id: d.id, step: 'spacing', values: { pitch: 2 } })).toThrow('has no spacing');
});

test('a copy has ids of its own; a prop that goes takes its free items along', () => {
  const d = new Desk();
  const item = d.do(addItem, { id: d.id, prop: 'prop2', at: [1, 2] });
  d.do(setItem, { id: d.id, item, values: { turnDeg: 30 } });
  d.do(addCurves, {
    id: d.id,
    curves: [
      {
        name: 'Line',
        points: [
          [0, 0],
          [1, 1],
        ],
        closed: false,
        smooth: false,
      },
    ],
  });
  const copied = d.do(duplicateNodes, { ids: [d.id] });
  const copy = findSheet(d.scene, copied);
  expect(copy.items[0]).toEqual({ ...d.sheet.items[0], id: copy.items[0].id });
  expect(copy.items[0].id).not.toBe(item);
  expect(copy.curves[0].id).not.toBe(d.sheet.curves[0].id);
  d.do(removeNodes, { ids: ['prop2'] });
  expect(d.sheet.items).toEqual([]);
});

test('lines that are repeated are shares of a cell, and metres again when they are not', () => {
  const d = new Desk();
  const points: [number, number][] = [
    [2, 1],
    [6, 3],
  ];
  const id = d.do(addCurves, { id: d.id, curves: [{ name: 'Line', points, closed: false, smooth: true }] });
  d.do(setRepeat, { id: d.id, repeat: true, width: 8, height: 4 });
  expect(d.sheet.curves[0].points).toEqual([
    [0.25, 0.25],
    [0.75, 0.75],
  ]);
  d.do(setRepeat, { id: d.id, repeat: false, width: 8, height: 4 });
  expect(d.sheet.curves[0].points).toEqual(points);
  const path = d.do(addSheetPath, { sheet: d.id, curve: id });
  expect(d.scene.paths.find((p) => p.id === path)).toMatchObject({
    name: 'Line of Box on Floor',
    source: { kind: 'sheet', sheet: d.id, curve: id },
  });
});
