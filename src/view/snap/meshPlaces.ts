import { Vector3, type Mesh } from 'three';
import { lerp, type Vec3 } from '@/core/math/vec3';
import { matrixOf, targetsIn } from '../pick';
import { rayAt, toScreen } from '../project';
import type { ViewHandle } from '../handle';

/** Corners and edges of the face under a pixel, of surfaces and of what is placed. */

/** Meshes of more faces have edges wherever one points: those mean nothing. */
const MOST_FACES = 600;
/** Pixels that the sides of a face are long at least for its corners to be meant. */
const LEAST_SIDE = 40;

export interface MeshPlace {
  kind: 'corner' | 'edge' | 'edge-part';
  at: Vec3;
  label: string;
}

/** @param parts divisions of its edges; 1: none */
export function meshPlacesUnder(view: ViewHandle, x: number, y: number, parts: number): MeshPlace[] {
  const hit = rayAt(view, x, y).intersectObjects(targetsIn(view, 'all'), false)[0];
  if (!hit?.face) return [];
  const mesh = hit.object as Mesh;
  const { geometry } = mesh;
  if ((geometry.index?.count ?? Infinity) / 3 > MOST_FACES) return [];
  const position = geometry.getAttribute('position');
  const matrix = matrixOf(hit);
  const { a, b, c } = hit.face;
  const corners = [a, b, c].map(
    (i) => new Vector3().fromBufferAttribute(position, i).applyMatrix4(matrix).toArray() as Vec3,
  );
  // What is under the pointer lies on the face; where it does not, its corners are those of something else.
  const away = (p: Vec3) => Math.hypot(p[0] - hit.point.x, p[1] - hit.point.y, p[2] - hit.point.z);
  const size = Math.max(
    ...corners.map((p, k) => Math.hypot(...p.map((v, i) => v - corners[(k + 1) % 3][i]))),
  );
  if (corners.some((p) => away(p) > size * 1.01)) return [];
  const sides = corners.map((p, k) => [p, corners[(k + 1) % 3]] as const);
  const seen = corners.map((p) => toScreen(view, p));
  if (seen.some((p, k) => Math.hypot(p.x - seen[(k + 1) % 3].x, p.y - seen[(k + 1) % 3].y) < LEAST_SIDE))
    return [];
  return [
    ...corners.map((at): MeshPlace => ({ kind: 'corner', at, label: 'Corner' })),
    ...sides.map(([p, q]): MeshPlace => ({ kind: 'edge', at: lerp(p, q, 0.5), label: 'Middle of an edge' })),
    ...(parts > 1
      ? sides.flatMap(([p, q]) =>
          Array.from({ length: parts - 1 }, (_, i): MeshPlace => ({
            kind: 'edge-part',
            at: lerp(p, q, (i + 1) / parts),
            label: `${i + 1}/${parts} of an edge`,
          })),
        )
      : []),
  ];
}
