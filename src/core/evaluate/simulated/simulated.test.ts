import { Cloth } from '../../mesh/cloth/cloth';
import { deformerSchema, type Deformer } from '../../mesh/deform/schema';
import type { Scene } from '../../scene/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { maskSchema } from '../../mesh/mask/schema';
import type { Surface } from '../../mesh/surfaceSchema';
import type { Vec3 } from '../../math/vec3';
import type { PointsPath } from '../../curve/schema';
import { emptyScene, newPath, newPoint, newSurface } from '../../scene/defaults';
import { ASSETS } from '../../testing/scene';
import { Evaluator, type SurfaceResult } from '../scene';

/** What was simulated of cloth stays where nothing moves it otherwise, and is what a fresh start gives all the same. */

const cloth = (values: object = {}) =>
  deformerSchema.parse({
    id: 'c',
    kind: 'cloth',
    holds: [[-1, 0, -1]],
    wind: 4,
    seconds: 3,
    collider: 'ball',
    ...values,
  });
const made = (shape: object) => ({
  source: 'made' as const,
  shape: shapeSchema.parse(shape),
  color: '#D8CDB6',
});
const sail: Surface = {
  ...newSurface('sail', 'Sail', made({ shape: 'plane', width: 2, depth: 2, columns: 8, rows: 8 })),
  position: [0, 2, 0],
  deformers: [cloth()],
};
const ball: Surface = {
  ...newSurface('ball', 'Ball', made({ shape: 'sphere', radius: 0.9, columns: 16, rows: 8 })),
  position: [0, 1.05, 0.2],
};
const scene = (one: Surface, other = ball) => ({ ...emptyScene('Cloth'), surfaces: [one, other] });
const bump = deformerSchema.parse({ id: 'b', kind: 'bend', along: 'x', towards: 'y', angleDeg: 20 });

test.each<[string, Surface, Surface]>([
  ['its name and whether it is shown', { ...sail, name: 'Else', visible: false }, ball],
  ['what deforms it afterwards', { ...sail, deformers: [cloth(), bump] }, ball],
  ['how long it is simulated', { ...sail, deformers: [cloth({ seconds: 5 })] }, ball],
  ['how what it falls on is shaded', sail, { ...ball, normals: 'flat', name: 'Else' }],
])('%s: nothing is simulated again', (_, changed, other) => {
  const frames = jest.spyOn(Cloth.prototype as unknown as { advance(): void }, 'advance');
  const evaluator = new Evaluator(ASSETS);
  evaluator.evaluate(scene(sail), undefined, 2);
  const before = frames.mock.calls.length;
  expect(before).toBeGreaterThan(50);
  const kept = evaluator.evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(frames.mock.calls.length).toBe(before);
  frames.mockRestore();
  const fresh = new Evaluator(ASSETS).evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(kept.mesh!.positions).toEqual(fresh.mesh!.positions);
});

test.each([0, 1])('falls on what a mask deforms, moving at speed %d, as the mask is now', (speed) => {
  const wave = deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.4, length: 1.5, speed, mask: 'm' });
  const at = (from: number) => ({
    ...scene(sail, { ...ball, deformers: [wave] }),
    masks: [maskSchema.parse({ id: 'm', name: 'm', layers: [{ id: 'l', kind: 'height', from, to: from }] })],
  });
  const evaluator = new Evaluator(ASSETS);
  const positions = (from: number, by = evaluator) =>
    by.evaluate(at(from), undefined, 2).surfaces.find((s) => s.id === 'sail')!.mesh!.positions;
  const before = positions(-9);
  expect(positions(9)).toEqual(positions(9, new Evaluator(ASSETS)));
  expect(positions(9)).not.toEqual(before);
  expect(positions(-9)).toEqual(before);
});

