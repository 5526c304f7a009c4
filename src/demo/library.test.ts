import { sceneSchema } from '@/core/scene/schema';
import { readFileSync } from 'node:fs';
import { openScene, packScene } from '@/core/formats/sceneZip';
import { meshBounds } from '@/core/mesh/mesh';
import { BUILT, builtMesh } from './library';
import { loadPhysics } from '@/core/arrange/release/physics';
import { EXAMPLES } from '../../scripts/examples';
import { pictureBytes } from '../../scripts/examples/pictures';

test.each(BUILT.filter((b) => b.use === 'prop'))(
  '$name: sound, of a prop’s size, standing on its foot',
  ({ name, foot }) => {
    const mesh = builtMesh(name)!;
    const { min, max } = meshBounds(mesh);
    expect(mesh.indices.length / 3).toBeGreaterThanOrEqual(12);
    expect(mesh.indices.length / 3).toBeLessThanOrEqual(800);
    expect(Math.max(...mesh.indices)).toBeLessThan(mesh.positions.length / 3);
    expect([...mesh.positions, ...mesh.normals].every(Number.isFinite)).toBe(true);
    let off = 0;
    for (let i = 0; i < mesh.normals.length; i += 3)
      off = Math.max(off, Math.abs(Math.hypot(...mesh.normals.subarray(i, i + 3)) - 1));
    expect(off).toBeLessThan(5e-5);
    const size = Math.max(...max.map((v, i) => v - min[i]));
    expect(size).toBeGreaterThan(0.05);
    expect(size).toBeLessThan(6);
    if (foot === 'base') expect(Math.abs(min[1])).toBeLessThan(0.02);
  },
);

test('the far shore stands across the water, its faces outside, its hamlet not in the water', () => {
  const { positions: p, normals, indices } = builtMesh('far-shore')!;
  const { min, max } = meshBounds(builtMesh('far-shore')!);
  expect(Math.max(...max)).toBeLessThan(1000);
  // Nothing of it is near the quay, and its hills are hills.
  let nearest = Infinity;
  for (let i = 0; i < p.length; i += 3) nearest = Math.min(nearest, Math.hypot(p[i], p[i + 2]));
  expect(nearest).toBeGreaterThan(300);
  expect(max[1]).toBeGreaterThan(20);
  expect(min[1]).toBeGreaterThan(-4);
  // The hills (all but houses and light) face up.
  let down = 0;
  for (let i = 0; i < indices.length; i += 3) if (normals[indices[i] * 3 + 1] < -0.01) down++;
  expect(down * 12).toBeLessThan(indices.length / 3);
});

beforeAll(() => loadPhysics());

test.each(Object.entries(EXAMPLES))('%s on disk is what the commands build', async (name, build) => {
  const built = await build();
  const file = readFileSync(`examples/${name}.clothesline`);
  expect(openScene(new Uint8Array(file), 'x').scene).toEqual(built);
  expect(file.equals(Buffer.from(packScene(sceneSchema.parse(built), pictureBytes)))).toBe(true);
});
