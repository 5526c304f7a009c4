import type { CompiledPath } from '../../curve/compile';
import type { Vec3 } from '../../math/vec3';
import { volumeOf } from '../../testing/meshes';
import { circlePoints, compiled, points } from '../../testing/paths';
import { triMeshOf } from '../../testing/surfaces';
import { RATE } from '../frames';
import { topologyOf } from '../lines/topology';
import { makeMesh } from '../make';
import { shapeSchema } from '../make/schema';
import type { Mesh } from '../mesh';
import { Rod, type RodSpec } from './rod';
import { ringsOf } from './rings';

/** Tubes that sag, against closed forms and brute force over their meshes and middles. */

const R = 0.05;
const COLUMNS = 12;

function meshOf(shape: object, path?: CompiledPath): Mesh {
  const made = makeMesh(shapeSchema.parse({ path: 'p', ...shape }), '#D8CDB6', { path: () => path });
  if (typeof made === 'string') throw new Error(made);
  return made;
}
const tube = (path: CompiledPath, rows: number, more: object = {}) =>
  meshOf({ shape: 'tube', radius: R, columns: COLUMNS, rows, ...more }, path);
const line = (...at: Vec3[]) => compiled(points('corner', at));

function specOf(mesh: Mesh, more: Partial<RodSpec> = {}): [RodSpec, Mesh] {
  const topology = topologyOf(mesh);
  const spec = {
    start: topology.position.slice(),
    topology,
    indices: mesh.indices,
    seconds: 6,
    onto: [],
    holdStart: false,
    holdEnd: false,
    soft: 0,
    sticks: false,
    friction: 0.5,
    itself: false,
    stiffness: 0,
    gravity: 9.81,
    drag: 0,
    ...more,
  };
  return [spec, mesh];
}
const rodOf = ([spec, mesh]: ReturnType<typeof specOf>) => new Rod(spec, ringsOf(mesh.uvs!, spec.topology)!);
const at = (rod: Rod, time: number): Float64Array => {
  const out = new Float64Array(rod['spec'].start.length);
  rod.at(time, out);
  return out;
};
/** The middle of each ring: the mean of its vertices. */
function middlesOf(p: Float64Array): Vec3[] {
  return Array.from(
    { length: p.length / 3 / COLUMNS },
    (_, k) =>
      [0, 1, 2].map(
        (a) =>
          Array.from({ length: COLUMNS }, (__, i) => p[(k * COLUMNS + i) * 3 + a]).reduce((s, x) => s + x) /
          COLUMNS,
      ) as Vec3,
  );
}
const far = (a: readonly number[], b: readonly number[]) => Math.hypot(...a.map((x, k) => x - b[k]));
/** The volume between rings, each closed towards its middle: by brute force over all faces. */
function volumeBetween(mesh: Mesh, p: Float64Array): number {
  const { weld } = topologyOf(mesh);
  const middles = middlesOf(p);
  const [first, last] = [middles[0], middles[middles.length - 1]];
  const all = [...p, ...first, ...last];
  const n = p.length / 3;
  const ring = (k: number) => Array.from({ length: COLUMNS }, (_, i) => k * COLUMNS + i);
  const cap = (k: number, to: number, turn: boolean) =>
    ring(k).flatMap((v, i, list) =>
      turn ? [to, list[(i + 1) % COLUMNS], v] : [to, v, list[(i + 1) % COLUMNS]],
    );
  const faces = Array.from(mesh.indices, (v) => weld[v]);
  const sides = [false, true].map((turn) =>
    volumeOf(all, [...faces, ...cap(0, n, turn), ...cap(middles.length - 1, n + 1, !turn)]),
  );
  // Whichever way the caps look, the one that closes it does not hang on where the origin is.
  const moved = all.map((x) => x + 1000);
  const other = [false, true].map((turn) =>
    volumeOf(moved, [...faces, ...cap(0, n, turn), ...cap(middles.length - 1, n + 1, !turn)]),
  );
  return Math.abs(sides[0] - other[0]) < Math.abs(sides[1] - other[1]) ? sides[0] : sides[1];
}
const floor = (slopeDeg = 0) => {
  const a = (slopeDeg * Math.PI) / 180;
  return triMeshOf(
    { shape: 'plane', width: 40, depth: 40, columns: 2, rows: 2 },
    ([x, , z]) => [x, -Math.sin(a) * x, z].map((v, k) => (k === 0 ? x * Math.cos(a) : v)) as Vec3,
  );
};

test('let go it falls as a stone does', () => {
  const rod = rodOf(specOf(tube(line([-1, 0, 0], [1, 0, 0]), 20)));
  const h = 1 / RATE / 12;
  for (const time of [0.5, 1]) {
    const fallen = (9.81 * time * (time + h)) / 2;
    for (const [, y] of middlesOf(at(rod, time))) expect(Math.abs(y + fallen)).toBeLessThan(1e-4 * fallen);
  }
});

