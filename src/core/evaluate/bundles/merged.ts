import type { Vec3 } from '../../math/vec3';
import { mergedMeshes } from '../../mesh/merged';
import type { Mesh } from '../../mesh/mesh';
import { rowMeshes, type PropLooks } from '../placedMeshes';
import type { Contents } from './contents';

/**
 * What a bundle holds as one mesh, metres from its origin: what its pictures show, and what of it touches and bends.
 * @returns undefined where nothing is in it
 */
export function mergedMesh({ members }: Contents, origin: Vec3, looks: PropLooks): Mesh | undefined {
  const parts = members.flatMap(({ id, placements }) => rowMeshes(id, placements, looks));
  for (const { matrix } of parts) for (let a = 0; a < 3; a++) matrix[12 + a] -= origin[a];
  return parts.length > 0 ? mergedMeshes(parts) : undefined;
}
