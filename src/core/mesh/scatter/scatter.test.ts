import { apart, closest } from '../../testing/apart';
import { triMeshOf } from '../../testing/surfaces';
import type { Vec3 } from '../../math/vec3';
import { placeOn, type TriMesh } from '../triMesh';
import { areasOf, faceAt } from './areas';
import { evenSpots } from './even';
import { outlineOf } from './outline';
import { evenIn, looseIn } from './plane';
import type { Points } from './points';
import { looseSpots, type Spots } from './spots';
import { evenInside, looseInside, volumeOf } from './volume';

const torus = triMeshOf({ shape: 'torus', radius: 3, thickness: 1, columns: 48, rows: 24 });
const hills = triMeshOf({
  shape: 'hills',
  width: 12,
  depth: 10,
  columns: 40,
  rows: 30,
  height: 0.9,
  span: 3,
  layers: 2,
  seed: 3,
});

const places = (mesh: TriMesh, s: Spots): Vec3[] =>
  Array.from({ length: s.count }, (_, i) => placeOn(mesh, s.face[i], s.u[i], s.v[i]));
const listed = (p: Points): Vec3[] =>
  Array.from({ length: p.count }, (_, i) => [...p.position.subarray(i * 3, i * 3 + 3)] as Vec3);
const names = (s: Pick<Spots, 'count' | 'key' | 'level'>) =>
  Array.from({ length: s.count }, (_, i) => `${s.level[i]} ${s.key[i]}`);

test('areas add up to the closed form, and each share names the face that holds it', () => {
  // Pappus: a tube of 1 round a circle of 3; flat faces lack a little.
  expect(areasOf(torus).total / (4 * Math.PI ** 2 * 3)).toBeCloseTo(1, 1);
  const { upTo, total } = areasOf(hills);
  const shares = Array.from({ length: 5000 }, (_, i) => i / 5000);
  expect(shares.every((s) => upTo[faceAt(areasOf(hills), s)] > s * total)).toBe(true);
  expect(
    shares.every((s) => {
      const f = faceAt(areasOf(hills), s);
      return f === 0 || upTo[f - 1] <= s * total;
    }),
  ).toBe(true);
});

test('loose places are as likely anywhere: chi-square over patches of the torus by their area', () => {
  const s = looseSpots(torus, 7, 60_000);
  const { upTo, total } = areasOf(torus);
  const bins = new Float64Array(64);
  for (let i = 0; i < s.count; i++) bins[Math.floor((s.face[i] / upTo.length) * 64)]++;
  const chi = bins.reduce((sum, got, b) => {
    const [from, to] = [(b * upTo.length) / 64, ((b + 1) * upTo.length) / 64];
    const wanted = ((upTo[to - 1] - (from > 0 ? upTo[from - 1] : 0)) / total) * s.count;
    return sum + (got - wanted) ** 2 / wanted;
  }, 0);
  // 63 degrees of freedom: 99.9 % lie below 104.
  expect(chi).toBeLessThan(104);
  expect(names(looseSpots(torus, 7, 500))).toEqual(names(s).slice(0, 500));
});

test.each([
  ['torus', torus, 0.45],
  ['hills', hills, 0.4],
])('even on a %s: none nearer than asked, no hole of two distances', (_, mesh, distance) => {
  const spots = evenSpots(mesh, 5, { distance });
  const at = places(mesh, spots);
  expect(at.length).toBeGreaterThan(300);
  expect(closest(at)).toBeGreaterThanOrEqual(distance);
  const dense = places(mesh, looseSpots(mesh, 99, 20_000));
  const hole = Math.max(...dense.map((p) => Math.min(...at.map((q) => apart(p, q)))));
  expect(hole).toBeLessThan(2 * distance);
  // What maximal dart throwing leaves is far less: no place where one more would fit by much.
  expect(hole).toBeLessThan(1.3 * distance);
});

test('of a number the first so many of more; each first part is even, too', () => {
  const many = evenSpots(hills, 4, { number: 400 });
  expect(many.count).toBe(400);
  const few = evenSpots(hills, 4, { number: 90 });
  expect(names(many).slice(0, 90)).toEqual(names(few));
  const spread = closest(places(hills, few));
  // Of 90 at random on so much the two nearest are a tenth of their mean distance apart.
  expect(spread).toBeGreaterThan(0.5 * Math.sqrt(areasOf(hills).total / 90));
});

test('a smaller distance keeps most of what there was', () => {
  const wide = names(evenSpots(hills, 4, { distance: 0.5 }));
  const close = new Set(names(evenSpots(hills, 4, { distance: 0.47 })));
  expect(wide.filter((n) => close.has(n)).length / wide.length).toBeGreaterThan(0.6);
});