test.each([0, 0.25, 0.6])('on flat ground its own weight flattens it by %d, and its volume stays', (soft) => {
  const mesh = tube(line([-1, 0.2, 0], [0, 0.2, 0.4], [1, 0.2, 0]), 40);
  const rod = rodOf(specOf(mesh, { onto: [floor()], soft, drag: 4 }));
  const before = topologyOf(mesh).position;
  for (const time of [0.1, 0.4, 6]) {
    const p = at(rod, time);
    expect(Math.abs(volumeBetween(mesh, p) / volumeBetween(mesh, before) - 1)).toBeLessThan(1e-4);
  }
  const p = at(rod, 6);
  for (const [, y] of middlesOf(p)) expect(Math.abs(y - R * (1 - soft))).toBeLessThan(0.01 * R);
  // Nothing of it is in the ground, and it is as wide as what it lost in height.
  const ys = Array.from({ length: p.length / 3 }, (_, i) => p[i * 3 + 1]);
  expect(Math.min(...ys)).toBeGreaterThan(-0.02 * R);
  expect(Math.abs(Math.max(...ys) - 2 * R * (1 - soft))).toBeLessThan(0.04 * R);
});

test('on a slope it stays where its friction is greater than the slope, else it slides as Coulomb says', () => {
  const slope = 30;
  const [s, c] = [Math.sin(Math.PI / 6), Math.cos(Math.PI / 6)];
  // Along the slope’s level lines, just touching it.
  const on: Vec3 = [s * R, c * R, 0];
  const mesh = tube(line([on[0], on[1], -0.5], [on[0], on[1], 0.5]), 12);
  for (const friction of [0.2, 0.8]) {
    const rod = rodOf(specOf(mesh, { onto: [floor(slope)], friction, seconds: 2 }));
    const a = Math.max(0, 9.81 * (s - friction * c));
    for (const time of [0.5, 1, 1.5]) {
      const [x, y] = middlesOf(at(rod, time))[5];
      const gone = (x - on[0]) * c - (y - on[1]) * s;
      expect(Math.abs(gone - (a * time * time) / 2)).toBeLessThan(0.01 + 0.02 * ((a * time * time) / 2));
    }
  }
});

test('what sticks stays on a steep slope, and slides at once where it does not', () => {
  const mesh = tube(line([0.05, 0.2, -0.5], [0.05, 0.2, 0.5]), 12);
  const ends = [true, false].map((sticks) => {
    const rod = rodOf(specOf(mesh, { onto: [floor(60)], sticks, friction: 0, seconds: 3, drag: 1 }));
    return far(middlesOf(at(rod, 1))[6], middlesOf(at(rod, 3))[6]);
  });
  expect(ends[0]).toBeLessThan(0.1 * R);
  expect(ends[1]).toBeGreaterThan(1);
});

test('straight between two holds it stays as good as straight, as long as it was', () => {
  const rod = rodOf(
    specOf(tube(line([-3, 0, 0], [3, 0, 0]), 120), { holdStart: true, holdEnd: true, drag: 4 }),
  );
  for (const time of [1, 4]) {
    const m = middlesOf(at(rod, time));
    const long = m.slice(1).reduce((sum, p, i) => sum + far(p, m[i]), 0);
    expect(Math.abs(long / 6 - 1)).toBeLessThan(2e-4);
    for (const [, y] of m) expect(Math.abs(y)).toBeLessThan(0.06);
  }
});

test('several tubes of one mesh fall each as it does alone', () => {
  const strokes = [line([-1, 0.4, 0], [1, 0.6, 0]), line([-1, 0.3, 2], [1, 0.2, 2.5])];
  const both = makeMesh(
    shapeSchema.parse({ shape: 'tube', path: 'p', radius: R, columns: COLUMNS, rows: 24 }),
    '#D8CDB6',
    { path: () => strokes[0], strokes: () => strokes },
  ) as Mesh;
  const more = { onto: [floor()], soft: 0.2, drag: 3, stiffness: 0.2 };
  const together = middlesOf(at(rodOf(specOf(both, more)), 2));
  let first = 0;
  for (const stroke of strokes) {
    const rows = first === 0 ? 24 : together.length - first - 1;
    const alone = middlesOf(at(rodOf(specOf(tube(stroke, rows), more)), 2));
    alone.forEach((p, k) => expect(far(p, together[first + k])).toBeLessThan(1e-4));
    first += alone.length;
  }
  expect(first).toBe(together.length);
});

