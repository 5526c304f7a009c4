import fc from 'fast-check';
import { buildBvh, refit } from './bvh';
import { firstHit, nearestPlace, noHit } from './bvhQuery';
import { cases } from '../testing/prove';
import { triMeshOf } from '../testing/surfaces';
import { placeOn } from './triMesh';

/** A soup of triangles from numbers; some share corners, some have no area. */
function soup(n: number, seed: number) {
  let h = seed >>> 0;
  const next = () => ((h = (Math.imul(h, 1664525) + 1013904223) >>> 0) / 4294967296) * 2 - 1;
  const positions = Float64Array.from({ length: n * 3 }, next);
  const indices = Uint32Array.from({ length: n * 3 }, () => Math.floor(((next() + 1) / 2) * n) % n);
  return { positions, indices };
}
type Soup = ReturnType<typeof soup>;
const corner = ({ positions, indices }: Soup, f: number, k: number) =>
  [0, 1, 2].map((a) => positions[indices[f * 3 + k] * 3 + a]);
const minus = (a: number[], b: number[]) => a.map((v, i) => v - b[i]);
const times = (a: number[], b: number[]) => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
const dot = (a: number[], b: number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/** Every triangle by its plane and its three edges: another way than the tree's. */
function bruteRay(s: Soup, o: number[], d: number[]): number {
  let best = Infinity;
  for (let f = 0; f < s.indices.length / 3; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => corner(s, f, k));
    const n = times(minus(b, a), minus(c, a));
    const along = dot(n, d);
    if (dot(n, n) === 0 || along === 0) continue;
    const t = dot(n, minus(a, o)) / along;
    const p = o.map((v, i) => v + d[i] * t);
    const inside = [
      [a, b],
      [b, c],
      [c, a],
    ].every(([q, r]) => dot(n, times(minus(r, q), minus(p, q))) >= -1e-12 * dot(n, n));
    if (t >= 0 && inside) best = Math.min(best, t);
  }
  return best;
}
/** The nearest of many places on every triangle, closed in on. */
function bruteNearest(s: Soup, p: number[]): number {
  let best = Infinity;
  for (let f = 0; f < s.indices.length / 3; f++) {
    const [a, b, c] = [0, 1, 2].map((k) => corner(s, f, k));
    if (dot(times(minus(b, a), minus(c, a)), times(minus(b, a), minus(c, a))) === 0) continue;
    const far = (u: number, v: number) =>
      Math.hypot(...a.map((x, i) => x + (b[i] - x) * u + (c[i] - x) * v - p[i]));
    let [u, v, step] = [1 / 3, 1 / 3, 0.3];
    while (step > 1e-7) {
      let moved = false;
      for (const [du, dv] of [
        [1, 0],
        [-1, 0],
        [0, 1],
        [0, -1],
        [1, -1],
        [-1, 1],
      ]) {
        const [x, y] = [u + du * step, v + dv * step];
        if (x < 0 || y < 0 || x + y > 1 || far(x, y) >= far(u, v)) continue;
        [u, v, moved] = [x, y, true];
      }
      if (!moved) step /= 2;
    }
    best = Math.min(best, far(u, v));
  }
  return best;
}
const spot = fc.array(fc.double({ min: -2, max: 2, noNaN: true }), { minLength: 3, maxLength: 3 });

test('rays and nearest places agree with a look at every triangle', () => {
  fc.assert(
    fc.property(fc.integer({ min: 1, max: 60 }), fc.nat(), spot, spot, (n, seed, o, d) => {
      fc.pre(Math.hypot(...d) > 1e-3);
      const s = soup(n, seed);
      const tree = buildBvh(s.positions, s.indices);
      const hit = noHit();
      const found = firstHit(tree, o[0], o[1], o[2], d[0], d[1], d[2], 0, Infinity, hit);
      const brute = bruteRay(s, o, d);
      if (found || brute < Infinity) expect(hit.t).toBeCloseTo(brute, 8);
      const near = nearestPlace(tree, o[0], o[1], o[2], Infinity, hit);
      if (near) expect(hit.t).toBeCloseTo(bruteNearest(s, o), 4);
      else expect(tree.dropped).toBe(n);
    }),
    { numRuns: cases(5000) },
  );
});

