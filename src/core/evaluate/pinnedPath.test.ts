import { samplePath } from '../curve/sample';
import type { CompiledPath } from '../curve/compile';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import { nearestPlace, noHit } from '../mesh/bvhQuery';
import { placeMatrix, through } from '../mesh/surface';
import { placeOn } from '../mesh/triMesh';
import { quatRotate, type Quat } from '../math/quat';
import { distance, dot, type Vec3 } from '../math/vec3';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../scene/defaults';
import { pathSchema, type Path } from '../curve/schema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { ASSETS } from '../testing/scene';
import type { Run } from '../arrange/run/schema';
import { Evaluator } from './scene';

const surface = (shape: object, more: Partial<Surface> = {}): Surface => ({
  ...newSurface('sheet', 'Sheet', { source: 'made', shape: shapeSchema.parse(shape), color: '#D8CDB6' }),
  ...more,
});
const on = (points: Vec3[], kind: 'smooth' | 'corner' = 'smooth', closed = false) => {
  const path = newPath(
    'line',
    'Line',
    points.map((p, i) => newPoint(`pt${i}`, kind, p)),
    closed,
  );
  if (path.source.kind === 'points') path.source.on = 'sheet';
  return path;
};
const stitches = (more: Partial<Run['spacing']> = {}): Run => {
  const run = newRun('run', 'Run', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 25, ...more };
  run.facing = { ...run.facing, posture: 'surface' };
  return run;
};
const sceneOf = (
  sheet: Surface,
  path: Path = on([
    [-3, 0, -1],
    [0, 0, 1],
    [3, 0, -0.5],
  ]),
  run = stitches(),
): Scene => ({
  ...emptyScene('Pinned'),
  props: [newProp('p', 'P', { source: 'built', name: 'box' })],
  surfaces: [sheet],
  paths: [path],
  arrangements: [run],
});
function worked(scene: Scene, time = 0, evaluator = new Evaluator(ASSETS)) {
  const result = evaluator.evaluate(scene, undefined, time);
  const compiled = evaluator.compiledPath('line')!;
  if (!compiled.ok) throw new Error(compiled.problem);
  const triMesh = evaluator.contextAt(time).surface!('sheet')!;
  return { result, path: compiled.path, triMesh, run: result.arrangements[0].placements };
}
const along = (path: CompiledPath, n = 400) =>
  samplePath(
    path,
    Float64Array.from({ length: n }, (_, i) => (path.length * i) / (n - 1)),
  );
const row = (a: ArrayLike<number>, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];
const HILLS = { shape: 'hills', width: 10, depth: 6, columns: 40, rows: 24, height: 1.5, seed: 3 };
const WAVES = [
  deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.4, length: 3, speed: 2, push: 'y' }),
  deformerSchema.parse({ id: 'n', kind: 'noise', height: 0.3, span: 2, speed: 1 }),
];

test('a path on a surface stays on it, between its points too, however it is deformed', () => {
  const scene = sceneOf(surface(HILLS, { deformers: WAVES, position: [4, 1, -2], turnDeg: 30, size: 1.5 }));
  const evaluator = new Evaluator(ASSETS);
  const hit = noHit();
  for (const time of [0, 0.7, 3.1]) {
    const { path, triMesh, run } = worked(scene, time, evaluator);
    const { position } = along(path);
    for (let i = 0; i < 400; i++) {
      expect(nearestPlace(triMesh.tree(), ...row(position, i), Infinity, hit)).toBe(true);
      expect(hit.t).toBeLessThan(1e-9);
    }
    for (let i = 0; i < run.count; i++) {
      nearestPlace(triMesh.tree(), ...row(run.position, i), Infinity, hit);
      expect(hit.t).toBeLessThan(1e-9);
    }
  }
});

