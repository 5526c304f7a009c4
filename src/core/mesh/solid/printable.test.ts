import { boxMesh as box, drained, placedAt as at } from '../../testing/bodies';
import type { PlacedMesh } from '../merged';
import type { Mesh } from '../mesh';
import { joining, type StepInput } from './joining';
import { kernel, loadKernel } from './kernel';
import { printable, type Printable } from './printable';

beforeAll(loadKernel);

const solid = (...steps: [StepInput['how'], PlacedMesh][]): Mesh =>
  drained(
    joining(
      kernel()!,
      steps.map(([how, part]) => ({ how, node: 'n', mend: 'none', grain: 0.05, parts: [part] })),
    ),
  ).mesh;
const looked = (mesh: Mesh, settings: Partial<Parameters<typeof printable>[1]> = {}): Printable =>
  drained(
    printable(
      { positions: Float64Array.from(mesh.positions), indices: mesh.indices },
      { wall: 0.1, detail: 0.001, overhangDeg: 45, up: [0, 1, 0], ...settings },
    ),
  );

test('the thinnest wall of a box is its least side; that of a hollow one what is left beside the hollow', () => {
  expect(looked(box(3, 2, 0.4)).wall!.size).toBeCloseTo(0.4, 6);
  const hollow = looked(solid(['join', at(box(4, 4, 4))], ['cut', at(box(3, 3, 3), 0.42, 0.5, 0)]));
  expect(hollow.wall!.size).toBeCloseTo(0.08, 5);
  expect(hollow.wall!.at[0]).toBeGreaterThan(1.9);
  // The faces on both sides of that wall, of all: 4 × 4 outside, where it is behind the hollow, and 3 × 3 within.
  expect(hollow.thin).toBeCloseTo(18 / (6 * 16 + 6 * 9), 2);
});

test('the narrowest gap is that of a groove', () => {
  const { gap, wall } = looked(solid(['join', at(box(4, 2, 4))], ['cut', at(box(0.15, 1, 9), 0, 1, 0)]));
  expect(gap!.size).toBeCloseTo(0.15, 5);
  expect(wall!.size).toBeGreaterThan(0.9);
});

test('beside a sharp edge a wedge is no wall; what leans out is told from upright, and the bed holds what lies on it', () => {
  // A wedge of 30°, lying on its side.
  const wedge: Mesh = {
    ...box(1, 1, 1),
    positions: Float32Array.from([
      0,
      0,
      0,
      2,
      0,
      0,
      0,
      2 * Math.tan(Math.PI / 6),
      0,
      0,
      0,
      1,
      2,
      0,
      1,
      0,
      2 * Math.tan(Math.PI / 6),
      1,
    ]),
    indices: Uint32Array.from([0, 2, 1, 3, 4, 5, 0, 1, 4, 0, 4, 3, 1, 2, 5, 1, 5, 4, 2, 0, 3, 2, 3, 5]),
  };
  expect(looked(wedge).overhang).toBe(0);
  // Stood on its sharp edge one side leans out by as much, and the bed holds nothing.
  const tipped = {
    ...wedge,
    positions: wedge.positions.map((_, i, p) => [p[i + 1], -p[i - 1], p[i]][i % 3]),
  };
  const { steepest, overhang } = looked(tipped, { overhangDeg: 45 });
  expect(overhang).toBe(0);
  expect(steepest!.deg).toBeCloseTo(30, 4);
  expect(looked(tipped, { overhangDeg: 20 }).overhang).toBeGreaterThan(0.2);
  const table = looked(solid(['join', at(box(1, 2, 1))], ['join', at(box(3, 0.5, 3), 0, 2, 0)]));
  expect(table.steepest!.deg).toBeCloseTo(90, 6);
  // The underside of the plate beside its foot, of all faces.
  expect(table.overhang).toBeCloseTo(8 / (9 + 8 + 4 * 1.5 + 4 * 2 + 1), 2);
});
