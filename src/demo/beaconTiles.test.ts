import { STATE } from '@/core/arrange/result';
import { Evaluator, type EvaluatedArrangement } from '@/core/evaluate/scene';
import { quatRotate, type Quat } from '@/core/math/quat';
import { distance, type Vec3 } from '@/core/math/vec3';
import { builtMesh } from './library';
import { towerRadius } from './surfaces/tower';
import { EXAMPLES } from '../../scripts/examples';

/** The numbers of the tiled beacon. */

const scene = EXAMPLES['beacon-tiles']();
const result = new Evaluator({
  mesh: (ref) => (ref.source === 'built' ? builtMesh(ref.name) : undefined),
}).evaluate(scene);
const of = (name: string): EvaluatedArrangement =>
  result.arrangements[scene.arrangements.findIndex((a) => a.name === name)];
const place = ({ placements: p }: EvaluatedArrangement, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];

test('nothing is wrong with any of it', () => {
  expect(result.arrangements.flatMap((a) => a.findings.map((f) => f.kind))).toEqual([]);
  expect([...result.surfaces, ...result.paths].flatMap((n) => n.findings)).toEqual([]);
});

test('tiles stand on the wall in whole rings, as many as each has room for, none twice over the seam', () => {
  for (const name of ['Tiles, rigid', 'Tiles, bent']) {
    const tiles = of(name);
    const rings = new Map<number, number[]>();
    for (let i = 0; i < tiles.placements.count; i++) {
      const [x, y, z] = place(tiles, i);
      // 0.03 m over the wall, whose faces lie a chord's height within the true form.
      expect(Math.abs(Math.hypot(x, z) - towerRadius(y) - 0.03)).toBeLessThan(0.03);
      const row = Math.floor((tiles.placements.slot[i] % 1099511627776) / 4294967296);
      rings.set(row, [...(rings.get(row) ?? []), Math.atan2(z, x)]);
    }
    const counts = [...rings.values()].map((r) => r.length);
    expect(counts[0]).toBeGreaterThan(counts[counts.length - 1]);
    for (const angles of rings.values()) {
      angles.sort((a, b) => a - b);
      const step = (2 * Math.PI) / angles.length;
      angles.forEach((a, i) => {
        const next = i + 1 < angles.length ? angles[i + 1] : angles[0] + 2 * Math.PI;
        expect(Math.abs(next - a - step)).toBeLessThan(0.01);
      });
    }
  }
  // Bent ones are shapes of their own, alike ones in a ring but once.
  const bent = of('Tiles, bent').placements;
  expect([...bent.shape!].every((k) => k >= 0)).toBe(true);
  expect(bent.bent!.length).toBeLessThan(bent.count);
});

test('beams round the gallery meet exactly', () => {
  const posts = of('Gallery posts');
  const beams = of('Gallery beams');
  expect(beams.placements.count).toBe(8);
  const { min, max } = result.propBounds[beams.placements.props[0]];
  for (let i = 0; i < 8; i++) {
    const q = [...beams.placements.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
    const size = [...beams.placements.scale.subarray(i * 3, i * 3 + 3)];
    const end = (z: number) => {
      const v = quatRotate(q, [0, 0, z * size[2]]);
      return place(beams, i).map((x, a) => x + v[a]) as Vec3;
    };
    const top = (k: number): Vec3 => {
      const p = place(posts, k % 8);
      return [p[0], p[1] + 0.62 * 0.8, p[2]];
    };
    expect(distance(end(min[2]), top(i))).toBeLessThan(1e-9);
    expect(distance(end(max[2]), top(i + 1))).toBeLessThan(1e-9);
  }
});

test('the emblem is bent onto the hull, whole', () => {
  const { placements: p } = of('Emblem');
  expect([...p.state]).toEqual([STATE.placed]);
  const { positions } = p.bent![p.shape![0]];
  // It does not lie flat: its rim is bent back from its middle.
  const heights = Array.from({ length: positions.length / 3 }, (_, v) => positions[v * 3 + 1]);
  expect(Math.min(...heights)).toBeLessThan(-0.04);
});
