import type { Document } from '@gltf-transform/core';
import type { InstancedMesh } from '@gltf-transform/extensions';
import { checkVertices } from './limits';

/**
 * Gives every instance of a node (EXT_mesh_gpu_instancing) a node of its own under it, so that whatever reads the nodes
 * of the file finds all that it shows. Other data of an instance (colours, ids) is left aside.
 * @throws FileError where they have more vertices together than one mesh may
 */
export function spreadInstances(document: Document, name: string): void {
  const root = document.getRoot();
  const instanced = root.listNodes().flatMap((node) => {
    const instances = node.getExtension<InstancedMesh>('EXT_mesh_gpu_instancing');
    const mesh = node.getMesh();
    const count = Math.max(0, ...(instances?.listAttributes() ?? []).map((a) => a.getCount()));
    return instances && mesh ? [{ node, instances, mesh, count }] : [];
  });
  const vertices = instanced.map(({ mesh, count }) =>
    mesh.listPrimitives().reduce((n, p) => n + count * (p.getAttribute('POSITION')?.getCount() ?? 0), 0),
  );
  checkVertices(
    vertices.reduce((a, b) => a + b, 0),
    name,
  );
  for (const { node, instances, mesh, count } of instanced) {
    node.setMesh(null).setExtension('EXT_mesh_gpu_instancing', null);
    const [at, turn, size] = ['TRANSLATION', 'ROTATION', 'SCALE'].map((k) => instances.getAttribute(k));
    for (let i = 0; i < count; i++) {
      const one = document.createNode(node.getName()).setMesh(mesh).setWeights(node.getWeights());
      if (at) one.setTranslation(at.getElement(i, [0, 0, 0]));
      if (turn) one.setRotation(turn.getElement(i, [0, 0, 0, 1]));
      if (size) one.setScale(size.getElement(i, [1, 1, 1]));
      node.addChild(one);
    }
  }
}
