import { random01 } from '../../math/random';
import { distance, type Vec3 } from '../../math/vec3';
import { shortestByPrim } from '../../testing/apart';
import { shortestNet } from './shortestNet';

const drawn = (count: number, place: (r: (k: number) => number, i: number) => number[]) =>
  Float64Array.from(Array.from({ length: count }, (_, i) => place((k) => random01(7, i, k), i)).flat());
const placesOf = (p: Float64Array) =>
  Array.from({ length: p.length / 3 }, (_, i) => [...p.subarray(i * 3, i * 3 + 3)] as Vec3);

test.each<[string, Float64Array]>([
  ['anywhere in a block', drawn(700, (r) => [r(0) * 9, r(1) * 9, r(2) * 9])],
  ['in clumps far from each other', drawn(600, (r, i) => [(i % 5) * 400 + r(0), (i % 3) * 90 + r(1), r(2)])],
  ['on a grid, where many are as far', drawn(400, (_, i) => [i % 20, 0, Math.floor(i / 20)])],
  ['on one line', drawn(90, (r) => [r(0) * 50, 2, 2])],
  ['some in one place', drawn(60, (r, i) => [i % 7, r(i % 3), 0])],
  ['two', drawn(2, (_, i) => [i, 0, 0])],
])('the net of places %s is as short as it can be, and holds all of them', (_, position) => {
  const n = position.length / 3;
  const edges = shortestNet(position);
  expect(edges.length).toBe(n - 1);
  const met = new Set([0]);
  for (let size = 0; size < met.size;) {
    size = met.size;
    for (const [a, b] of edges) if (met.has(a) || met.has(b)) met.add(a).add(b);
  }
  expect(met.size).toBe(n);
  const places = placesOf(position);
  const length = edges.reduce((sum, [a, b]) => sum + distance(places[a], places[b]), 0);
  expect(length).toBeCloseTo(shortestByPrim(places), 9);
});

test('of one place, or none, there is no net', () => {
  expect(shortestNet(new Float64Array(3))).toEqual([]);
  expect(shortestNet(new Float64Array(0))).toEqual([]);
});