test.each<[string, Surface, Surface]>([
  ['its own numbers', { ...sail, deformers: [cloth({ wind: 5 })] }, ball],
  ['what holds it', { ...sail, deformers: [cloth({ holds: [[1, 0, 1]] })] }, ball],
  ['where it hangs', { ...sail, position: [0, 2.1, 0] }, ball],
  ['what deforms it before', { ...sail, deformers: [bump, cloth()] }, ball],
  ['where what it falls on lies', sail, { ...ball, position: [0.1, 1.05, 0.2] }],
])('%s: it begins anew', (_, changed, other) => {
  const evaluator = new Evaluator(ASSETS);
  const old = evaluator.evaluate(scene(sail), undefined, 2).surfaces[0].mesh!.positions;
  const now = evaluator.evaluate(scene(changed, other), undefined, 2).surfaces[0].mesh!.positions;
  const fresh = new Evaluator(ASSETS).evaluate(scene(changed, other), undefined, 2).surfaces[0];
  expect(now).toEqual(fresh.mesh!.positions);
  expect(now).not.toEqual(old);
});

/** Vertices of a surface's result, in the scene. */
function vertices({ mesh, matrix: m }: SurfaceResult): Vec3[] {
  const p = mesh!.positions;
  return Array.from({ length: p.length / 3 }, (_, i) => {
    const [x, y, z] = p.subarray(i * 3, i * 3 + 3);
    return [0, 1, 2].map((r) => m[r] * x + m[4 + r] * y + m[8 + r] * z + m[12 + r]) as Vec3;
  });
}
/** A raft that heaves by 0.4 m, all of it alike: its waves are as long as a sea. */
const raft: Surface = {
  ...newSurface('ball', 'Raft', made({ shape: 'plane', width: 8, depth: 8, columns: 4, rows: 4 })),
  deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.4, length: 1e5, speed: 5e4 })],
};
const heaves = (time: number) => raftAt(time)[0][1];
const raftAt = (time: number) =>
  vertices(
    new Evaluator(ASSETS).evaluate({ ...emptyScene('Raft'), surfaces: [raft] }, undefined, time).surfaces[0],
  );

describe('what moves about cloth', () => {
  const loose = {
    ...sail,
    position: [0, 0.6, 0] as Vec3,
    deformers: [cloth({ holds: [], sides: [], wind: 0, drag: 2, seconds: 6 })],
  };

  test('it lies on what heaves under it, and goes up and down with it', () => {
    const evaluator = new Evaluator(ASSETS);
    const at = (time: number) =>
      vertices(evaluator.evaluate(scene(loose, raft), undefined, time).surfaces[0]);
    const heights = [3, 3.3, 3.7, 4, 4.4, 5].map((time) => {
      const over = at(time).map(([, y]) => y - heaves(time));
      expect(Math.min(...over)).toBeGreaterThan(-0.002);
      // As thick as it is, and no thicker than a fold.
      expect(Math.max(...over)).toBeLessThan(0.1);
      return heaves(time);
    });
    expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.3);
  });

  test('a time has one shape, however it is come to', () => {
    const evaluator = new Evaluator(ASSETS);
    const at = (of: Evaluator, time: number) =>
      of.evaluate(scene(loose, raft), undefined, time).surfaces[0].mesh!.positions;
    for (const time of [0, 0.5, 3, 1]) at(evaluator, time);
    expect(at(evaluator, 2)).toEqual(at(new Evaluator(ASSETS), 2));
  });

  test('only what moves otherwise begins it anew', () => {
    const frames = jest.spyOn(Cloth.prototype as unknown as { advance(): void }, 'advance');
    const evaluator = new Evaluator(ASSETS);
    evaluator.evaluate(scene(loose, raft), undefined, 1);
    const before = frames.mock.calls.length;
    evaluator.evaluate(scene(loose, { ...raft, name: 'Else', visible: false }), undefined, 1);
    expect(frames.mock.calls.length).toBe(before);
    const other = { ...raft, position: [0, 0.1, 0] as Vec3 };
    const now = evaluator.evaluate(scene(loose, other), undefined, 1).surfaces[0].mesh!.positions;
    expect(frames.mock.calls.length).toBeGreaterThan(before);
    frames.mockRestore();
    expect(now).toEqual(
      new Evaluator(ASSETS).evaluate(scene(loose, other), undefined, 1).surfaces[0].mesh!.positions,
    );
  });

  test('a side stays on its line while that goes with a surface that moves', () => {
    const line: PointsPath = {
      ...newPath('line', 'Line', [
        newPoint('p', 'corner', [-1.4, 0, 0.3]),
        newPoint('q', 'corner', [1.4, 0, -0.3]),
      ]),
    } as PointsPath;
    line.source = { ...line.source, on: 'ball' };
    const hung = {
      ...sail,
      deformers: [cloth({ holds: [], collider: null, line: 'line', sides: ['v0'], wind: 3 })],
    };
    const evaluator = new Evaluator(ASSETS);
    const given = { ...scene(hung, raft), paths: [line] };
    for (const time of [0.2, 0.7, 1.5, 2.9]) {
      const hangs = vertices(evaluator.evaluate(given, undefined, time).surfaces[0]);
      // Nine vertices of the side, on the line at the height of the raft.
      const on = hangs.filter(
        ([x, y, z]) => Math.abs(y - heaves(time)) < 5e-4 && Math.abs(z + (x * 0.3) / 1.4) < 1e-5,
      );
      expect(on.length).toBeGreaterThanOrEqual(9);
      expect(hangs.every((v) => v.every(Number.isFinite))).toBe(true);
    }
    const fast = new Evaluator(ASSETS);
    expect(fast.evaluate(given, undefined, 1.5).surfaces[0].mesh!.positions).toEqual(
      evaluator.evaluate(given, undefined, 1.5).surfaces[0].mesh!.positions,
    );
  });
});

