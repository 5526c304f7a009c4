import { flatLines } from '../arrange/sheet/lines';
import { sheetSchema } from '../arrange/sheet/schema';
import { shapeSchema } from '../mesh/make/schema';
import { emptyScene, newEntry, newProp, newRun, newSurface } from '../scene/defaults';
import { pathSchema } from '../curve/schema';
import type { Scene } from '../scene/schema';
import { ASSETS } from '../testing/scene';
import { Evaluator } from './scene';

/** Lines of a sheet's layout on a ball of 2 m, where their places are known. */

const made = (shape: object) => ({
  source: 'made' as const,
  shape: shapeSchema.parse(shape),
  color: '#D8CDB6',
});

function scene(sheet: object): Scene {
  const run = newRun('run', 'Run', 'woad', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.facing = { ...run.facing, posture: 'surface' };
  run.spacing = { ...run.spacing, mode: 'count', count: 9 };
  return {
    ...emptyScene('Lines'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [
      newSurface('ball', 'Ball', made({ shape: 'sphere', radius: 2, columns: 96, rows: 64 })),
      newSurface('tubes', 'Tubes', made({ shape: 'tube', path: 'line', radius: 0.05, columns: 6, rows: 12 })),
    ],
    paths: [pathSchema.parse({ id: 'line', name: 'Line', source: { kind: 'sheet', sheet: 'sheet' } })],
    arrangements: [
      run,
      sheetSchema.parse({ id: 'sheet', kind: 'sheet', name: 'S', thread: 'moss', surface: 'ball', ...sheet }),
    ],
  };
}

const around = 2 * Math.PI * 2;

test('a straight line across at mid height is the equator, closed forms and all; a run stands square to the ball', () => {
  // The layout is as wide as the equator and as high as half the round: 12.57 × 6.28 m.
  const curve = {
    id: 'c',
    points: [
      [1, around / 4],
      [7, around / 4],
    ],
  };
  const result = new Evaluator(ASSETS).evaluate(scene({ grid: { on: false }, curves: [curve] }));
  const [path] = result.paths;
  if (!path.ok) throw new Error('broken');
  expect(path.length).toBeCloseTo(6, 1);
  for (let i = 0; i < path.strokes[0].position.length; i += 3) {
    const [x, y, z] = path.strokes[0].position.subarray(i, i + 3);
    expect(Math.hypot(x, z)).toBeCloseTo(2, 2);
    expect(Math.abs(y)).toBeLessThan(1e-3);
  }
  const { position, rotation, count } = result.arrangements[0].placements;
  expect(count).toBe(9);
  for (let i = 0; i < count; i++) {
    const [qx, qy, qz, qw] = rotation.subarray(i * 4, i * 4 + 4);
    const up = [2 * (qx * qy - qw * qz), 1 - 2 * (qx * qx + qz * qz), 2 * (qy * qz + qw * qx)];
    const out = position.subarray(i * 3, i * 3 + 3);
    expect((up[0] * out[0] + up[1] * out[1] + up[2] * out[2]) / 2).toBeCloseTo(1, 2);
  }
});

test('a line in every cell is as many strokes, each a tube; the surface turned and moved takes them along', () => {
  const curve = {
    id: 'c',
    points: [
      [0.2, 0.2],
      [0.8, 0.8],
    ],
  };
  const base = scene({ grid: { columns: 5, rows: 3, bottom: 1.5, top: 1.5 }, curves: [curve], repeat: true });
  base.arrangements.shift();
  const evaluator = new Evaluator(ASSETS);
  const { paths, surfaces } = evaluator.evaluate(base);
  expect(paths[0].strokes).toHaveLength(15);
  expect(surfaces[1].mesh!.indices.length / 3).toBeGreaterThanOrEqual(15 * 6 * 2 * 2);
  const turned: Scene = {
    ...base,
    surfaces: [{ ...base.surfaces[0], position: [3, 1, 0], turnDeg: 90 }, base.surfaces[1]],
  };
  const after = evaluator.evaluate(turned).paths[0].strokes[7].position;
  const before = paths[0].strokes[7].position;
  // A quarter turn about Y takes X to −Z and Z to X.
  for (let i = 0; i < before.length; i += 3) {
    expect(after[i]).toBeCloseTo(before[i + 2] + 3, 6);
    expect(after[i + 1]).toBeCloseTo(before[i + 1] + 1, 6);
    expect(after[i + 2]).toBeCloseTo(-before[i], 6);
  }
});

test('a sheet that is gone, or without lines, is said', () => {
  const lost = scene({ curves: [] });
  const kinds = (s: Scene) => new Evaluator(ASSETS).evaluate(s).paths[0].findings.map((f) => f.kind);
  expect(kinds(lost)).toEqual(['path-too-few-points']);
  expect(kinds({ ...lost, arrangements: [] })).toEqual(['path-base-missing']);
});

test('a smooth line runs in the flat layout as it does on the surface, repeated too', () => {
  const points = [
    [0.1, 0.2],
    [0.5, 0.9],
    [0.9, 0.3],
    [0.4, 0.1],
  ];
  const floor = (sheet: object) => {
    const base = scene({ ...sheet, match: { guess: false } });
    base.surfaces = [newSurface('ball', 'Floor', made({ shape: 'plane', width: 8, depth: 4 }))];
    base.arrangements = [base.arrangements[1]];
    const { paths, arrangements } = new Evaluator(ASSETS).evaluate(base);
    return { path: paths[0].strokes[0].position, line: arrangements[0].sheet!.lines[0] };
  };
  const off = (path: Float64Array, x: number, z: number) => {
    let least = Infinity;
    for (let i = 0; i + 5 < path.length; i += 3) {
      const [ax, az, bx, bz] = [path[i], path[i + 2], path[i + 3], path[i + 5]];
      const [dx, dz] = [bx - ax, bz - az];
      const t = Math.min(1, Math.max(0, ((x - ax) * dx + (z - az) * dz) / (dx * dx + dz * dz || 1)));
      least = Math.min(least, Math.hypot(x - ax - t * dx, z - az - t * dz));
    }
    return least;
  };
  const cases = [
    {
      sheet: { grid: { on: false }, curves: [{ id: 'c', points, smooth: true, closed: true }] },
      cell: [1, 1],
    },
    {
      sheet: { grid: { columns: 2, rows: 4 }, repeat: true, curves: [{ id: 'c', points, smooth: true }] },
      cell: [4, 1],
    },
  ];
  for (const { sheet, cell } of cases) {
    const { path, line } = floor(sheet);
    expect(line.length).toBeGreaterThan(20);
    // The first cell begins at the layout's lower left corner, as the layout itself does. Both are in short pieces.
    const most = (places: ArrayLike<number>) => {
      let far = 0;
      for (let i = 0; i < places.length; i += 2)
        far = Math.max(far, off(path, places[i] * cell[0] - 4, 2 - places[i + 1] * cell[1]));
      return far;
    };
    expect(most(line)).toBeLessThan(0.006);
    // Were the shares themselves made smooth, it would be another line.
    const curve = { ...sheet.curves[0], name: 'c', points: points as [number, number][], closed: false };
    if (cell[0] > 1) expect(most(flatLines([curve], [1, 1])[0])).toBeGreaterThan(0.03);
  }
});

test('lines come out as if nothing had been laid before: the ball rolled over, moved, grown, and its layout changed', () => {
  const curve = {
    id: 'c',
    points: [
      [0.2, 0.3],
      [0.8, 0.6],
    ],
  };
  const evaluator = new Evaluator(ASSETS);
  let now = scene({ grid: { columns: 4, rows: 3 }, curves: [curve], repeat: true });
  const surface = (values: object) => {
    now = { ...now, surfaces: [{ ...now.surfaces[0], ...values }, now.surfaces[1]] };
  };
  const sheet = (values: object) => {
    now = { ...now, arrangements: [now.arrangements[0], { ...now.arrangements[1], ...values } as never] };
  };
  const changes = [
    () => surface({ rollDeg: 180 }),
    () => surface({ position: [3, 1, 0] }),
    () => surface({ rollDeg: 0, size: 1.5 }),
    () => sheet({ width: 9 }),
    () => sheet({ repeat: false }),
  ];
  for (const change of [() => undefined, ...changes]) {
    change();
    const kept = evaluator.evaluate(now).paths[0];
    const fresh = new Evaluator(ASSETS).evaluate(structuredClone(now)).paths[0];
    expect(kept.ok).toBe(true);
    expect(kept.strokes).toEqual(fresh.strokes);
  }
});
