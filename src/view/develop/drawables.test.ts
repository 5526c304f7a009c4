import {
  BoxGeometry,
  DirectionalLight,
  Group,
  Mesh,
  MeshBasicMaterial,
  Object3D,
  PerspectiveCamera,
  Scene,
} from 'three';
import { drawablesOf, only } from './drawables';

const geometry = new BoxGeometry();

function thing(name: string, z: number, transparent = false, renderOrder = 0): Mesh {
  const mesh = new Mesh(geometry, new MeshBasicMaterial({ transparent }));
  Object.assign(mesh, { name, renderOrder });
  mesh.position.z = z;
  return mesh;
}

function sceneOf(...things: Object3D[]): [Scene, PerspectiveCamera] {
  const scene = new Scene();
  const camera = new PerspectiveCamera();
  camera.position.z = 10;
  scene.add(...things);
  for (const o of [scene, camera]) o.updateMatrixWorld(true);
  return [scene, camera];
}

test('what is solid comes first, from near to far, then what is seen through, from far to near; lights, groups and what is on other layers do not', () => {
  const group = new Group();
  group.add(thing('hidden', 1), thing('near glass', 4, true));
  group.children[0].visible = false;
  const aside = thing('aside', 2);
  aside.layers.set(1);
  const [scene, camera] = sceneOf(
    thing('far glass', -4, true),
    thing('far', -5),
    thing('last of all', 0, true, 3),
    thing('near', 5),
    thing('after the others', 8, false, 1),
    new DirectionalLight(),
    group,
    aside,
  );
  expect(drawablesOf(scene, camera).map((o) => o.name)).toEqual([
    'near',
    'far',
    'after the others',
    'far glass',
    'near glass',
    'last of all',
  ]);
});

test('only some are there while something is done, and all as they were after it, even where that fails', () => {
  const things = ['a', 'b', 'c', 'd'].map((name) => thing(name, 0));
  things[2].layers.set(3);
  const masks = () => things.map((o) => o.layers.mask);
  const before = masks();
  let during: number[] = [];
  only(things, 1, 3, () => (during = masks()));
  expect(during).toEqual([0, before[1], before[2], 0]);
  expect(masks()).toEqual(before);
  expect(() =>
    only(things, 0, 1, () => {
      throw new Error('lost');
    }),
  ).toThrow('lost');
  expect(masks()).toEqual(before);
});
