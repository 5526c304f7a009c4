import type { Document, Extension, Material, Texture, TextureInfo } from '@gltf-transform/core';
import {
  EXTTextureAVIF,
  EXTTextureWebP,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsUnlit,
  KHRTextureBasisu,
  KHRTextureTransform,
  type EmissiveStrength,
  type IOR,
  type Transform,
} from '@gltf-transform/extensions';
import type { Alpha, MaterialMap, MeshMaterial, Picture, Wrap } from '../mesh/material';

/** Materials between glTF and meshes, both ways: whatever {@link MeshMaterial} has is kept from file to file. */

/** The look of faces that name no material. */
export const PLAIN: MeshMaterial = {
  name: 'plain',
  color: [0.8, 0.8, 0.8, 1],
  metallic: 0,
  roughness: 0.9,
  emissive: [0, 0, 0],
  doubleSided: false,
};

const WRAPS: Record<number, Wrap> = { 10497: 'repeat', 33648: 'mirror', 33071: 'clamp' };
const WRAP_CODES = { repeat: 10497, mirror: 33648, clamp: 33071 } as const;
const MAGNIFIED: Record<number, MaterialMap['magnified']> = { 9728: 'near', 9729: 'linear' };
const MAG_CODES = { near: 9728, linear: 9729 } as const;
/** glTF's numbers: within a picture, and between its smaller copies. */
const MINIFIED: Record<number, NonNullable<MaterialMap['minified']>> = {
  9728: { within: 'near', between: null },
  9729: { within: 'linear', between: null },
  9984: { within: 'near', between: 'near' },
  9985: { within: 'linear', between: 'near' },
  9986: { within: 'near', between: 'linear' },
  9987: { within: 'linear', between: 'linear' },
};
const minCode = ({ within, between }: NonNullable<MaterialMap['minified']>): number =>
  Number(
    Object.keys(MINIFIED).find((k) => MINIFIED[+k].within === within && MINIFIED[+k].between === between),
  );

/** What glTF calls the picture of each map, in the names of its properties. */
export const PICTURES_OF = {
  color: 'BaseColor',
  normal: 'Normal',
  metalRough: 'MetallicRoughness',
  occlusion: 'Occlusion',
  emissive: 'Emissive',
} as const;
type MapName = keyof typeof PICTURES_OF;
const MAP_NAMES = Object.keys(PICTURES_OF) as MapName[];

/** Whether a map lies on the first texture coordinates; those on others are not kept. */
export const isOnFirst = (info: TextureInfo): boolean =>
  (info.getExtension<Transform>('KHR_texture_transform')?.getTexCoord() ?? info.getTexCoord()) === 0;

/** The materials of a file, in its order. Pictures that several show are one object. */
export function readMaterials(document: Document): MeshMaterial[] {
  const pictures = new Map<Texture, Picture>();
  const pictureOf = (texture: Texture): Picture | undefined => {
    const have = pictures.get(texture);
    const bytes = texture.getImage();
    if (have || !bytes) return have;
    const made = { mime: texture.getMimeType(), bytes };
    pictures.set(texture, made);
    return made;
  };
  const read = (texture: Texture | null, info: TextureInfo | null): MaterialMap | undefined => {
    const picture = texture && info && isOnFirst(info) ? pictureOf(texture) : undefined;
    if (!picture || !info) return undefined;
    const transform = info.getExtension<Transform>('KHR_texture_transform');
    const [mag, min] = [info.getMagFilter(), info.getMinFilter()];
    return {
      picture,
      wrap: [WRAPS[info.getWrapS()] ?? 'repeat', WRAPS[info.getWrapT()] ?? 'repeat'],
      ...(mag !== null && MAGNIFIED[mag] && { magnified: MAGNIFIED[mag] }),
      ...(min !== null && MINIFIED[min] && { minified: MINIFIED[min] }),
      ...(transform && {
        transform: {
          offset: [...transform.getOffset()] as [number, number],
          rotation: transform.getRotation(),
          scale: [...transform.getScale()] as [number, number],
        },
      }),
    };
  };
  return document
    .getRoot()
    .listMaterials()
    .map((m) => readMaterial(m, read));
}

function readMaterial(
  m: Material,
  read: (texture: Texture | null, info: TextureInfo | null) => MaterialMap | undefined,
): MeshMaterial {
  const found: Partial<Record<MapName, MaterialMap>> = {};
  for (const map of MAP_NAMES) {
    const slot = PICTURES_OF[map];
    const made = read(m[`get${slot}Texture`](), m[`get${slot}TextureInfo`]());
    if (made) found[map] = made;
  }
  const { normal, occlusion, ...rest } = found;
  const maps = {
    ...rest,
    ...(normal && { normal: { ...normal, scale: m.getNormalScale() } }),
    ...(occlusion && { occlusion: { ...occlusion, strength: m.getOcclusionStrength() } }),
  };
  const alpha = alphaOf(m);
  const strength = m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength');
  const ior = m.getExtension<IOR>('KHR_materials_ior');
  return {
    name: m.getName() || 'material',
    color: [...m.getBaseColorFactor()],
    metallic: m.getMetallicFactor(),
    roughness: m.getRoughnessFactor(),
    emissive: [...m.getEmissiveFactor()],
    doubleSided: m.getDoubleSided(),
    ...(alpha.mode !== 'opaque' && { alpha }),
    ...(strength && { emissiveStrength: strength.getEmissiveStrength() }),
    ...(ior && { ior: ior.getIOR() }),
    ...(m.getExtension('KHR_materials_unlit') && { unlit: true }),
    ...(Object.keys(maps).length > 0 && { maps }),
  };
}

