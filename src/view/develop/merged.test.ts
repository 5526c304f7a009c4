import {
  BackSide,
  BoxGeometry,
  BufferAttribute,
  DoubleSide,
  InstancedMesh,
  Matrix4,
  Mesh,
  MeshLambertMaterial,
  Scene,
  SphereGeometry,
  Vector3,
  type BufferGeometry,
} from 'three';
import { Mergers } from './merged';

const drawn = (mesh: Mesh, geometry: BufferGeometry = mesh.geometry) => ({ mesh, geometry });

/** The corners of all faces where they are in the scene, one text a face, in some order. */
function facesOf(meshes: readonly Mesh[]): string[] {
  const at = new Vector3();
  const m = new Matrix4();
  return meshes
    .flatMap((mesh) => {
      const position = mesh.geometry.getAttribute('position');
      const index = mesh.geometry.getIndex()!;
      const count = mesh instanceof InstancedMesh ? mesh.count : 1;
      return Array.from({ length: count }, (_, k) => {
        if (mesh instanceof InstancedMesh) mesh.getMatrixAt(k, m);
        else m.identity();
        m.premultiply(mesh.matrixWorld);
        return Array.from({ length: index.count / 3 }, (__, f) =>
          [0, 1, 2]
            .map((c) => {
              at.fromBufferAttribute(position, index.getX(3 * f + c)).applyMatrix4(m);
              return at.toArray().map(Math.fround).join(' ');
            })
            .join(', '),
        );
      }).flat();
    })
    .sort();
}

/** What is in the scene, on the layer that is drawn, while shadows are cast. */
function during(mergers: Mergers, scene: Scene, all: readonly Mesh[]): Mesh[] {
  let seen: Mesh[] = [];
  mergers.during(
    scene,
    all.map((mesh) => drawn(mesh)),
    () => (seen = scene.children.filter((o): o is Mesh => o.layers.mask === 1)),
  );
  return seen;
}

function sceneOf(): { scene: Scene; meshes: Mesh[] } {
  const scene = new Scene();
  const ball = new InstancedMesh(new SphereGeometry(0.5, 8, 6), new MeshLambertMaterial(), 5);
  for (let k = 0; k < 5; k++) ball.setMatrixAt(k, new Matrix4().makeTranslation(k, 2 * k, -k));
  ball.position.set(3, 0, 1);
  ball.rotation.set(0.3, 0.7, 0);
  // Two materials that look two ways, and as many groups.
  const box = new Mesh(new BoxGeometry(1, 2, 3), [
    ...Array(3).fill(new MeshLambertMaterial()),
    ...Array(3).fill(new MeshLambertMaterial({ side: BackSide })),
  ]);
  box.scale.set(2, 1, 0.5);
  const sheet = new Mesh(new BoxGeometry(4, 0.1, 4), new MeshLambertMaterial({ side: DoubleSide }));
  scene.add(ball, box, sheet);
  scene.updateMatrixWorld();
  return { scene, meshes: [ball, box, sheet] };
}

test('one mesh for each way that faces look stands for all, face for face, and is gone afterwards', () => {
  const { scene, meshes } = sceneOf();
  const seen = during(new Mergers(), scene, meshes);
  expect(seen).toHaveLength(3);
  for (const mesh of seen) expect(mesh.castShadow).toBe(true);
  expect(facesOf(seen)).toEqual(facesOf(meshes));
  const sides = seen.map(({ material, geometry }) => [
    (material as MeshLambertMaterial).side,
    geometry.getIndex()!.count / 3,
  ]);
  expect(sides).toEqual([
    [0, 5 * (meshes[0].geometry.getIndex()!.count / 3) + 6],
    [BackSide, 6],
    [DoubleSide, 12],
  ]);
  expect(scene.children).toEqual(meshes);
  for (const mesh of meshes) expect(mesh.layers.mask).toBe(1);
});

test('they are made again only when something has moved, and those of before are let go of', () => {
  const { scene, meshes } = sceneOf();
  const mergers = new Mergers();
  const first = during(mergers, scene, meshes);
  expect(during(mergers, scene, meshes)).toEqual(first);
  let gone = 0;
  for (const { geometry } of first) geometry.addEventListener('dispose', () => gone++);
  const [ball, box] = meshes as [InstancedMesh, Mesh];
  const changes: (() => void)[] = [
    () => {
      ball.setMatrixAt(2, new Matrix4().makeTranslation(9, 9, 9));
      ball.instanceMatrix.needsUpdate = true;
    },
    () => void (ball.count = 3),
    () => {
      box.position.x = 7;
      scene.updateMatrixWorld();
    },
    () => {
      box.geometry.translate(0, 1, 0);
      (box.geometry.getAttribute('position') as BufferAttribute).needsUpdate = true;
    },
  ];
  for (const change of changes) {
    change();
    const seen = during(mergers, scene, meshes);
    expect(seen[0]).not.toBe(first[0]);
    expect(facesOf(seen)).toEqual(facesOf(meshes));
  }
  expect(gone).toBe(first.length);
  mergers.dispose();
});

test('what pictures cut holes into, and what has many triangles, casts by itself', () => {
  const { scene, meshes } = sceneOf();
  const cut = new Mesh(new BoxGeometry(), new MeshLambertMaterial({ alphaTest: 0.5 }));
  const fine = new Mesh(new SphereGeometry(1, 150, 100), new MeshLambertMaterial());
  scene.add(cut, fine);
  const seen = during(new Mergers(), scene, [...meshes, cut, fine]);
  expect(seen).toContain(cut);
  expect(seen).toContain(fine);
  expect(facesOf(seen.filter((m) => m !== cut && m !== fine))).toEqual(facesOf(meshes));
  // One by itself stays as it is.
  expect(during(new Mergers(), scene, [fine])).toEqual([...meshes, cut, fine]);
});

test('of very many triangles those that come first are merged, and the others cast by themselves', () => {
  const scene = new Scene();
  const many: Mesh[] = Array.from(
    { length: 8 },
    () => new Mesh(new SphereGeometry(1, 100, 80), new MeshLambertMaterial()),
  );
  scene.add(...many);
  const seen = during(new Mergers(), scene, many);
  expect(facesOf(seen)).toEqual(facesOf(many));
  const own = seen.filter((mesh) => many.includes(mesh));
  expect(own).toEqual(many.slice(8 - own.length));
  expect(own.length).toBeGreaterThan(0);
  expect(own.length).toBeLessThan(6);
});

test('whatever becomes of it, all is as it was', () => {
  const { scene, meshes } = sceneOf();
  expect(() =>
    new Mergers().during(
      scene,
      meshes.map((mesh) => drawn(mesh)),
      () => {
        throw new Error('lost');
      },
    ),
  ).toThrow('lost');
  expect(scene.children).toEqual(meshes);
  for (const mesh of meshes) expect(mesh.layers.mask).toBe(1);
});
