import { Box3, BoxGeometry, InstancedMesh, Matrix4, MeshBasicMaterial, Raycaster, Vector3 } from 'three';
import './pick';
import type { Stretches } from './pick';

/** Rows of cubes along x, a row every two metres of z; each row is a stretch of its own. */
function rows(count: number, each: number): InstancedMesh {
  const mesh = new InstancedMesh(new BoxGeometry(), new MeshBasicMaterial(), count * each);
  const stretches = Array.from({ length: count }, (_, r) => {
    for (let i = 0; i < each; i++)
      mesh.setMatrixAt(r * each + i, new Matrix4().makeTranslation(i * 1.5, 0, r * 2));
    const box = new Box3(new Vector3(-0.5, -0.5, r * 2 - 0.5), new Vector3(each * 1.5, 0.5, r * 2 + 0.5));
    return { box, start: r * each, count: each };
  });
  mesh.userData = { stretches: (() => stretches) satisfies Stretches };
  mesh.position.set(1, 2, 3);
  mesh.updateMatrixWorld();
  return mesh;
}

test('a ray meets the instances that it meets one by one, wherever their mesh stands and however they lie in stretches', () => {
  const mesh = rows(20, 30);
  const plain = mesh.clone() as InstancedMesh;
  plain.userData = {};
  const found: number[] = [];
  for (const [from, to] of [
    [new Vector3(1, 30, 3), new Vector3(0, -1, 0)],
    [new Vector3(-9, 2, 11), new Vector3(1, 0, 0)],
    [new Vector3(1, 2, 60), new Vector3(0, 0, -1)],
    [new Vector3(0, 9, 0), new Vector3(0, 1, 0)],
  ]) {
    const ray = new Raycaster(from, to);
    const byHand = Array.from({ length: 600 }, (_, i) => i).filter((i) => {
      const own = new Matrix4();
      mesh.getMatrixAt(i, own);
      const centre = new Vector3().setFromMatrixPosition(own).add(mesh.position);
      const half = new Vector3(0.5, 0.5, 0.5);
      return ray.ray.intersectsBox(new Box3(centre.clone().sub(half), centre.clone().add(half)));
    });
    const met = (object: InstancedMesh) =>
      [...new Set(ray.intersectObject(object).map((hit) => hit.instanceId!))].sort((a, b) => a - b);
    found.push(byHand.length);
    expect(met(mesh)).toEqual(byHand);
    expect(met(plain)).toEqual(byHand);
    expect(ray.intersectObject(mesh).every((hit) => hit.object === mesh)).toBe(true);
  }
  expect(found).toEqual([1, 30, 20, 0]);
});
