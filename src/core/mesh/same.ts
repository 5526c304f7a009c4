import type { TriMesh } from './triMesh';

/** Whether two that were worked out apart are alike. */

export const sameNumbers = (a: ArrayLike<number>, b: ArrayLike<number>): boolean => {
  if (a === b) return true;
  if (a.length !== b.length) return false;
  for (let i = 0; i < a.length; i++) if (a[i] !== b[i]) return false;
  return true;
};

/** Whether two surfaces have the same faces at the same places, however their vertices are counted. */
export function sameFaces(a: TriMesh, b: TriMesh): boolean {
  if (a.indices.length !== b.indices.length) return false;
  for (let i = 0; i < a.indices.length; i++)
    for (let k = 0; k < 3; k++)
      if (a.positions[a.indices[i] * 3 + k] !== b.positions[b.indices[i] * 3 + k]) return false;
  return true;
}