test('the two sides of a fold do not push each other away; the two sides of an edge do', () => {
  // A strip folded over in the middle, its halves 2 cm apart.
  const strip = triMeshOf({ shape: 'plane', width: 8, depth: 3, columns: 160, rows: 30 }, ([x, , z]) =>
    x < 0 ? [-x, 0.02, z] : [x, 0, z],
  );
  const at = places(strip, evenSpots(strip, 2, { distance: 0.5 }));
  const [upper, lower] = [at.filter((p) => p[1] > 0.01), at.filter((p) => p[1] <= 0.01)];
  const cross = Math.min(
    ...upper.filter((p) => p[0] > 1).map((p) => Math.min(...lower.map((q) => apart(p, q)))),
  );
  expect(cross).toBeLessThan(0.3);
  expect(closest(upper)).toBeGreaterThanOrEqual(0.5);
  expect(closest(lower)).toBeGreaterThanOrEqual(0.5);
  // About as many on each half as a half alone holds: 0.7 of them a square of the distance.
  for (const half of [upper, lower]) expect(half.length / ((0.7 * 12) / 0.25)).toBeCloseTo(1, 0);
  const roof = triMeshOf({ shape: 'plane', width: 8, depth: 3, columns: 40, rows: 15 }, ([x, , z]) => [
    x,
    -Math.abs(x),
    z,
  ]);
  expect(closest(places(roof, evenSpots(roof, 2, { distance: 0.5 })))).toBeGreaterThanOrEqual(0.5);
});

test('even places are like blue noise: numbers in a disc vary far less than by chance', () => {
  const outline = outlineOf([[-20, 0, -20, 20, 0, -20, 20, 0, 20, -20, 0, 20]]);
  const vary = (points: Points) => {
    const at = listed(points);
    const counts = Array.from({ length: 300 }, (_, i) => {
      const [x, z] = [-16 + 32 * ((i * 0.618034) % 1), -16 + 32 * ((i * 0.754878) % 1)];
      return at.filter((p) => (p[0] - x) ** 2 + (p[2] - z) ** 2 < 9).length;
    });
    const mean = counts.reduce((a, b) => a + b) / 300;
    return counts.reduce((sum, c) => sum + (c - mean) ** 2, 0) / 300 / mean;
  };
  // Of places by chance the variance is the mean (Poisson).
  expect(vary(looseIn(outline, 3, 4000))).toBeGreaterThan(0.6);
  expect(vary(looseIn(outline, 3, 4000))).toBeLessThan(1.4);
  expect(vary(evenIn(outline, 3, { number: 4000 }))).toBeLessThan(0.25);
});

const ring = [-6, 0, -4, 6, 0, -4, 6, 0, 5, -6, 0, 4];
const pulled = [-6, 0, -4, 6, 0, -4, 9, 0, 7, -6, 0, 4];

test('an outline: its area is the closed form, holes are none of it', () => {
  expect(outlineOf([ring]).area / 102).toBeCloseTo(1, 3);
  const hole = [-1, 0, -1, 1, 0, -1, 1, 0, 1, -1, 0, 1];
  const holed = outlineOf([ring, hole]);
  expect(holed.area / 98).toBeCloseTo(1, 3);
  expect([holed.inside(0, 0), holed.inside(2, 0), holed.inside(7, 0)]).toEqual([false, true, false]);
});

test('where a border is moved all else stays', () => {
  const [a, b] = [ring, pulled].map((r) => evenIn(outlineOf([r]), 1, { distance: 0.35 }));
  expect(closest(listed(b))).toBeGreaterThanOrEqual(0.35);
  const far = (p: Points) =>
    names(p).filter((_, i) => p.position[i * 3] < 2.5 && p.position[i * 3 + 2] < 2.5);
  expect(far(a).length).toBeGreaterThan(100);
  const kept = new Set(names(b));
  expect(far(a).filter((n) => kept.has(n)).length / far(a).length).toBeGreaterThan(0.99);
  const loose = [ring, pulled].map((r) => looseIn(outlineOf([r]), 1, Math.round(outlineOf([r]).area * 5)));
  const still = new Set(names(loose[1]));
  // As many a square metre: those that stayed are the first of their squares.
  expect(names(loose[0]).filter((n) => still.has(n)).length / loose[0].count).toBeGreaterThan(0.9);
});

test('inside a sphere and a torus: nowhere else, evenly, as much as the closed form says', () => {
  const ball = triMeshOf({ shape: 'sphere', radius: 2, columns: 64, rows: 32 });
  expect(Math.abs(volumeOf(ball)) / ((4 / 3) * Math.PI * 8)).toBeCloseTo(1, 1);
  expect(Math.abs(volumeOf(torus)) / (2 * Math.PI ** 2 * 3)).toBeCloseTo(1, 1);
  const box = (m: TriMesh) => {
    const of = (a: number, f: (...v: number[]) => number) =>
      f(...Array.from(m.positions).filter((_, i) => i % 3 === a));
    const [min, max] = [Math.min, Math.max].map((f) => [0, 1, 2].map((a) => of(a, f)) as Vec3);
    return { min, max };
  };
  const even = listed(evenInside(ball.tree(), box(ball), 3, { distance: 0.4 }));
  expect(even.every((p) => Math.hypot(...p) <= 2)).toBe(true);
  expect(closest(even)).toBeGreaterThanOrEqual(0.4);
  const probe = listed(looseInside(ball.tree(), box(ball), 8, 3000));
  expect(Math.max(...probe.map((p) => Math.min(...even.map((q) => apart(p, q)))))).toBeLessThan(0.8);
  const round = listed(looseInside(torus.tree(), box(torus), 3, 2000));
  const off = ([x, y, z]: Vec3) => Math.hypot(Math.hypot(x, z) - 3, y);
  expect(round.length).toBe(2000);
  expect(Math.max(...round.map(off))).toBeLessThanOrEqual(1);
  // Half of a tube's inside lies within 1/√2 of its middle.
  expect(round.filter((p) => off(p) < Math.SQRT1_2).length / 2000).toBeCloseTo(0.5, 1);
});
