import { Box3, BoxGeometry, Color, Group, InstancedMesh, Vector3 } from 'three';
import { farPoints } from './farPoints';
import { newBoxMaterial } from './looks';

/**
 * Nothing that is seen: points and boxes, none of each. Drawn with the first frame of a scene of many they let their
 * shaders be made while it opens, and not when it is moved for the first time.
 */
export function warm(): Group {
  const boxes = new InstancedMesh(new BoxGeometry(), newBoxMaterial(new Color()), 1);
  boxes.receiveShadow = true;
  boxes.count = 0;
  boxes.computeBoundingSphere();
  const points = farPoints(boxes, {
    color: new Color(),
    area: 1,
    box: new Box3(new Vector3(), new Vector3()),
  });
  const group = new Group();
  for (const object of [boxes, points]) {
    object.frustumCulled = false;
    object.raycast = () => {};
    group.add(object);
  }
  return group;
}
