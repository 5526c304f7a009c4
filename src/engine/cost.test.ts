import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import type { InstancedMesh } from '@gltf-transform/extensions';
import { readFile } from 'node:fs/promises';
import { EngineService } from './service';
import { exampleScene, ASSETS } from '@/core/testing/scene';
import { Evaluator } from '@/core/evaluate/scene';
import { costsOf, type Cost } from '@/core/formats/cost';

/** What things cost, against the triangles and the bytes of the files that come out. */

/** Triangles of all instances of a file. */
async function trianglesIn(bytes: Uint8Array): Promise<number> {
  const document = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes);
  let sum = 0;
  for (const node of document.getRoot().listNodes()) {
    const each = (node.getMesh()?.listPrimitives() ?? []).reduce(
      (n, p) => n + (p.getIndices()?.getCount() ?? p.getAttribute('POSITION')!.getCount()) / 3,
      0,
    );
    const instances = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    sum += each * (instances ? (instances.listAttributes()[0]?.getCount() ?? 0) : 1);
  }
  return sum;
}

const sum = (costs: Cost[], of: Cost['of'][], value: 'triangles' | 'file') =>
  costs.filter((c) => of.includes(c.of)).reduce((n, c) => n + c[value], 0);

test.each(['tern-quay', 'beacon-tiles', 'chandlery', 'rope-fence'])(
  '%s costs what its file has: every triangle, and about as many bytes',
  async (name) => {
    const service = new EngineService();
    const { scene } = await service.open(await readFile(`examples/${name}.clothesline`), name);
    const bytes = await service.sendOut(scene, {
      kind: 'glb',
      options: { props: 'instanced', surfaces: true, snaps: false },
    });
    const costs = service.costs(scene);
    expect(sum(costs, ['arrangement', 'surface'], 'triangles')).toBe(await trianglesIn(bytes));
    expect(sum(costs, ['prop'], 'triangles')).toBe(sum(costs, ['arrangement'], 'triangles'));
    const file = sum(costs, ['arrangement', 'prop', 'surface'], 'file');
    expect(Math.abs(file / bytes.length - 1)).toBeLessThan(0.12);
  },
);

test('what is hidden costs nothing, and a prop that nothing places neither', () => {
  const scene = exampleScene();
  scene.arrangements.forEach((a) => (a.visible = false));
  scene.surfaces.forEach((s) => (s.visible = false));
  expect(costsOf(scene, new Evaluator(ASSETS).evaluate(scene), ASSETS)).toEqual([]);
});
