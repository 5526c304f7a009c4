import { meshRefSchema, type LineMesh } from '../meshRef';
import { topologyOf } from '../lines/topology';
import { volumeOf } from '../../testing/meshes';
import { lineMesh } from './line';

const made = (more: Partial<LineMesh>) => {
  const line = meshRefSchema.parse({ source: 'line', ...more }) as LineMesh;
  return { line, mesh: lineMesh(line) };
};
/** How much of a circle a polygon inside it has. */
const ofCircle = (sides: number) => (sides / (2 * Math.PI)) * Math.sin((2 * Math.PI) / sides);

test.each([1, 2, 3, 4, 7, 24])('%i strands are closed, and just as thick as asked', (strands) => {
  const { line, mesh } = made({ strands, radius: 0.3, sides: 12 });
  const { faces } = topologyOf({ ...mesh, positions: Float64Array.from(mesh.positions) });
  // Strands touch each other in whole edges at the most where the number of sides lets them.
  expect([...faces].filter((f) => f === -1)).toEqual([]);
  let most = 0;
  for (let o = 0; o < mesh.positions.length; o += 3)
    most = Math.max(most, Math.hypot(mesh.positions[o], mesh.positions[o + 1]));
  expect(most).toBeLessThan(line.radius * (1 + 1e-6));
  expect(most).toBeGreaterThan(line.radius * 0.96);
  expect(lineMesh(line)).toBe(mesh);
});

test('a tube has the volume of a rod between two halves of a ball', () => {
  const { mesh } = made({ radius: 0.1, sides: 64 });
  const whole = Math.PI * 0.01 * 0.8 + (4 / 3) * Math.PI * 0.001;
  expect(Math.abs(volumeOf(mesh.positions, mesh.indices) / whole - 1)).toBeLessThan(0.01);
});

test.each([2, 3, 5])('%i strands have the volume of as many that go round each other', (strands) => {
  const { mesh } = made({ strands, radius: 0.1, lay: 0.7, sides: 24 });
  // Touching circles about a middle: r = R sin(π / n) / (1 + sin(π / n)).
  const half = Math.sin(Math.PI / strands);
  const r = (0.1 * half) / (1 + half);
  const whole = strands * Math.PI * r * r * 0.7 * ofCircle(24);
  // A strand is twisted as its rings are joined: it loses a little between them.
  expect(volumeOf(mesh.positions, mesh.indices)).toBeGreaterThan(whole * 0.93);
  expect(volumeOf(mesh.positions, mesh.indices)).toBeLessThan(whole * 1.0001);
});

test('a rope goes on behind itself: its end is its beginning, one lay on', () => {
  const { line, mesh } = made({ strands: 3, sides: 6 });
  const at = (z: number) =>
    [...Array(mesh.positions.length / 3).keys()]
      .filter((v) => Math.abs(mesh.positions[v * 3 + 2] - z) < 1e-6)
      .map((v) => `${mesh.positions[v * 3]} ${mesh.positions[v * 3 + 1]}`)
      .toSorted();
  expect(at(Math.fround(line.lay))).toEqual(at(0));
});
