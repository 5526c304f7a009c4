import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import type { Placements } from '../result';
import { Evaluator } from '../../evaluate/scene';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newPath, newProp, newRun, newSurface } from '../../scene/defaults';
import { pathSchema } from '../../curve/schema';
import { points } from '../../testing/paths';
import { volumeOf } from '../../testing/meshes';
import { ASSETS } from '../../testing/scene';
import type { Run } from '../run/schema';
import { slotName } from '../slotId';

/** Boxes of 0.4 × 0.6 × 0.5 bent along corner paths. */
function bent(corners: Vec3[], change: (r: Run) => void): Placements {
  const run = newRun('r', 'R', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.facing = { ...run.facing, bend: true };
  change(run);
  const scene = {
    ...emptyScene('Bent'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    paths: [newPath('line', 'Line', points('corner', corners))],
    arrangements: [run],
  };
  return new Evaluator(ASSETS).evaluate(scene).arrangements[0].placements;
}

/** Vertices of a row's shape in the scene, those of its faces only. */
function vertices(p: Placements, row: number): Vec3[] {
  const { positions, indices } = p.bent![p.shape![row]];
  const q = [...p.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
  return [...new Set(indices)].map((v) => {
    const at = quatRotate(q, [...positions.subarray(v * 3, v * 3 + 3)] as Vec3);
    return at.map((x, a) => x + p.position[row * 3 + a]) as Vec3;
  });
}

function volume({ bent: shapes, shape }: Placements, row: number): number {
  const { positions, indices } = shapes![shape![row]];
  return volumeOf(positions, indices);
}

test.each([1, -1])(
  'mitred over a right angle it keeps its volume, and no vertex crosses the mitre (%i)',
  (way) => {
    const p = bent(
      [
        [-5, 0, 0],
        [0, 0, 0],
        [0, 0, 5 * way],
      ],
      (r) => {
        r.spacing = { ...r.spacing, mode: 'count', count: 1, ends: 'half' };
        r.facing = { ...r.facing, corners: 'mitre', size: 4 };
      },
    );
    // One box of 2 m in the middle of the path: over the corner.
    expect(volume(p, 0)).toBeCloseTo(0.4 * 0.6 * 0.5 * 64, 3);
    const off = vertices(p, 0).filter(([x, , z]) => {
      // It runs in along X and out along Z: within 0.8 m of either leg.
      const onFirst = Math.abs(z) <= 0.8 + 1e-6 && x <= 0.8 + 1e-6;
      const onSecond = Math.abs(x) <= 0.8 + 1e-6 && z * way >= -0.8 - 1e-6;
      return !onFirst && !onSecond;
    });
    expect(off).toEqual([]);
    const tips = vertices(p, 0).filter(
      ([x, , z]) => Math.abs(x - 0.8) < 1e-5 && Math.abs(z * way + 0.8) < 1e-5,
    );
    expect(tips.length).toBeGreaterThan(0);
  },
);

test('what is left at an open end is filled with one that is cut off there', () => {
  const line: Vec3[] = [
    [0, 0, 0],
    [0, 0, 3.3],
  ];
  const lay = (fill: boolean) =>
    bent(line, (r) => {
      r.spacing = { ...r.spacing, mode: 'touch', leftover: 'end' };
      r.facing = { ...r.facing, fill };
    });
  expect(lay(false).count).toBe(6);
  const p = lay(true);
  expect(p.count).toBe(7);
  expect(p.state[6]).toBe(0);
  const z = vertices(p, 6).map((v) => v[2]);
  expect(Math.min(...z)).toBeCloseTo(3, 6);
  expect(Math.max(...z)).toBeCloseTo(3.3, 6);
  // Cut and closed again.
  expect(volume(p, 6)).toBeCloseTo(0.4 * 0.6 * 0.3, 6);
});

test('over a surface bent ones stand square to it: along a line round a ball every top is as far out', () => {
  const run = newRun('r', 'R', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.facing = { ...run.facing, bend: true, posture: 'surface', size: 0.5 };
  run.spacing = { ...run.spacing, mode: 'count', count: 6 };
  const scene = {
    ...emptyScene('Ball'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [
      newSurface('ball', 'Ball', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'sphere', radius: 2, columns: 96, rows: 64 }),
        color: '#D8CDB6',
      }),
    ],
    paths: [
      pathSchema.parse({
        id: 'line',
        name: 'Line',
        source: { kind: 'mesh', surface: 'ball', take: { what: 'iso', along: 'u', from: 0.3, to: 0.3 } },
      }),
    ],
    arrangements: [run],
  };
  const p = new Evaluator(ASSETS).evaluate(scene).arrangements[0].placements;
  let tops = 0;
  for (let i = 1; i < 5; i++)
    for (const [x, y, z] of vertices(p, i)) {
      const r = Math.hypot(x, y, z);
      // From the ball out to 0.3 m over it, and 0.1 m to both sides of the line.
      expect(r).toBeGreaterThan(2 - 0.01);
      expect(r).toBeLessThan(Math.hypot(2.3, 0.1) + 0.01);
      if (r > 2.29) tops++;
    }
  expect(tops).toBeGreaterThan(16);
});

test('one that a hand keeps rigid stands among bent ones, where it stood', () => {
  const corners: Vec3[] = [
    [0, 0, 0],
    [0, 0, 4],
    [3, 0, 7],
    [3, 0, 12],
  ];
  const touch = (r: Run) => (r.spacing = { ...r.spacing, mode: 'touch' });
  const all = bent(corners, touch);
  const is = (p: Placements, i: number) => (p.shape?.[i] ?? -1) >= 0;
  const i = Array.from({ length: all.count }, (_, k) => k).find((k) => is(all, k))!;
  const but = bent(corners, (r) => {
    touch(r);
    r.hand = { [slotName(all.slot[i])]: { bend: false } };
  });
  expect(is(but, i)).toBe(false);
  expect(but.position).toEqual(all.position);
  for (let k = 0; k < all.count; k++) if (k !== i) expect(is(but, k)).toBe(is(all, k));
});

test('what is bent is within its tolerance at its outer edge, not only on the path', () => {
  const tolerance = 0.002;
  const run = newRun('r', 'R', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 3, ends: 'half' };
  // Boxes 1.2 m wide, their outer edges at 1.1 m on a ring of half a metre.
  run.facing = { ...run.facing, bend: true, tolerance, size: 2 };
  run.variation = { ...run.variation, sizeX: [1.5, 1.5] };
  const ring = pathSchema.parse({
    id: 'line',
    name: 'Line',
    source: { kind: 'generator', generator: { shape: 'circle', radius: 0.5 } },
  });
  const p = new Evaluator(ASSETS).evaluate({
    ...emptyScene('Bent'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    paths: [ring],
    arrangements: [run],
  }).arrangements[0].placements;
  const { positions, indices } = p.bent![p.shape![0]];
  const q = [...p.rotation.subarray(0, 4)] as Quat;
  const at = (v: number): Vec3 => {
    const own = quatRotate(q, [positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]]);
    return own.map((x, a) => x + p.position[a]) as Vec3;
  };
  let edges = 0;
  for (let o = 0; o < indices.length; o++) {
    const [a, b] = [at(indices[o]), at(indices[o % 3 === 2 ? o - 2 : o + 1])];
    const [ra, rb] = [Math.hypot(a[0], a[2]), Math.hypot(b[0], b[2])];
    // Sides that run along the outer edge: their middle is where they are furthest off the true bend.
    if (Math.abs(ra - rb) > 1e-6 || ra < 1 || Math.abs(a[1] - b[1]) > 1e-6) continue;
    edges++;
    expect(ra - Math.hypot((a[0] + b[0]) / 2, (a[2] + b[2]) / 2)).toBeLessThan(tolerance);
  }
  expect(edges).toBeGreaterThan(8);
});
