import { readFileSync } from 'node:fs';
import { openScene, packScene } from '@/core/formats/sceneZip';
import { meshBounds } from '@/core/mesh/mesh';
import { BUILT, builtMesh } from './library';
import { ternQuay } from '../../scripts/examples/ternQuay';

test.each(BUILT.filter((b) => b.use === 'prop'))(
  '$name: sound, of a prop’s size, standing on its foot',
  ({ name, foot }) => {
    const mesh = builtMesh(name)!;
    const { min, max } = meshBounds(mesh);
    expect(mesh.indices.length / 3).toBeGreaterThanOrEqual(12);
    expect(mesh.indices.length / 3).toBeLessThanOrEqual(800);
    expect(Math.max(...mesh.indices)).toBeLessThan(mesh.positions.length / 3);
    expect([...mesh.positions, ...mesh.normals].every(Number.isFinite)).toBe(true);
    for (let i = 0; i < mesh.normals.length; i += 3)
      expect(Math.hypot(...mesh.normals.subarray(i, i + 3))).toBeCloseTo(1, 4);
    const size = Math.max(...max.map((v, i) => v - min[i]));
    expect(size).toBeGreaterThan(0.1);
    expect(size).toBeLessThan(6);
    if (foot === 'base') expect(Math.abs(min[1])).toBeLessThan(0.02);
  },
);

test('the example on disk is what the commands build', () => {
  const built = ternQuay();
  expect(openScene(new Uint8Array(readFileSync('examples/tern-quay.clothesline')), 'x').scene).toEqual(built);
  expect(
    readFileSync('examples/tern-quay.clothesline').equals(Buffer.from(packScene(built, () => undefined))),
  ).toBe(true);
  expect(built.props.length).toBeGreaterThanOrEqual(12);
});