test('moving, turning and sizing the surface carries the path along, exactly', () => {
  const place = { position: [4, 1, -2] as Vec3, turnDeg: 30, tipDeg: 20, rollDeg: -10, size: 1.5 };
  const still = worked(sceneOf(surface(HILLS)));
  const moved = worked(sceneOf(surface(HILLS, place)));
  const m = placeMatrix(place);
  const [a, b] = [along(still.path).position, along(moved.path).position];
  expect(moved.path.length).toBeCloseTo(still.path.length * 1.5, 9);
  for (let i = 0; i < 400; i++) expect(distance(through(m, row(a, i)), row(b, i))).toBeLessThan(1e-9);
  expect(moved.path.pointS.length).toBe(3);
});

test('what is on a sphere stands square to it; twin rows keep their distance along it, over a closed seam too', () => {
  const sphere = surface({ shape: 'sphere', radius: 4, columns: 192, rows: 96 });
  const ring = Array.from({ length: 12 }, (_, i): Vec3 => {
    const a = (i * Math.PI) / 6;
    return [4 * Math.cos(a), 0, 4 * Math.sin(a)];
  });
  const run = stitches({ rows: { count: 2, distance: 1.2, stagger: 0, side: 'middle', mirrored: false } });
  const { path, run: props } = worked(sceneOf(sphere, on(ring, 'smooth', true), run));
  expect(path.closed).toBe(true);
  expect(path.length).toBeCloseTo(2 * Math.PI * 4, 1);
  expect(props.count).toBe(50);
  const heights = new Set<number>();
  for (let i = 0; i < props.count; i++) {
    const p = row(props.position, i);
    const l = Math.hypot(...p);
    const up = quatRotate([...props.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 1, 0]);
    expect(dot(up, p) / l).toBeGreaterThan(0.9999);
    // The great circle lies level: the way over the sphere to it is its height as an angle, times the radius.
    const over = 4 * Math.asin(p[1] / l);
    expect(Math.abs(Math.abs(over) - 0.6)).toBeLessThan(4e-3);
    heights.add(Math.sign(over));
  }
  expect([...heights].sort()).toEqual([-1, 1]);
});

test('rows on a sheet that only rolls keep their distance along it, to 10 nanometres, while it rolls on', () => {
  const [width, columns] = [12, 60];
  const sheet = surface(
    { shape: 'plane', width, depth: 6, columns, rows: 6 },
    {
      deformers: [
        deformerSchema.parse({
          id: 'w',
          kind: 'wave',
          axis: 'x',
          height: 0.8,
          length: 3,
          speed: 2,
          push: 'y',
        }),
      ],
    },
  );
  const across = on(
    [
      [0.1, 0, -2.5],
      [0.1, 0, 2.5],
    ],
    'corner',
  );
  const run = stitches({ rows: { count: 2, distance: 3, stagger: 0, side: 'middle', mirrored: false } });
  const evaluator = new Evaluator(ASSETS);
  for (const time of [0, 0.3, 1.7]) {
    const { run: props, triMesh } = worked(sceneOf(sheet, across, run), time, evaluator);
    // Heights of the sheet by x: straight from column to column.
    const heights = new Map<number, number>();
    for (let v = 0; v < triMesh.positions.length; v += 3)
      heights.set(triMesh.positions[v], triMesh.positions[v + 1]);
    const xs = [...heights.keys()].sort((a, b) => a - b);
    const rolled = (x: number): number => {
      let length = 0;
      for (let j = 1; j < xs.length; j++) {
        const step = Math.hypot(xs[j] - xs[j - 1], heights.get(xs[j])! - heights.get(xs[j - 1])!);
        if (x <= xs[j]) return length + (step * (x - xs[j - 1])) / (xs[j] - xs[j - 1]);
        length += step;
      }
      return length;
    };
    for (let i = 0; i < props.count; i++) {
      const [x, , z] = row(props.position, i);
      expect(Math.abs(Math.abs(rolled(x) - rolled(0.1)) - 1.5)).toBeLessThan(1e-8);
      expect(Math.abs(z - (-2.5 + (5 * (i % 25)) / 24))).toBeLessThan(1e-7);
    }
  }
});

