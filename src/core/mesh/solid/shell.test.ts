import { topologyOf } from '../lines/topology';
import { exactlyClosed, madeMesh } from '../../testing/bodies';
import type { Mesh } from '../mesh';
import { solidFacts } from './facts';
import { shellOf } from './shell';
import { thicknessSchema } from './thicknessSchema';

const thick = (mesh: Mesh, thickness: object, positions = Float64Array.from(mesh.positions)) =>
  shellOf(
    mesh,
    positions,
    Float64Array.from(mesh.normals),
    topologyOf(mesh),
    thicknessSchema.parse(thickness),
  );

const PLANE = madeMesh({ shape: 'plane', width: 3, depth: 2, columns: 6, rows: 4 });

test('a plane becomes a board: its volume is its area times what was asked, however it is shared among the sides', () => {
  for (const [outwards, inwards] of [
    [0, 0.1],
    [0.1, 0],
    [0.03, 0.07],
  ]) {
    const { mesh, skin, turned } = thick(PLANE, { outwards, inwards });
    const facts = solidFacts(mesh);
    expect(exactlyClosed(mesh)).toBe(true);
    expect(facts).toMatchObject({ closed: true, open: 0, unsound: 0 });
    expect(facts.volume).toBeCloseTo(0.6, 6);
    expect(facts.area).toBeCloseTo(2 * 6 + 10 * 0.1, 5);
    expect(turned).toBe(0);
    for (let i = 1; i < skin.length; i += 3) expect(skin[i]).toBeCloseTo(outwards, 6);
    // The skin that things stand on has the surface's own faces and vertices.
    expect(mesh.indices.subarray(0, PLANE.indices.length)).toEqual(PLANE.indices);
  }
});

test('a round rim adds half a bar around: as much as its sides, mitred at the corners, have', () => {
  const t = 0.2;
  const { mesh } = thick(PLANE, { outwards: 0, inwards: t, rim: 'round' });
  // The section of the bar: a polygon of eight sides over half a turn; its area and its moment about the border.
  const at = (k: number) => [(t / 2) * Math.sin((Math.PI * k) / 8), (t / 2) * Math.cos((Math.PI * k) / 8)];
  let [area, moment] = [0, 0];
  for (let k = 0; k < 8; k++) {
    const [[x, y], [u, v]] = [at(k), at(k + 1)];
    const part = (u * y - x * v) / 2;
    area += part;
    moment += (part * (x + u)) / 3;
  }
  // Each of the four sides is longer the further out it is, at both ends.
  expect(solidFacts(mesh).volume).toBeCloseTo(6 * t + 10 * area + 8 * moment, 5);
  expect(exactlyClosed(mesh)).toBe(true);
});

test('a box grows by as much on every side; a ball to the ball of the larger radius; both are hollow', () => {
  const box = madeMesh({ shape: 'box', width: 1, height: 1, depth: 1, fillet: 0 });
  const crate = solidFacts(thick(box, { outwards: 0.25, inwards: 0 }).mesh);
  expect(crate.closed).toBe(true);
  expect(crate.volume).toBeCloseTo(1.5 ** 3 - 1, 5);
  const ball = madeMesh({ shape: 'sphere', radius: 1, columns: 64, rows: 32 });
  const { mesh } = thick(ball, { outwards: 0.1, inwards: 0 });
  const facets = solidFacts(ball).volume! / ((4 / 3) * Math.PI);
  expect(solidFacts(mesh).volume! / (facets * (4 / 3) * Math.PI * (1.1 ** 3 - 1))).toBeCloseTo(1, 2);
  expect(exactlyClosed(mesh)).toBe(true);
});

test('hills are as thick as asked along every face, closed, and say where they are bent too tightly', () => {
  const hills = madeMesh({ shape: 'hills', width: 8, depth: 8, columns: 40, rows: 40 });
  const { mesh, turned } = thick(hills, { outwards: 0, inwards: 0.05 });
  expect(exactlyClosed(mesh)).toBe(true);
  expect(turned).toBe(0);
  expect(solidFacts(mesh).volume! / (solidFacts(hills).area * 0.05)).toBeCloseTo(1, 2);
  const far = thick(hills, { outwards: 0, inwards: 6 });
  expect(far.turned).toBeGreaterThan(0);
  expect(exactlyClosed(far.mesh)).toBe(true);
});

test('what is open, and what is joined three at an edge, is told by how many edges', () => {
  expect(solidFacts(PLANE)).toMatchObject({ closed: false, open: 20, unsound: 0, volume: null });
  const positions = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, -1, 0);
  const fan = { positions, indices: Uint32Array.of(0, 1, 2, 0, 1, 3, 0, 1, 4) };
  expect(solidFacts(fan)).toMatchObject({ closed: false, unsound: 1, open: 6 });
});
