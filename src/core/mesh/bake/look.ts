import { pictureOf } from '../dressed';
import type { MaterialMap, MeshMaterial, Picture } from '../material';
import type { PictureRef } from '../meshRef';
import type { Baked } from './bakeSchema';

/** A picture of maps as a material shows it: beyond its edges it is repeated, as what goes round asks for. */
const map = (picture: Picture): MaterialMap => ({ picture, wrap: ['repeat', 'repeat'] });

/**
 * What a look becomes with baked maps: its normals, its occlusion and its colours are theirs, as far as they were made.
 * @param picture one that is at hand
 */
export function bakedLook(
  of: MeshMaterial,
  { made }: Pick<Baked, 'made'>,
  picture: (ref: PictureRef) => Picture | undefined,
): MeshMaterial {
  const found = (ref: PictureRef | null | undefined) => (ref ? picture(ref) : undefined);
  const [normal, occlusion, color] = [found(made?.normal), found(made?.occlusion), found(made?.color)];
  if (!normal && !occlusion && !color) return of;
  return {
    ...of,
    // Its own colours are in the map.
    ...(color && { color: [1, 1, 1, of.color[3]] as MeshMaterial['color'], plain: true }),
    maps: {
      ...of.maps,
      ...(normal && { normal: { ...map(normal), scale: 1 } }),
      ...(occlusion && { occlusion: { ...map(occlusion), strength: 1 } }),
      ...(color && { color: map(color) }),
    },
  };
}

/** Finds the pictures of maps by their files. */
export const picturesBy =
  (bytes: (hash: string) => Uint8Array | undefined) =>
  ({ hash, format }: PictureRef): Picture | undefined => {
    const found = bytes(hash);
    return found && pictureOf(found, `image/${format}`);
  };
