import { boxMesh, madeMesh, placedAt as at } from '../../testing/bodies';
import type { Mesh } from '../mesh';
import { dustSchema } from './dustSchema';
import { dustSheet } from './dustSheet';
import { keptAway, Highest } from './heights';
import { softened } from './soft';

const spec = (settings: object) => dustSchema.parse({ source: 'dust', ...settings });
const BALL = madeMesh({ shape: 'sphere', radius: 1, columns: 48, rows: 24 });
const BOX = boxMesh(2, 1, 2);

/** The height of a sheet over a place: along the two triangles of its square. */
function heightAt(sheet: Mesh, x: number, z: number): number {
  const { positions: p, indices } = sheet;
  for (let i = 0; i < indices.length; i += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[i + k] * 3);
    const area = (p[b] - p[a]) * (p[c + 2] - p[a + 2]) - (p[c] - p[a]) * (p[b + 2] - p[a + 2]);
    const s = ((x - p[a]) * (p[c + 2] - p[a + 2]) - (p[c] - p[a]) * (z - p[a + 2])) / area;
    const t = ((p[b] - p[a]) * (z - p[a + 2]) - (x - p[a]) * (p[b + 2] - p[a + 2])) / area;
    if (s >= -1e-9 && t >= -1e-9 && s + t <= 1 + 1e-9)
      return p[a + 1] + s * (p[b + 1] - p[a + 1]) + t * (p[c + 1] - p[a + 1]);
  }
  return NaN;
}

test('nothing comes through: every corner of what it lies over is beneath it, and it lies on the highest', () => {
  const sheet = dustSheet(
    [at(BALL, 0, 1), at(BOX, 2.3, 0, 0.4)],
    spec({ cell: 0.11, softness: 0.2 }),
  ) as Mesh;
  for (const [mesh, [x, y, z]] of [
    [BALL, [0, 1, 0]],
    [BOX, [2.3, 0, 0.4]],
  ] as const)
    for (let o = 0; o < mesh.positions.length; o += 30) {
      const [px, py, pz] = mesh.positions.subarray(o, o + 3);
      expect(heightAt(sheet, px + x, pz + z)).toBeGreaterThan(py + y - 1e-5);
    }
  let most = -Infinity;
  for (let o = 1; o < sheet.positions.length; o += 3) most = Math.max(most, sheet.positions[o]);
  expect(most).toBeCloseTo(2, 6);
});

test('beside an upright wall it hangs as H e^(−x / softness)', () => {
  // One long wall: the same along z, so that it is a curve.
  const highest = new Highest(0, 0, 0.02, 200, 4);
  const wall = boxMesh(0.5, 1, 4);
  highest.add(wall.positions, wall.indices);
  const corners = highest.corners(0);
  const { y } = softened(corners, 0.3);
  const row = (i: number) => y[2 * 201 + i];
  const edge = corners.y.subarray(2 * 201, 3 * 201).findIndex((v) => v === 0) - 1;
  expect(row(edge)).toBeCloseTo(1, 9);
  for (let i = 0; i <= 80; i += 8)
    expect(Math.abs(row(edge + i) - Math.exp((-i * 0.02) / 0.3))).toBeLessThan(2e-3);
});

test('the distance is kept: over a ball it is the ball of the larger radius', () => {
  const highest = new Highest(-2, -2, 0.02, 200, 200);
  highest.add(BALL.positions, BALL.indices);
  const { y } = keptAway(highest.corners(-Infinity), 0.4);
  const over = (u: number, v: number) => y[(100 + v) * 201 + 100 + u];
  for (const u of [0, 20, 40]) expect(over(u, 0)).toBeCloseTo(Math.sqrt(1.96 - (u * 0.02) ** 2), 1);
  expect(over(0, 0)).toBeCloseTo(1.4, 2);
});

test('over nothing there is none; one that is too fine is refused; it comes down to the floor that is asked for', () => {
  expect(dustSheet([], spec({}))).toBeNull();
  expect(dustSheet([at(BALL)], spec({ cell: 0.001 }))).toBe('fine');
  const sheet = dustSheet([at(BOX)], spec({ cell: 0.1, beyond: 1, softness: 0.1, floor: -0.5 })) as Mesh;
  expect(sheet.positions[1]).toBeCloseTo(-0.5, 3);
});
