import { distance, type Vec3 } from '../../math/vec3';
import type { Mesh } from '../mesh';
import { exampleMesh } from '../../testing/scene';
import { borders, edgeLoop, featureEdges } from './edges';
import { isoLines, uvRange } from './iso';
import type { MeshLine } from './topology';

/** A grid over u, v ∈ [0, 1], every triangle with vertices of its own, as files often have them. */
function grid(nu: number, nv: number, at: (u: number, v: number) => Vec3): Mesh {
  const positions: number[] = [];
  const uvs: number[] = [];
  const put = (i: number, j: number) => {
    positions.push(...at(i / nu, j / nv));
    uvs.push(i / nu, j / nv);
  };
  for (let i = 0; i < nu; i++)
    for (let j = 0; j < nv; j++)
      for (const [a, b] of [
        [0, 0],
        [1, 0],
        [1, 1],
        [0, 0],
        [1, 1],
        [0, 1],
      ])
        put(i + a, j + b);
  const count = positions.length / 3;
  return {
    ...exampleMesh(),
    positions: Float32Array.from(positions),
    normals: new Float32Array(count * 3).fill(1),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from({ length: count }, (_, i) => i),
    groups: [{ start: 0, count, material: 0 }],
  };
}
const flat = grid(6, 4, (u, v) => [u * 6, 0, -v * 4]);
const tube = grid(24, 5, (u, v) => [2 * Math.cos(2 * Math.PI * u), v * 5, -2 * Math.sin(2 * Math.PI * u)]);
const lengthOf = (l: MeshLine) =>
  l.points.reduce(
    (sum, p, i) =>
      sum + (i || l.closed ? distance(p, l.points[(i + l.points.length - 1) % l.points.length]) : 0),
    0,
  );

test('the border of a sheet is one loop; a tube has two, a closed box none', () => {
  const [ring, ...more] = borders(flat);
  expect(more).toHaveLength(0);
  expect(ring.closed).toBe(true);
  expect(lengthOf(ring)).toBeCloseTo(20, 5);
  const rims = borders(tube);
  expect(rims).toHaveLength(2);
  for (const rim of rims) {
    expect(rim.closed).toBe(true);
    expect(rim.points).toHaveLength(24);
    expect(new Set(rim.points.map((p) => p[1].toFixed(5))).size).toBe(1);
  }
  expect(borders(exampleMesh())).toHaveLength(0);
});

test('a border runs with its face on the left', () => {
  const [ring] = borders(flat);
  // The faces look up: counter-clockwise seen from above is a positive area in (x, −z).
  let area = 0;
  ring.points.forEach((p, i) => {
    const q = ring.points[(i + 1) % ring.points.length];
    area += p[0] * -q[2] - q[0] * -p[2];
  });
  expect(area / 2).toBeCloseTo(24, 4);
});

test('feature edges are those where faces turn by more than the angle', () => {
  const box = featureEdges(exampleMesh(), (40 * Math.PI) / 180);
  expect(box.reduce((sum, l) => sum + lengthOf(l), 0)).toBeCloseTo(4 * (0.4 + 0.6 + 0.5), 5);
  expect(featureEdges(flat, 0.1).reduce((sum, l) => sum + lengthOf(l), 0)).toBeCloseTo(20, 5);
  // A tube of 24 sides turns by 15° at each: below the angle only its rims are left.
  expect(featureEdges(tube, 0.3)).toHaveLength(2);
});

test('an edge loop goes straight on from the picked edge, round a tube or across a sheet', () => {
  const ring = edgeLoop(tube, [2 * Math.cos(0.13), 2, -2 * Math.sin(0.13)])!;
  expect(ring.closed).toBe(true);
  expect(ring.points).toHaveLength(24);
  for (const p of ring.points) expect(p[1]).toBeCloseTo(2, 5);
  const across = edgeLoop(flat, [2.5, 0, -2])!;
  expect(across.closed).toBe(false);
  expect(lengthOf(across)).toBeCloseTo(6, 5);
  for (const p of across.points) expect(p[2]).toBeCloseTo(-2, 6);
});

test('iso lines: at their coordinate, towards rising values of the other, whole over the seam', () => {
  const [[up]] = isoLines(tube, 'u', [0.3]);
  expect(up.closed).toBe(false);
  expect(up.points[0][1]).toBeCloseTo(0, 5);
  expect(up.points.at(-1)![1]).toBeCloseTo(5, 5);
  const rings = isoLines(tube, 'v', [0.2, 0.5, 0.83]);
  rings.forEach(([ring, ...more], i) => {
    expect(more).toHaveLength(0);
    expect(ring.closed).toBe(true);
    for (const p of ring.points) expect(p[1]).toBeCloseTo([1, 2.5, 4.15][i], 4);
    // Crossings at all 24 columns and 24 diagonals, the seam's once.
    expect(ring.points.length).toBeLessThanOrEqual(48);
    expect(lengthOf(ring)).toBeCloseTo(48 * 2 * Math.sin(Math.PI / 24), 2);
  });
  // At the very edge of the uv there is a line, not nothing.
  expect(isoLines(flat, 'v', [0, 1]).map((l) => l.length)).toEqual([1, 1]);
  expect(uvRange(flat, 0)).toEqual([0, 1]);
});
