import { compileStrokes, type CompiledPath } from './compile';
import { nearestOnPath } from './nearest';
import { offsetPath } from './offset';
import { pointAt, samplePath } from './sample';
import { compiled, circlePoints, points } from '../testing/paths';
import type { Vec3 } from '../math/vec3';

const UP: Vec3 = [0, 1, 0];

function offset(path: CompiledPath, side: number): CompiledPath[] {
  const made = offsetPath(path, side, UP);
  const result = compileStrokes(made.map((m) => ({ ...m, firstPoint: 0 })));
  return result.ok ? result.strokes : [];
}

const sampled = (path: CompiledPath, n = 300): Vec3[] => {
  const { position } = samplePath(
    path,
    Array.from({ length: n }, (_, i) => (path.length * (i + 0.5)) / n),
  );
  return Array.from({ length: n }, (_, i) => [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]]);
};

test.each([1, -2])('a circle becomes the circle of the other radius (%p m)', (side) => {
  const [path, ...more] = offset(compiled(circlePoints(5, 16), true), side);
  expect(more).toHaveLength(0);
  expect(path.closed).toBe(true);
  // It runs counter-clockwise seen from above: its right is outside.
  for (const p of sampled(path)) expect(Math.hypot(p[0], p[2])).toBeCloseTo(5 + side, 4);
});

test('a smooth curve keeps its distance everywhere', () => {
  const base = compiled(
    points('smooth', [
      [0, 0, 0],
      [4, 0, 2],
      [8, 0, -1],
      [12, 0, 1],
    ]),
  );
  for (const side of [0.5, -0.5]) {
    const [path] = offset(base, side);
    for (const p of sampled(path)) expect(Math.abs(nearestOnPath(base, p).distance - 0.5)).toBeLessThan(1e-6);
  }
});

test('corners are joined to a point outside and cut at the crossing inside', () => {
  const square = compiled(
    points('corner', [
      [0, 0, 0],
      [6, 0, 0],
      [6, 0, -6],
      [0, 0, -6],
    ]),
    true,
  );
  const [outside] = offset(square, 1);
  expect(outside.length).toBeCloseTo(4 * 8, 6);
  expect(outside.corners).toHaveLength(4);
  const [inside] = offset(square, -1);
  expect(inside.closed).toBe(true);
  expect(inside.length).toBeCloseTo(4 * 4, 5);
  expect(offset(square, -3.5)).toHaveLength(0);
  const bent = compiled(
    points('corner', [
      [0, 0, 0],
      [5, 0, 0],
      [5, 0, 5],
    ]),
  );
  expect(offset(bent, 1)[0].length).toBeCloseTo(4 + 4, 5);
  expect(offset(bent, -1)[0].length).toBeCloseTo(6 + 6, 6);
});

test('where the path bends tighter than the distance the loop is cut away', () => {
  const tight = compiled(
    points('smooth', [
      [0, 0, 0],
      [4, 0, 0],
      [4.4, 0, 0.5],
      [4, 0, 1],
      [0, 0, 1],
    ]),
  );
  const strokes = offset(tight, 0.8);
  for (const path of strokes)
    for (const p of sampled(path)) expect(nearestOnPath(tight, p).distance).toBeGreaterThan(0.8 - 1e-5);
});

test('an open stroke begins and ends square to its base', () => {
  const [path] = offset(
    compiled(
      points('smooth', [
        [0, 0, 0],
        [3, 0, 1],
        [6, 0, 0],
      ]),
    ),
    0.25,
  );
  const first = pointAt(path, 0);
  expect(Math.hypot(...first)).toBeCloseTo(0.25, 9);
});
