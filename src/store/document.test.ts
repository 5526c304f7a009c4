import { exampleScene, firstRun } from '@/core/testing/scene';
import { setSlotsRemoved } from './commands/arrangements';
import { setStep } from './commands/arrangements';
import {
  cancelGesture,
  dispatch,
  endGesture,
  openDocument,
  redo,
  setReadOnly,
  setView,
  undo,
  useDocument,
} from './document';

const R = 'run5';
const pitch = () => firstRun(useDocument.getState().scene).spacing.pitch;
const names = () => useDocument.getState().past.map((e) => e.name);
const set = (value: number, key?: string) =>
  dispatch(setStep, { id: R, step: 'spacing', values: { pitch: value } }, key);

beforeEach(() => openDocument('s1', exampleScene()));

test('a drag is one step, named from its start to its end', () => {
  for (const v of [1.1, 1.2, 1.5]) set(v, 'drag');
  endGesture();
  set(2, 'drag');
  expect(names()).toEqual(['pitch auto → 1.5', 'pitch 1.5 → 2']);
  undo();
  expect(pitch()).toBe(1.5);
  undo();
  expect(pitch()).toBeNull();
  redo();
  expect(pitch()).toBe(1.5);
  dispatch(setSlotsRemoved, { id: R, slots: [1], removed: true });
  expect(useDocument.getState().future).toEqual([]);
});

test('a drag that is given up leaves neither change nor step', () => {
  set(1, 'drag');
  set(2, 'drag');
  cancelGesture('drag');
  expect(pitch()).toBeNull();
  expect(names()).toEqual([]);
  expect(useDocument.getState().future).toEqual([]);
  cancelGesture('drag');
  expect(names()).toEqual([]);
});

test('nothing changes while another tab holds the scene', () => {
  set(1);
  setReadOnly('another-tab');
  set(2);
  undo();
  setView({ eye: [1, 2, 3], target: [0, 0, 0] });
  expect(pitch()).toBe(1);
  expect(useDocument.getState().scene.view).toBeNull();
});

test('a change that changes nothing is no step; the view is kept but is no step', () => {
  set(1);
  set(1);
  setView({ eye: [1, 2, 3], target: [0, 0, 0] });
  expect(names()).toEqual(['pitch auto → 1']);
  undo();
  expect(useDocument.getState().scene.view).toEqual({ eye: [1, 2, 3], target: [0, 0, 0] });
});
