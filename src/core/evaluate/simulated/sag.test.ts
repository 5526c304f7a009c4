import type { Deformer } from '../../mesh/deform/schema';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { Rod } from '../../mesh/rod/rod';
import type { Surface } from '../../mesh/surfaceSchema';
import { emptyScene, newPath, newSurface } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { Evaluator } from '../scene';

/** Tubes that sag, as surfaces of a scene: what they lie on, what that does, and what stays when something changes. */

const sag = (values: object = {}): Deformer =>
  deformerSchema.parse({ id: 'd', kind: 'sag', onto: ['board'], settled: true, ...values });
const made = (shape: object) => ({
  source: 'made' as const,
  shape: shapeSchema.parse(shape),
  color: '#D8CDB6',
});
const rope: Surface = {
  ...newSurface('rope', 'Rope', made({ shape: 'tube', path: 'p', radius: 0.05, columns: 8, rows: 40 })),
  deformers: [sag()],
};
const board: Surface = newSurface(
  'board',
  'Board',
  made({ shape: 'plane', width: 6, depth: 6, columns: 2, rows: 2 }),
);
const path = newPath(
  'p',
  'Way',
  points('corner', [
    [-1, 0.4, 0],
    [1, 0.4, 0],
  ]),
);
const scene = (more: Partial<Surface> = {}, under: Partial<Surface> = {}): Scene => ({
  ...emptyScene('Rope'),
  paths: [path],
  surfaces: [
    { ...rope, ...more },
    { ...board, ...under },
  ],
});
/** Heights in the scene of a surface’s corners. */
function heights(made: Scene, time = 0, evaluator = new Evaluator(ASSETS)): number[] {
  const { mesh, matrix: m } = evaluator.evaluate(made, undefined, time).surfaces[0];
  const p = mesh!.positions;
  return Array.from(
    { length: p.length / 3 },
    (_, i) => m[1] * p[i * 3] + m[5] * p[i * 3 + 1] + m[9] * p[i * 3 + 2] + m[13],
  );
}

test('it lies where the board is, whatever its own place and size are; settled it does at all times', () => {
  for (const [own, under] of [
    [{}, 0],
    [{ position: [0.3, 0.5, 0] as [number, number, number], size: 2, turnDeg: 40 }, 0.2],
  ] as const) {
    const at = scene(own, { position: [0, under, 0] });
    const high = heights(at);
    expect(heights(at, 7)).toEqual(high);
    expect(Math.min(...high)).toBeGreaterThan(under - 0.003);
    expect(Math.min(...high)).toBeLessThan(under + 0.003);
    // Twice as large its radius is, too.
    const thick = 0.1 * ('size' in own ? own.size : 1);
    expect(Math.max(...high)).toBeLessThan(under + thick * 0.8);
  }
  const falls = scene({ deformers: [sag({ settled: false })] });
  expect(Math.max(...heights(falls, 0))).toBeCloseTo(0.45, 5);
  expect(Math.max(...heights(falls, 5))).toBeCloseTo(Math.max(...heights(scene())), 6);
});

test('it is carried up by what moves under it', () => {
  // A board that goes up and down as a whole: a wave longer than anything.
  const wave = deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.3, length: 1e5, speed: 1e4 });
  const at = scene({ deformers: [sag({ settled: false, sticks: true })] }, { deformers: [wave] });
  const evaluator = new Evaluator(ASSETS);
  for (const time of [3, 4.5, 2.2]) {
    const under = 0.3 * Math.sin((-2 * Math.PI * 1e4 * time) / 1e5);
    const low = Math.min(...heights(at, time, evaluator));
    expect(Math.abs(low - under)).toBeLessThan(0.02);
  }
  expect(heights(at, 3, evaluator)).toEqual(heights(at, 3));
});

test('what moves nothing of it simulates nothing again', () => {
  const frames = jest.spyOn(Rod.prototype as unknown as { advance(): void }, 'advance');
  const evaluator = new Evaluator(ASSETS);
  evaluator.evaluate(scene(), undefined, 0);
  const before = frames.mock.calls.length;
  expect(before).toBeGreaterThan(100);
  evaluator.evaluate(
    scene({ name: 'Else', visible: false }, { name: 'Other', normals: 'flat' }),
    undefined,
    3,
  );
  expect(frames.mock.calls.length).toBe(before);
  evaluator.evaluate(scene({}, { position: [0, 0.1, 0] }), undefined, 3);
  expect(frames.mock.calls.length).toBeGreaterThan(before);
  frames.mockRestore();
});

test('what is no tube stays as it is, and a board that is gone is told of', () => {
  const kinds = (of: Scene) =>
    new Evaluator(ASSETS).evaluate(of, undefined, 0).surfaces[0].findings.map((f) => f.kind);
  expect(kinds(scene())).toEqual([]);
  expect(kinds(scene({ mesh: board.mesh }))).toEqual(['sag-no-tube']);
  expect(heights(scene({ mesh: board.mesh })).every((y) => y === 0)).toBe(true);
  expect(kinds(scene({ deformers: [sag({ onto: ['gone'], seconds: 0.5 })] }))).toEqual(['sag-missing']);
});
