import {
  Box3,
  BoxGeometry,
  type BufferAttribute,
  type BufferGeometry,
  Color,
  MeshLambertMaterial,
  Vector3,
  type MeshStandardMaterial,
} from 'three';
import type { DrawnMesh } from '../sceneMeshes';
import type { PointLook } from './farPoints';

/** What a mesh is from afar, made once: as a point, and as a box. */

const points = new WeakMap<DrawnMesh, PointLook>();

/** Its mean colour, by the areas of its faces, these in all, and its bounds. */
export function pointLook(drawn: DrawnMesh): PointLook {
  let look = points.get(drawn);
  if (!look) points.set(drawn, (look = { ...meanColor(drawn), box: boundsOf(drawn.geometry) }));
  return look;
}

const boxes = new WeakMap<DrawnMesh, { geometry: BufferGeometry; material: MeshLambertMaterial }>();

export const newBoxMaterial = (color: Color) => new MeshLambertMaterial({ color });

/** The box that it takes up, in its mean colour. */
export function boxLook(drawn: DrawnMesh): { geometry: BufferGeometry; material: MeshLambertMaterial } {
  let look = boxes.get(drawn);
  if (!look) {
    const { box, color } = pointLook(drawn);
    const size = box.getSize(new Vector3());
    const geometry = new BoxGeometry(size.x, size.y, size.z);
    geometry.translate(...box.getCenter(new Vector3()).toArray());
    boxes.set(drawn, (look = { geometry, material: newBoxMaterial(color) }));
  }
  return look;
}

function boundsOf(geometry: BufferGeometry): Box3 {
  if (!geometry.boundingBox) geometry.computeBoundingBox();
  return geometry.boundingBox ?? new Box3();
}

function meanColor({ geometry, materials }: DrawnMesh): Pick<PointLook, 'color' | 'area'> {
  const index = geometry.getIndex()!;
  const at = geometry.getAttribute('position') as BufferAttribute;
  const colors = geometry.getAttribute('color') as BufferAttribute | undefined;
  const sum = new Color(0, 0, 0);
  const groups = geometry.groups.length
    ? geometry.groups
    : [{ start: 0, count: index.count, materialIndex: 0 }];
  let all = 0;
  for (const { start, count, materialIndex } of groups) {
    const material = materials[materialIndex ?? 0] as MeshStandardMaterial | undefined;
    const own = material?.color ?? new Color(1, 1, 1);
    const counts = material?.vertexColors ?? true;
    for (let i = start; i < start + count; i += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => index.getX(i + k));
      const side = (p: number, q: number) => [
        at.getX(q) - at.getX(p),
        at.getY(q) - at.getY(p),
        at.getZ(q) - at.getZ(p),
      ];
      const [u, v] = [side(a, b), side(a, c)];
      const area = Math.hypot(
        u[1] * v[2] - u[2] * v[1],
        u[2] * v[0] - u[0] * v[2],
        u[0] * v[1] - u[1] * v[0],
      );
      all += area;
      const mean = (k: 0 | 1 | 2) =>
        colors && counts ? [a, b, c].reduce((s, n) => s + colors.getComponent(n, k), 0) / 3 : 1;
      sum.r += area * own.r * mean(0);
      sum.g += area * own.g * mean(1);
      sum.b += area * own.b * mean(2);
    }
  }
  // A cross product is twice a triangle.
  return { color: all > 0 ? sum.multiplyScalar(1 / all) : new Color(0.5, 0.5, 0.5), area: all / 2 };
}
