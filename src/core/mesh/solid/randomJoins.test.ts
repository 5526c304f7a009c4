import fc from 'fast-check';
import { cases, PROVING } from '../../testing/prove';
import { boxMesh, drained, exactlyClosed, madeMesh } from '../../testing/bodies';
import type { PlacedMesh } from '../merged';
import { solidFacts } from './facts';
import { joining, type StepInput } from './joining';
import { kernel, loadKernel } from './kernel';

/** Random joins: closed to the last bit of a float, and as large as their parts allow. */

beforeAll(loadKernel);

const SHAPES = [
  boxMesh(1, 1, 1),
  madeMesh({ shape: 'sphere', radius: 0.6, columns: 12, rows: 8 }),
  madeMesh({ shape: 'torus', radius: 0.6, thickness: 0.2, columns: 14, rows: 8 }),
];
/** Often on a grid: faces that touch, edges in one line, parts twice in one place. */
const place = fc.oneof(
  fc.integer({ min: -2, max: 2 }).map((v) => v / 2),
  fc.double({ min: -1, max: 1, noNaN: true }),
);
const part = fc
  .record({
    shape: fc.nat(SHAPES.length - 1),
    at: fc.tuple(place, place, place),
    turn: fc.constantFrom(0, 0, 0, Math.PI / 2, 0.3, 1.1),
    size: fc.constantFrom(1, 1, 0.5, 2, 0.77),
  })
  .map(({ shape, at, turn, size }): PlacedMesh => {
    const [c, s] = [Math.cos(turn) * size, Math.sin(turn) * size];
    const matrix = Float64Array.of(c, 0, -s, 0, 0, size, 0, 0, s, 0, c, 0, ...at, 1);
    return { mesh: SHAPES[shape], matrix, wears: undefined, of: 'n' };
  });
const step = fc.record({ how: fc.constantFrom<StepInput['how']>('join', 'cut', 'keep'), part });

const volumeOf = ({ mesh, matrix: m }: PlacedMesh): number =>
  solidFacts(mesh).volume! * Math.hypot(m[0], m[1], m[2]) ** 3;

test(
  'random joins are closed, and hold no more than their parts and no less than the largest joined last',
  () => {
    fc.assert(
      fc.property(part, fc.array(step, { minLength: 1, maxLength: 6 }), (first, steps) => {
        const inputs = [{ how: 'join' as const, part: first }, ...steps].map(
          ({ how, part: p }): StepInput => ({
            how,
            node: 'n',
            mend: 'none',
            grain: 0.05,
            parts: [p],
          }),
        );
        const { mesh, refused } = drained(joining(kernel()!, inputs));
        expect(refused).toEqual([]);
        expect(exactlyClosed(mesh)).toBe(true);
        if (mesh.indices.length === 0) return;
        const volume = solidFacts(mesh).volume!;
        const most =
          volumeOf(first) + steps.reduce((n, s) => n + (s.how === 'join' ? volumeOf(s.part) : 0), 0);
        expect(volume).toBeGreaterThan(-1e-9);
        expect(volume).toBeLessThan(most * (1 + 1e-5) + 1e-9);
        const last = steps.at(-1)!;
        if (last.how === 'join') expect(volume).toBeGreaterThan(volumeOf(last.part) * (1 - 1e-5));
        if (last.how === 'keep') expect(volume).toBeLessThan(volumeOf(last.part) * (1 + 1e-5));
      }),
      { numRuns: cases(10_000) },
    );
  },
  PROVING ? 3_600_000 : 60_000,
);