test('rows and what varies to the side go the same way over the surface, once', () => {
  const sphere = surface({ shape: 'sphere', radius: 4, columns: 192, rows: 96 });
  const ring = Array.from({ length: 12 }, (_, i): Vec3 => {
    const a = (i * Math.PI) / 6;
    return [4 * Math.cos(a), 0, 4 * Math.sin(a)];
  });
  const rows = { count: 2, distance: 1.2, stagger: 0, side: 'middle' as const, mirrored: false };
  const over = (side: number) => {
    const run = stitches({ rows });
    run.variation = { ...run.variation, side: [side, side] };
    const { run: props } = worked(sceneOf(sphere, on(ring, 'smooth', true), run));
    return Array.from({ length: props.count }, (_, i) => {
      const p = row(props.position, i);
      return 4 * Math.asin(p[1] / Math.hypot(...p));
    });
  };
  const still = over(0);
  over(0.3).forEach((v, i) => expect(Math.abs(Math.abs(v - still[i]) - 0.3)).toBeLessThan(4e-3));
});

test('lines taken from a mesh carry the posture too; a path on no surface says that it has none', () => {
  const scene = sceneOf(
    surface(HILLS),
    pathSchema.parse({
      id: 'line',
      name: 'Line',
      source: { kind: 'mesh', surface: 'sheet', take: { what: 'iso', along: 'v', from: 0.4 } },
    }),
  );
  const { run, triMesh } = worked(scene);
  const hit = noHit();
  for (let i = 0; i < run.count; i++) {
    nearestPlace(triMesh.tree(), ...row(run.position, i), Infinity, hit);
    expect(hit.t).toBeLessThan(1e-6);
    const [a, b, c] = [0, 1, 2].map((k) => row(triMesh.normals, triMesh.indices[hit.face * 3 + k]));
    const n = [0, 1, 2].map((k) => a[k] * (1 - hit.u - hit.v) + b[k] * hit.u + c[k] * hit.v) as Vec3;
    const up = quatRotate([...run.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 1, 0]);
    expect(dot(up, n) / Math.hypot(...n)).toBeGreaterThan(1 - 1e-6);
  }
  const loose = on([
    [0, 0, 0],
    [4, 0, 0],
  ]);
  if (loose.source.kind === 'points') delete loose.source.on;
  const { result } = worked(sceneOf(surface(HILLS), loose));
  expect(result.arrangements[0].findings.map((f) => f.kind)).toContain('posture-off-surface');
});

test('without its surface a path says so, and lies on it again when it is back', () => {
  const scene = sceneOf(surface(HILLS));
  const evaluator = new Evaluator(ASSETS);
  const before = worked(scene, 0, evaluator).run;
  const gone = evaluator.evaluate({ ...scene, surfaces: [] });
  expect(gone.paths[0].findings.map((f) => f.kind)).toEqual(['path-surface-missing']);
  expect(gone.arrangements[0].placements.count).toBe(0);
  expect(worked(scene, 0, evaluator).run.position).toEqual(before.position);
});

/** Where each row is on the material: its face at rest, and the weights of that face's corners. */
function materialOf(scene: Scene, time: number, evaluator: Evaluator): Vec3[] {
  const { triMesh, run } = worked(scene, time, evaluator);
  const rest = evaluator.contextAt(time).surfaceStates!('sheet')!.rest;
  const hit = noHit();
  return Array.from({ length: run.count }, (_, i) => {
    nearestPlace(triMesh.tree(), ...row(run.position, i), Infinity, hit);
    expect(hit.t).toBeLessThan(1e-6);
    return placeOn(rest, hit.face, hit.u, hit.v);
  });
}
const STRETCHED = [
  deformerSchema.parse({ id: 'w', kind: 'wave', axis: 'x', height: 0.9, length: 4, speed: 3, push: 'y' }),
];