test('held at both ends it hangs in a catenary of its length', () => {
  // A zigzag that is longer than the way between its ends.
  const path = line([-1, 0, 0], [0, 0.75, 0], [1, 0, 0]);
  const rod = rodOf(specOf(tube(path, 60), { holdStart: true, holdEnd: true, drag: 2, seconds: 10 }));
  const m = middlesOf(at(rod, 10));
  expect(far(m[0], [-1, 0, 0])).toBeLessThan(1e-6);
  expect(far(m[60], [1, 0, 0])).toBeLessThan(1e-6);
  const long = (list: Vec3[]) => list.slice(1).reduce((sum, p, i) => sum + far(p, list[i]), 0);
  const before = long(middlesOf(rod['spec'].start));
  expect(Math.abs(long(m) / before - 1)).toBeLessThan(2e-3);
  // 2 a sinh(1 / a) = length; it hangs a (cosh(1 / a) − 1) down.
  let [low, high] = [0.1, 100];
  for (let i = 0; i < 200; i++) {
    const a = (low + high) / 2;
    if (2 * a * Math.sinh(1 / a) > before) low = a;
    else high = a;
  }
  const depth = low * (Math.cosh(1 / low) - 1);
  expect(Math.abs(-Math.min(...m.map(([, y]) => y)) / depth - 1)).toBeLessThan(0.01);
});

test('a coil let down lies on itself: no stretch of it nearer to another than both are thick', () => {
  const coil = compiled(
    points(
      'smooth',
      Array.from({ length: 49 }, (_, i): Vec3 => {
        const a = (i * Math.PI) / 6;
        return [0.3 * Math.cos(a), 0.1 + i * 0.012, 0.3 * Math.sin(a)];
      }),
    ),
  );
  const mesh = tube(coil, 160);
  const rod = rodOf(
    specOf(mesh, {
      onto: [floor()],
      itself: true,
      soft: 0,
      friction: 0.6,
      drag: 3,
      stiffness: 0.1,
      seconds: 4,
    }),
  );
  for (const time of [0.3, 1, 4]) {
    const m = middlesOf(at(rod, time));
    let least = Infinity;
    for (let i = 0; i < m.length; i++)
      for (let j = 0; j < i; j++) {
        // Neighbours along the tube are near by nature.
        if ((i - j) * (coil.length / 160) < 5 * R) continue;
        least = Math.min(least, far(m[i], m[j]));
      }
    expect(least).toBeGreaterThan(2 * R * 0.95);
    expect(Math.min(...m.map(([, y]) => y))).toBeGreaterThan(R * 0.95);
  }
  // It has come down: four turns on each other are eight radii high at the most, not the half metre that they were.
  const m = middlesOf(at(rod, 4));
  expect(Math.max(...m.map(([, y]) => y))).toBeLessThan(0.1 + 48 * 0.012 - 0.1);
});

test('a closed ring falls flat, whole, with the volume that it had; a time has one shape however it is come to', () => {
  const ring = compiled(
    circlePoints(0.5, 12, 0.3).map((p, i) => ({
      ...p,
      position: [p.position[0], 0.3 + 0.05 * (i % 3), p.position[2]] as Vec3,
    })),
    true,
  );
  const mesh = tube(ring, 48);
  const spec = specOf(mesh, { onto: [floor()], soft: 0.3, drag: 3, itself: true });
  const [one, other] = [rodOf(spec), rodOf(spec)];
  const late = at(one, 3);
  for (const time of [0.2, 3, 1.3, 0.7]) expect(at(other, time)).toEqual(at(one, time));
  expect(at(other, 3)).toEqual(late);
  const { weld } = topologyOf(mesh);
  const volume = (p: ArrayLike<number>) =>
    volumeOf(
      p,
      Array.from(mesh.indices, (v) => weld[v]),
    );
  expect(Math.abs(volume(late) / volume(spec[0].start) - 1)).toBeLessThan(1e-4);
  const ys = Array.from({ length: late.length / 3 }, (_, i) => late[i * 3 + 1]);
  expect(Math.max(...ys)).toBeLessThan(2 * R);
});

test('a closed ring that is held at its beginning hangs from there', () => {
  const ring = compiled(circlePoints(0.5, 12, 0.3), true);
  const rod = rodOf(specOf(tube(ring, 48), { holdStart: true, drag: 2, itself: true }));
  const [before, after] = [0, 6].map((time) => middlesOf(at(rod, time)));
  expect(far(after[0], before[0])).toBeLessThan(1e-6);
  // Half of its way round below it, pressed together no nearer than both sides are thick.
  const low = Math.min(...after.map(([, y]) => y));
  expect(before[0][1] - low).toBeGreaterThan(1.3);
  expect(before[0][1] - low).toBeLessThan(Math.PI * 0.5 + R);
});

test.each([{ shape: 'plane' }, { shape: 'strip', path: 'p' }, { shape: 'box' }])(
  '$shape has no tubes',
  (shape) => {
    const mesh = meshOf(shape, line([0, 0, 0], [1, 0, 0]));
    expect(ringsOf(mesh.uvs!, topologyOf(mesh))).toBeNull();
  },
);
