import { circlePoints, compiled, points } from '../../testing/paths';
import type { CompiledPath } from '../../curve/compile';
import type { Mesh } from '../mesh';
import { makeMesh } from './index';
import { shapeSchema } from './schema';

const PATHS: Record<string, CompiledPath> = {
  ring: compiled(circlePoints(2, 16), true),
  profile: compiled(
    points('corner', [
      [1, 0, 0],
      [2, 3, 0],
    ]),
  ),
  low: compiled(
    points('corner', [
      [-2, 0, 0],
      [2, 0, 0],
    ]),
  ),
  top: compiled(
    points('corner', [
      [-2, 4, 0],
      [2, 4, 0],
    ]),
  ),
  high: compiled(
    points('corner', [
      [-2, 2, -1],
      [2, 2, -1],
    ]),
  ),
};
const make = (settings: object): Mesh => {
  const made = makeMesh(shapeSchema.parse(settings), '#D8CDB6', {
    path: (id) => PATHS[id],
  });
  if (typeof made === 'string') throw new Error(made);
  return made;
};
const vertices = (m: Mesh) =>
  Array.from({ length: m.positions.length / 3 }, (_, i) => [...m.positions.subarray(i * 3, i * 3 + 3)]);
const normals = (m: Mesh) =>
  Array.from({ length: m.normals.length / 3 }, (_, i) => [...m.normals.subarray(i * 3, i * 3 + 3)]);

/** Volume inside a closed mesh whose faces look outside; area as its second value. */
function measure({ positions: p, indices }: Mesh): [number, number] {
  let volume = 0;
  let area = 0;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => [...p.subarray(indices[i + k] * 3, indices[i + k] * 3 + 3)]);
    const e = b.map((v, k) => v - a[k]);
    const f = c.map((v, k) => v - a[k]);
    const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
    volume += (a[0] * n[0] + a[1] * n[1] + a[2] * n[2]) / 6;
    area += Math.hypot(...n) / 2;
  }
  return [volume, area];
}

test('closed shapes hold the volume of their closed forms, faces outside', () => {
  const sphere = measure(make({ shape: 'sphere', radius: 2, columns: 200, rows: 100 }));
  expect(sphere[0] / ((4 / 3) * Math.PI * 8)).toBeCloseTo(1, 3);
  const torus = measure(make({ shape: 'torus', radius: 3, thickness: 0.5, columns: 200, rows: 160 }));
  expect(torus[0] / (2 * Math.PI * Math.PI * 3 * 0.25)).toBeCloseTo(1, 3);
  const [w, h, d, r] = [4, 2, 3, 0.3];
  const box = measure(make({ shape: 'box', width: w, height: h, depth: d, fillet: r, cells: 40 }));
  const [a, b, c] = [w - 2 * r, h - 2 * r, d - 2 * r];
  const rounded =
    a * b * c + 2 * r * (a * b + b * c + c * a) + Math.PI * r * r * (a + b + c) + (4 / 3) * Math.PI * r ** 3;
  expect(box[0] / rounded).toBeCloseTo(1, 3);
  const sharp = measure(make({ shape: 'box', width: w, height: h, depth: d, fillet: 0, cells: 2 }));
  expect(sharp).toEqual([expect.closeTo(w * h * d, 5), expect.closeTo(2 * (w * h + h * d + d * w), 5)]);
  const tube = measure(make({ shape: 'tube', path: 'ring', radius: 0.4, columns: 160, rows: 200 }));
  expect(tube[0] / (2 * Math.PI * Math.PI * 2 * 0.16)).toBeCloseTo(1, 3);
});

test('a turned profile is its cone, a loft runs from path to path', () => {
  const cone = make({ shape: 'turned', path: 'profile', columns: 60, rows: 12 });
  for (const [x, y, z] of vertices(cone)) expect(Math.hypot(x, z)).toBeCloseTo(1 + y / 3, 5);
  const skin = make({ shape: 'loft', paths: ['low', 'high'], columns: 8, rows: 4 });
  for (const [x, y, z] of vertices(skin)) {
    expect(z).toBeCloseTo(-y / 2, 6);
    expect(Math.abs(x)).toBeLessThanOrEqual(2);
  }
  expect(measure(skin)[1]).toBeCloseTo(4 * Math.hypot(2, 1), 5);
});

test('hills depend on their seed alone', () => {
  const a = make({ shape: 'hills', seed: 3 });
  expect(make({ shape: 'hills', seed: 3 }).positions.join()).toBe(a.positions.join());
  expect(make({ shape: 'hills', seed: 4 }).positions.join()).not.toBe(a.positions.join());
  const finer = make({ shape: 'hills', seed: 3, columns: 128, rows: 128 });
  const height = (m: Mesh) => new Map(vertices(m).map(([x, y, z]) => [`${x} ${z}`, y]));
  const fine = height(finer);
  expect([...height(a)].filter(([at, y]) => fine.get(at) !== y)).toEqual([]);
});

test('every made surface has unit normals on the side of its faces, and texture coordinates from 0 to 1', () => {
  for (const shape of [
    { shape: 'plane' },
    { shape: 'hills' },
    { shape: 'sphere' },
    { shape: 'torus' },
    { shape: 'box' },
    { shape: 'tube', path: 'ring' },
    { shape: 'turned', path: 'profile' },
    { shape: 'loft', paths: ['low', 'high', 'top'] },
  ]) {
    const m = make(shape);
    expect(Math.max(...normals(m).map((n) => Math.abs(Math.hypot(...n) - 1)))).toBeLessThan(5e-6);
    expect(Math.min(...m.uvs!)).toBe(0);
    expect(Math.max(...m.uvs!)).toBe(1);
    const p = m.positions;
    let wrong = 0;
    for (let i = 0; i < m.indices.length; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => m.indices[i + k] * 3);
      const e = [0, 1, 2].map((k) => p[b + k] - p[a + k]);
      const f = [0, 1, 2].map((k) => p[c + k] - p[a + k]);
      const n = [e[1] * f[2] - e[2] * f[1], e[2] * f[0] - e[0] * f[2], e[0] * f[1] - e[1] * f[0]];
      if (
        Math.hypot(...n) > 1e-9 &&
        n[0] * m.normals[a] + n[1] * m.normals[a + 1] + n[2] * m.normals[a + 2] < 0
      )
        wrong++;
    }
    expect(wrong).toBe(0);
  }
});

test('what is missing is named', () => {
  const problem = (settings: object) =>
    makeMesh(shapeSchema.parse(settings), '#000000', { path: () => undefined });
  expect(problem({ shape: 'tube', path: 'gone' })).toBe('surface-path-missing');
  expect(problem({ shape: 'loft', paths: [] })).toBe('surface-too-few-paths');
});