test.each([
  ['count', { mode: 'count', count: 13 }],
  ['pitch', { mode: 'pitch', pitch: 0.31, leftover: 'end' }],
  ['divisions', { mode: 'divide', parts: 9 }],
  ['touch', { mode: 'touch', leftover: 'end' }],
] as const)('by %s every slot stays on its place of the material while the surface moves', (_, spacing) => {
  const run = stitches(spacing as Partial<Run['spacing']>);
  run.facing = {
    ...run.facing,
    posture: spacing.mode === 'touch' ? 'slope' : 'surface',
    bend: spacing.mode === 'touch',
  };
  const scene = sceneOf(surface(HILLS, { deformers: STRETCHED, size: 1.5, turnDeg: 40 }), undefined, run);
  const evaluator = new Evaluator(ASSETS);
  const before = materialOf(scene, 0, evaluator);
  expect(before.length).toBeGreaterThan(8);
  for (const time of [0.2, 0.9, 2.3]) {
    const now = materialOf(scene, time, evaluator);
    expect(now).toHaveLength(before.length);
    now.forEach((p, i) => expect(distance(p, before[i])).toBeLessThan(1e-8));
  }
  // As it moves, some of them come, go or slide.
  run.spacing.measured = 'moving';
  const [a, b] = [0, 0.9].map((time) =>
    materialOf({ ...scene, arrangements: [{ ...run }] }, time, evaluator),
  );
  expect(a.length !== b.length || a.some((p, i) => distance(p, b[i]) > 1e-3)).toBe(true);
});

test('lengths at rest are those of the surface as it was made, in metres of the scene', () => {
  const flat = { shape: 'plane', width: 10, depth: 6, columns: 20, rows: 12 };
  const run = stitches({ mode: 'pitch', pitch: 0.75, leftover: 'end' });
  const line = on(
    [
      [-3, 0, 0.3],
      [3, 0, 0.3],
    ],
    'corner',
  );
  const scene = sceneOf(surface(flat, { deformers: STRETCHED, size: 1.5 }), line, run);
  const [arrangement] = new Evaluator(ASSETS).evaluate(scene, undefined, 0.6).arrangements;
  // Six metres, half as large again.
  expect(arrangement.parts[0].length).toBeCloseTo(9, 9);
  expect(arrangement.placements.count).toBe(13);
  arrangement.placements.s.forEach((s, i) => expect(s).toBeCloseTo(0.75 * i, 9));
  const before = materialOf(scene, 0.6, new Evaluator(ASSETS));
  before.forEach((p, i) => expect(distance(p, [-3 + 0.5 * i, 0, 0.3])).toBeLessThan(1e-8));
});

test.each([
  { what: 'iso', along: 'v', from: 0.3, to: 0.7, count: 2 },
  { what: 'borders' },
  { what: 'edges', angleDeg: 12 },
])('slots along lines taken from a mesh stay on their material too: $what', (take) => {
  const line = pathSchema.parse({
    id: 'line',
    name: 'Line',
    source: { kind: 'mesh', surface: 'sheet', take },
  });
  const run = stitches({ mode: 'pitch', pitch: 0.4, leftover: 'end' });
  run.facing = { ...run.facing, posture: 'slope' };
  const bend = deformerSchema.parse({
    id: 'b',
    kind: 'wave',
    axis: 'x',
    height: 0.5,
    length: 5,
    speed: 3,
    push: 'y',
  });
  const scene = sceneOf(surface(HILLS, { deformers: [bend] }), line, run);
  const evaluator = new Evaluator(ASSETS);
  const before = materialOf(scene, 0, evaluator);
  expect(before.length).toBeGreaterThan(20);
  for (const time of [0.4, 1.1]) {
    const now = materialOf(scene, time, evaluator);
    expect(now).toHaveLength(before.length);
    // The surface as it moves is kept in single numbers.
    now.forEach((p, i) => expect(distance(p, before[i])).toBeLessThan(2e-5));
  }
});
