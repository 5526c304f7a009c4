import type { Strength } from '../mesh/deform/deform';
import { verticesOf } from '../mesh/mask/places';
import { makeTriMesh, type TriMesh } from '../mesh/triMesh';
import type { Surface } from '../mesh/surfaceSchema';
import { carried, type SurfaceContext } from './surfaceRest';

/**
 * How much of each deformer counts at the vertices of a surface, by the deformers' masks. They read it where it stands
 * before anything deforms it: what a mask deforms does not change the mask.
 */
export function strengthsOf(
  { id }: Surface,
  rest: TriMesh,
  place: Float64Array,
  context: SurfaceContext,
): Strength {
  const read = makeTriMesh({
    positions: carried(rest.positions, place, true),
    normals: carried(rest.normals, place, false),
    indices: rest.indices,
    uvs: rest.uvs,
  });
  const places = verticesOf({ id, rest, read });
  return (d) => {
    const field = 'mask' in d && d.mask !== null ? context.mask?.(d.mask) : undefined;
    return field?.at(places);
  };
}
