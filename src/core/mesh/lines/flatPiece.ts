import { DEG } from '../../math/quat';
import { cos } from '../../math/portable';
import { dot } from '../../math/vec3';
import { faceNormal, type TriMesh } from '../triMesh';
import { topologyOf } from './topology';

/** Faces that turn by less from one to the next are one piece. */
const FLAT_DEG = 5;

/**
 * The faces about one that can be walked to over edges without turning by more than a few degrees at any of them: a wall
 * of a house, a step, the curved side of a tower.
 * @returns numbers of faces, rising, `face` among them
 */
export function flatPiece(mesh: TriMesh, face: number): number[] {
  const { sides, faces } = topologyOf(mesh);
  const least = cos(FLAT_DEG * DEG);
  const found = new Set([face]);
  const open = [face];
  while (open.length > 0) {
    const f = open.pop()!;
    const normal = faceNormal(mesh, f);
    for (let k = 0; k < 3; k++) {
      const e = sides[f * 3 + k];
      if (e < 0) continue;
      const next = faces[e * 2] === f ? faces[e * 2 + 1] : faces[e * 2];
      if (next < 0 || found.has(next) || dot(normal, faceNormal(mesh, next)) < least) continue;
      found.add(next);
      open.push(next);
    }
  }
  return [...found].sort((a, b) => a - b);
}