test('flat faces or smooth ones: the same cloth, simulated once', () => {
  const frames = jest.spyOn(Cloth.prototype as unknown as { advance(): void }, 'advance');
  const evaluator = new Evaluator(ASSETS);
  const smooth = evaluator.evaluate(scene(sail), undefined, 2).surfaces[0].mesh!;
  const before = frames.mock.calls.length;
  const flat = evaluator.evaluate(scene({ ...sail, normals: 'flat' }), undefined, 2).surfaces[0].mesh!;
  expect(frames.mock.calls.length).toBe(before);
  frames.mockRestore();
  expect(flat.positions.length).toBe(smooth.indices.length * 3);
  smooth.indices.forEach((v, i) =>
    expect(flat.positions.slice(i * 3, i * 3 + 3)).toEqual(smooth.positions.slice(v * 3, v * 3 + 3)),
  );
});

test('wind that changes with time: still air until it comes, the same however a time is come to, and nothing simulated twice', () => {
  const air = {
    ...sail,
    deformers: [cloth({ wind: 4, gusts: 0, sides: ['v0'], holds: [], collider: null })],
  };
  const moments = (list: [number, number][]) =>
    list.map(([at, value]) => ({ at, value, way: 'held' as const }));
  const timed = (list: [number, number][]): Scene => ({
    ...scene(air),
    timed: [{ id: 't', node: 'sail', field: ['deformers', 'c', 'wind'], moments: moments(list) }],
  });
  const at = (of: Scene, time: number, evaluator = new Evaluator(ASSETS)) => [
    ...evaluator.evaluate(of, undefined, time).surfaces.find((s) => s.id === 'sail')!.mesh!.positions,
  ];
  const plain = (wind: number): Scene =>
    scene({ ...air, deformers: [{ ...air.deformers[0], wind } as Deformer] });
  // Until it comes it is as without wind; a wind that stays is the wind that it is.
  const comes = timed([
    [0, 0],
    [1, 6],
  ]);
  expect(at(comes, 0.9)).toEqual(at(plain(0), 0.9));
  expect(at(comes, 2)).not.toEqual(at(plain(0), 2));
  const steady = at(timed([[0, 6]]), 2);
  const other = at(plain(6), 2);
  steady.forEach((v, i) => expect(Math.abs(v - other[i])).toBeLessThan(1e-6));
  const evaluator = new Evaluator(ASSETS);
  const frames = jest.spyOn(Cloth.prototype as unknown as { advance(): void }, 'advance');
  for (const time of [2, 0.5, 1.5, 2]) expect(at(comes, time, evaluator)).toEqual(at(comes, time));
  frames.mockClear();
  at(comes, 1.2, evaluator);
  expect(frames).not.toHaveBeenCalled();
  frames.mockRestore();
});
