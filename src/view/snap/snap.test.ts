import type { PathResult } from '@/core/evaluate/scene';
import { Evaluator } from '@/core/evaluate/scene';
import { emptyScene, newPath } from '@/core/scene/defaults';
import { points } from '@/core/testing/paths';
import { openDocument } from '@/store/document';
import { topView } from '../testing/view';
import { snapAt } from './snap';
import { setSnap, typeParts, useSnap } from './snapState';

/** Where the pointer snaps, seen from above at fifty pixels a metre: pixel (400, 250) is the origin. */

const evaluator = new Evaluator({ mesh: () => undefined });
let served: PathResult[] = [];
jest.mock('@/store/engine', () => ({
  engine: () => ({ state: { result: { paths: new Map(served.map((p) => [p.id, p])) } } }),
}));

const view = topView();
const px = (x: number, z: number) => ({ x: 400 + 50 * x, y: 250 + 50 * z });
const NOTHING = {
  points: false,
  midpoints: false,
  parts: 1,
  onPath: false,
  perpendicular: false,
  angles: false,
  meshes: false,
};
const start = { ...useSnap.getState() };

beforeAll(() => {
  const scene = emptyScene('Snapping');
  // An L of 4 m along x and 3 m along z.
  const corners = points('corner', [
    [-2, 0, 0],
    [2, 0, 0],
    [2, 0, 3],
  ]);
  scene.paths = [newPath('p1', 'Edge', corners)];
  served = evaluator.evaluate(scene).paths;
  openDocument('s', scene);
});
beforeEach(() => setSnap({ ...start }));

test('points, ends and midpoints catch within a few pixels, and are named', () => {
  expect(snapAt(view, { ...px(1.9, 0.1), free: [1.9, 0, 0.1] })).toMatchObject({
    at: [2, 0, 0],
    label: 'Point 2 of Edge',
  });
  expect(snapAt(view, { ...px(-2.1, 0), free: null })).toMatchObject({ kind: 'end', at: [-2, 0, 0] });
  expect(snapAt(view, { ...px(2.1, 1.45), free: null })).toMatchObject({
    kind: 'midpoint',
    at: [2, 0, expect.closeTo(1.5, 9)],
  });
  setSnap({ on: false });
  expect(snapAt(view, { ...px(1.9, 0.1), free: [1.9, 0, 0.1] })).toBeNull();
});

test('a number of parts divides the whole length, each side too', () => {
  setSnap({ ...NOTHING, parts: 7 });
  // The third seventh of 7 m is 3 m from the start.
  expect(snapAt(view, { ...px(1.05, 0.05), free: null })).toMatchObject({ kind: 'division', at: [1, 0, 0] });
  setSnap({ per: 'side', parts: 3 });
  expect(snapAt(view, { ...px(2, 1.05), free: null })).toMatchObject({ at: [2, 0, expect.closeTo(1, 9)] });
});

test('square onto a path, anywhere on it, in steps of 15°, on the grid', () => {
  setSnap({ ...NOTHING, perpendicular: true });
  const square = snapAt(view, { ...px(0.55, 0.05), free: null, from: [0.5, 0, 2] })!;
  expect(square.kind).toBe('perpendicular');
  expect(square.at[0]).toBeCloseTo(0.5, 9);
  setSnap({ ...NOTHING, onPath: true });
  expect(snapAt(view, { ...px(0.3, 0.08), free: null })!.at).toEqual([expect.closeTo(0.3, 9), 0, 0]);
  expect(snapAt(view, { ...px(0.3, 0.5), free: null })).toBeNull();
  setSnap({ ...NOTHING, angles: true });
  // 29.5° from the last point is 30°, as far as it is.
  const a = (29.5 * Math.PI) / 180;
  const free: [number, number, number] = [-1 + 2 * Math.cos(a), 0, -1 - 2 * Math.sin(a)];
  const angle = snapAt(view, { ...px(free[0], free[2]), free, from: [-1, 0, -1] })!;
  expect(angle.label).toBe('30°');
  expect((Math.atan2(-(angle.at[2] + 1), angle.at[0] + 1) * 180) / Math.PI).toBeCloseTo(30, 9);
  setSnap({ ...NOTHING, grid: true, gridStep: 0.25 });
  expect(snapAt(view, { ...px(-0.6, -1.4), free: [-0.6, 0.7, -1.4] })!.at).toEqual([-0.5, 0.7, -1.5]);
});

test('what is being moved is no place to snap to', () => {
  const ask = { ...px(1.95, 0.05), free: null };
  setSnap({ ...NOTHING, points: true });
  expect(snapAt(view, { ...ask, moving: { path: 'p1', points: new Set([1]) } })).toBeNull();
  expect(snapAt(view, { ...ask, moving: { path: 'p1', points: new Set([0]) } })).not.toBeNull();
});

test('digits typed within a second belong together', () => {
  typeParts('1', 1000);
  typeParts('2', 1500);
  expect(useSnap.getState().parts).toBe(12);
  typeParts('3', 3000);
  expect(useSnap.getState().parts).toBe(3);
  typeParts('0', 9000);
  expect(useSnap.getState().parts).toBe(1);
});
