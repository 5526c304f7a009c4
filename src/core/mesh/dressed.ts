import { linearColor } from '../math/color';
import type { MeshMaterial, Picture } from './material';
import type { Material } from './materialSchema';

/** Meshes that wear materials made by hand: what each of their looks becomes. */

/** Materials by their ids, and the files of their pictures. */
export interface Wardrobe {
  material(id: string): Material | undefined;
  /** A picture that is at hand. */
  picture(hash: string): Picture | undefined;
}

/** Materials of a list, found by their ids. @param bytes of a file that is at hand */
export function wardrobe(
  materials: readonly Material[],
  bytes: (hash: string) => Uint8Array | undefined,
): Wardrobe {
  const byId = new Map(materials.map((m) => [m.id, m]));
  const formats = new Map(materials.map((m) => [m.picture?.hash, m.picture?.format]));
  return {
    material: (id) => byId.get(id),
    picture(hash) {
      const found = bytes(hash);
      return found && pictureOf(found, formats.get(hash) === 'jpeg' ? 'image/jpeg' : 'image/png');
    },
  };
}

const pictures = new WeakMap<Uint8Array, Picture>();

/** One object for what is one picture: it is decoded, and written, once. */
export function pictureOf(bytes: Uint8Array, mime: string): Picture {
  let made = pictures.get(bytes);
  if (!made) pictures.set(bytes, (made = { mime, bytes }));
  return made;
}

/** Looks that have nothing of what they were before: one for all that wear the same. */
const whole = new WeakMap<Material, Map<Picture | undefined, MeshMaterial>>();

/**
 * What a look becomes under a material made by hand. Its relief (normals, occlusion) and its edges (alpha) stay; its
 * colours and pictures do where the material has no colour. Glow is not in it: how bright that looks is by the size of
 * what wears it.
 * @param mapped whether the mesh has texture coordinates: without them no picture lies on it
 */
export function dressed(
  of: MeshMaterial,
  material: Material,
  { picture }: Pick<Wardrobe, 'picture'>,
  mapped: boolean,
): MeshMaterial {
  const shown = material.picture && mapped ? picture(material.picture.hash) : undefined;
  const isWhole = material.color !== null && !of.maps && !of.alpha && !of.doubleSided;
  if (!isWhole) return worn(of, material, shown);
  let made = whole.get(material);
  if (!made) whole.set(material, (made = new Map()));
  let look = made.get(shown);
  if (!look) made.set(shown, (look = worn(of, material, shown)));
  return look;
}

function worn(of: MeshMaterial, m: Material, picture: Picture | undefined): MeshMaterial {
  const { normal, occlusion, color } = of.maps ?? {};
  const own = picture && {
    picture,
    wrap: ['repeat', 'repeat'] as ['repeat', 'repeat'],
    transform: {
      offset: [0, 0] as [number, number],
      rotation: 0,
      scale: [m.repeatU, m.repeatV] as [number, number],
    },
  };
  const laid = own ?? (m.color === null ? color : undefined);
  const maps = { ...(laid && { color: laid }), ...(normal && { normal }), ...(occlusion && { occlusion }) };
  return {
    name: m.name,
    color: m.color === null ? of.color : [...linearColor(m.color), of.color[3]],
    metallic: m.metal,
    roughness: m.roughness,
    emissive: [0, 0, 0],
    doubleSided: of.doubleSided,
    ...(of.alpha && { alpha: of.alpha }),
    ...(m.color !== null && { plain: true }),
    ...(Object.keys(maps).length > 0 && { maps }),
  };
}

/** The material that a look is to wear: what is asked for its mesh, else what it was given where it was put together. */
export const materialFor = (
  look: MeshMaterial,
  asked: Material | null,
  { material }: Pick<Wardrobe, 'material'>,
): Material | undefined => asked ?? (look.wears === undefined ? undefined : material(look.wears));