function alphaOf(m: Material): Alpha {
  const mode = m.getAlphaMode();
  if (mode === 'MASK') return { mode: 'mask', cutoff: m.getAlphaCutoff() };
  return { mode: mode === 'BLEND' ? 'blend' : 'opaque' };
}

/** Formats of pictures that a file has to name an extension for. */
const PICTURES: Record<string, new (document: Document) => Extension> = {
  'image/webp': EXTTextureWebP,
  'image/avif': EXTTextureAVIF,
  'image/ktx2': KHRTextureBasisu,
};

/** The materials of a file that is written: each look once, each picture once, whatever shows them. */
export class MaterialWriter {
  private looks = new Map<MeshMaterial, Material>();
  private tints = new Map<Material, Map<string, Material>>();
  private pictures = new Map<Picture, Texture>();

  constructor(private document: Document) {}

  material(m: MeshMaterial): Material {
    let made = this.looks.get(m);
    if (!made) this.looks.set(m, (made = this.make(m)));
    return made;
  }

  /** A look with its colour multiplied. @param tint linear red, green, blue, with commas */
  tinted(material: Material, tint: string): Material {
    let tints = this.tints.get(material);
    if (!tints) this.tints.set(material, (tints = new Map()));
    let made = tints.get(tint);
    if (!made) {
      const [red, green, blue] = tint.split(',').map(Number);
      const [r, g, b, a] = material.getBaseColorFactor();
      made = material.clone().setBaseColorFactor([r * red, g * green, b * blue, a]);
      tints.set(tint, made);
    }
    return made;
  }

  private make(m: MeshMaterial): Material {
    const out = this.document
      .createMaterial(m.name)
      .setBaseColorFactor(m.color)
      .setMetallicFactor(m.metallic)
      .setRoughnessFactor(m.roughness)
      .setEmissiveFactor(m.emissive)
      .setDoubleSided(m.doubleSided);
    const { alpha, maps } = m;
    if (alpha?.mode === 'mask') out.setAlphaMode('MASK').setAlphaCutoff(alpha.cutoff);
    else if (alpha?.mode === 'blend') out.setAlphaMode('BLEND');
    if (m.emissiveStrength !== undefined)
      out.setExtension(
        'KHR_materials_emissive_strength',
        this.document
          .createExtension(KHRMaterialsEmissiveStrength)
          .createEmissiveStrength()
          .setEmissiveStrength(m.emissiveStrength),
      );
    if (m.ior !== undefined)
      out.setExtension(
        'KHR_materials_ior',
        this.document.createExtension(KHRMaterialsIOR).createIOR().setIOR(m.ior),
      );
    if (m.unlit)
      out.setExtension('KHR_materials_unlit', this.document.createExtension(KHRMaterialsUnlit).createUnlit());
    if (maps?.normal) out.setNormalScale(maps.normal.scale);
    if (maps?.occlusion) out.setOcclusionStrength(maps.occlusion.strength);
    for (const name of MAP_NAMES) {
      const map = maps?.[name];
      const slot = PICTURES_OF[name];
      if (map) this.lay(map, out[`set${slot}Texture`](this.texture(map))[`get${slot}TextureInfo`]()!);
    }
    return out;
  }

  private texture({ picture }: MaterialMap): Texture {
    let made = this.pictures.get(picture);
    if (!made) {
      const extension = PICTURES[picture.mime];
      if (extension) this.document.createExtension(extension).setRequired(true);
      made = this.document
        .createTexture()
        .setImage(picture.bytes as Uint8Array<ArrayBuffer>)
        .setMimeType(picture.mime);
      this.pictures.set(picture, made);
    }
    return made;
  }

  private lay({ wrap, magnified, minified, transform }: MaterialMap, info: TextureInfo): void {
    info.setWrapS(WRAP_CODES[wrap[0]]).setWrapT(WRAP_CODES[wrap[1]]);
    if (magnified) info.setMagFilter(MAG_CODES[magnified]);
    if (minified) info.setMinFilter(minCode(minified) as never);
    if (transform)
      info.setExtension(
        'KHR_texture_transform',
        this.document
          .createExtension(KHRTextureTransform)
          .createTransform()
          .setOffset(transform.offset)
          .setRotation(transform.rotation)
          .setScale(transform.scale),
      );
  }
}
