import fc from 'fast-check';
import { cases, SEED } from '../../testing/prove';
import { allocatePlacements, STATE } from '../result';
import { collidingRows } from './collide';

/** Cubes of one metre about their feet, upright, each of its own size. */
function cubes(list: readonly { at: [number, number, number]; size: number }[]) {
  const p = allocatePlacements(list.length, ['p']);
  list.forEach(({ at, size }, i) => {
    p.prop[i] = 0;
    p.position.set(at, i * 3);
    p.rotation[i * 4 + 3] = 1;
    p.scale.fill(size, i * 3, i * 3 + 3);
  });
  return p;
}
const BOUNDS = [
  { min: [-0.5, -0.5, -0.5] as [number, number, number], max: [0.5, 0.5, 0.5] as [number, number, number] },
];
const place = fc.double({ min: -6, max: 6, noNaN: true });
const cube = fc.record({
  at: fc.tuple(place, place, place),
  // Most are small, some are far larger than all others.
  size: fc.oneof(
    { weight: 9, arbitrary: fc.double({ min: 0.2, max: 1.5, noNaN: true }) },
    fc.double({ min: 3, max: 5000, noNaN: true }),
  ),
});

test('what is left out by boxes is what is left out by trying all, whatever their sizes', () => {
  fc.assert(
    fc.property(fc.array(cube, { minLength: 2, maxLength: 60 }), (list) => {
      const p = cubes(list);
      const rows = collidingRows(p, BOUNDS, true, () => false);
      const standing: number[] = [];
      const out: number[] = [];
      list.forEach((a, i) => {
        const hit = standing.some((j) => {
          const b = list[j];
          const half = (a.size + b.size) / 2;
          const slack = 1e-6 * Math.min(a.size, b.size) * Math.sqrt(0.75);
          return a.at.every((v, k) => Math.abs(v - b.at[k]) < half - slack);
        });
        (hit ? out : standing).push(i);
      });
      expect(rows).toEqual(out);
      expect([...p.state].map((s) => s === STATE.collision)).toEqual(list.map((_, i) => out.includes(i)));
    }),
    { numRuns: cases(5000), seed: SEED },
  );
});

test('one that is as wide as a town among ten thousand costs no more than holding it against each', () => {
  const list = Array.from({ length: 10_000 }, (_, i) => ({
    at: [(i % 100) * 2, 0, Math.floor(i / 100) * 2] as [number, number, number],
    size: 1,
  }));
  list.push({ at: [0, 0, 0], size: 1e4 });
  expect(collidingRows(cubes(list), BOUNDS, false, () => false)).toEqual([10_000]);
});