/** A grid of n × n squares over −1 to 1 at height 0. */
function grid(n: number) {
  const positions = new Float64Array((n + 1) * (n + 1) * 3);
  const indices: number[] = [];
  for (let j = 0; j <= n; j++)
    for (let i = 0; i <= n; i++) {
      positions.set([(2 * i) / n - 1, 0, (2 * j) / n - 1], (j * (n + 1) + i) * 3);
      const a = j * (n + 1) + i;
      if (i < n && j < n) indices.push(a, a + n + 1, a + 1, a + 1, a + n + 1, a + n + 2);
    }
  return { positions, indices: Uint32Array.from(indices) };
}

test('no ray slips through between triangles, whatever corner or edge it aims at', () => {
  const { positions, indices } = grid(17);
  const tree = buildBvh(positions, indices);
  const hit = noHit();
  for (let i = 0; i < positions.length; i += 3)
    for (const [du, dw] of [
      [0, 0],
      [1 / 17, 0],
      [0, 1 / 17],
    ]) {
      const x = Math.min(1, positions[i] + du);
      const z = Math.min(1, positions[i + 2] + dw);
      expect(firstHit(tree, x, 3, z, 0, -1, 0, 0, Infinity, hit)).toBe(true);
      expect(hit.t).toBeCloseTo(3, 12);
    }
});

test('refitted after its positions moved it answers as one built anew', () => {
  const s = soup(80, 5);
  const tree = buildBvh(s.positions, s.indices);
  for (let i = 0; i < s.positions.length; i++) s.positions[i] = Math.sin(s.positions[i] * 7 + i);
  refit(tree);
  const anew = buildBvh(s.positions, s.indices);
  const [a, b] = [noHit(), noHit()];
  for (let i = 0; i < 200; i++) {
    const d = [Math.sin(i), Math.cos(i * 1.7), Math.sin(i * 2.3)];
    firstHit(tree, 0, 0, 0, d[0], d[1], d[2], 0, Infinity, a);
    firstHit(anew, 0, 0, 0, d[0], d[1], d[2], 0, Infinity, b);
    expect(a).toEqual(b);
  }
});

test('triangles without area or with numbers that are none are left out, and counted', () => {
  const positions = Float64Array.from([0, 0, 0, 1, 0, 0, 0, 0, 1, NaN, 0, 0]);
  const tree = buildBvh(positions, Uint32Array.from([0, 1, 2, 0, 0, 1, 0, 1, 3]));
  expect(tree.dropped).toBe(2);
  const hit = noHit();
  expect(firstHit(tree, 0.2, 1, 0.2, 0, -1, 0, 0, Infinity, hit)).toBe(true);
  expect(hit.face).toBe(0);
  const none = buildBvh(positions, new Uint32Array(0));
  expect(firstHit(none, 0, 1, 0, 0, -1, 0, 0, Infinity, hit)).toBe(false);
  expect(nearestPlace(none, 0, 1, 0, Infinity, hit)).toBe(false);
});

test('rays in the planes of slivers, as those at poles are, meet what is there and nothing else', () => {
  for (const columns of [4, 8, 24, 30]) {
    const ball = triMeshOf({ shape: 'sphere', radius: 2, columns, rows: 12 });
    const tree = ball.tree();
    const hit = noHit();
    for (let k = 0; k < columns * 2; k++)
      for (const r of [0.01371, 0.3, 0.9]) {
        const angle = (Math.PI * k) / columns;
        const diagonal = k % (columns / 2) === columns / 4;
        // On the diagonals just there, to the last bit.
        const along = diagonal
          ? [Math.sign(Math.cos(angle)), Math.sign(Math.sin(angle))]
          : [Math.cos(angle), Math.sin(angle)];
        const [x, z] = along.map((a) => a * r);
        for (const way of [1, -1]) {
          expect(firstHit(tree, x, 0.01371, z, 0, way, 0, 0, Infinity, hit)).toBe(true);
          const [px, py, pz] = placeOn(ball, hit.face, hit.u, hit.v);
          expect([px, pz]).toEqual([expect.closeTo(x, 9), expect.closeTo(z, 9)]);
          // Faces lie within the ball, no deeper than their own middle.
          expect(Math.hypot(px, py, pz)).toBeLessThan(2 + 1e-6);
          expect(Math.hypot(px, py, pz)).toBeGreaterThan(
            2 * Math.cos(Math.PI / columns) * Math.cos(Math.PI / 24),
          );
          expect(hit.t).toBeCloseTo((py - 0.01371) * way, 9);
        }
      }
  }
});
