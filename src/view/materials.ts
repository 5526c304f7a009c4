import {
  ClampToEdgeWrapping,
  Color,
  DoubleSide,
  FrontSide,
  LinearFilter,
  LinearMipmapLinearFilter,
  LinearMipmapNearestFilter,
  MeshBasicMaterial,
  MeshLambertMaterial,
  MeshStandardMaterial,
  MirroredRepeatWrapping,
  NearestFilter,
  NearestMipmapLinearFilter,
  NearestMipmapNearestFilter,
  NoColorSpace,
  RepeatWrapping,
  SRGBColorSpace,
  Texture,
  Vector2,
  type Material,
} from 'three';
import type { MaterialMap, MeshMaterial, Picture } from '@/core/mesh/material';
import { mirrors, mirrorSky } from './surround/sky';
import { SOFTWARE } from './software';

/** Materials of meshes as the scene draws them. Pictures are decoded once, whatever shows them. */

const WRAPS = { repeat: RepeatWrapping, mirror: MirroredRepeatWrapping, clamp: ClampToEdgeWrapping };
const FILTERS = {
  near: { none: NearestFilter, near: NearestMipmapNearestFilter, linear: NearestMipmapLinearFilter },
  linear: { none: LinearFilter, near: LinearMipmapNearestFilter, linear: LinearMipmapLinearFilter },
};

const images = new WeakMap<Picture, Promise<ImageBitmap | null>>();

/** A picture decoded; null for one that the browser cannot. */
function imageOf(picture: Picture): Promise<ImageBitmap | null> {
  let have = images.get(picture);
  if (!have) {
    const blob = new Blob([new Uint8Array(picture.bytes)], { type: picture.mime });
    images.set(picture, (have = createImageBitmap(blob).catch(() => null)));
  }
  return have;
}

async function textureOf(map: MaterialMap, isColor: boolean): Promise<Texture | null> {
  const image = await imageOf(map.picture);
  if (!image) return null;
  const texture = new Texture(image);
  texture.colorSpace = isColor ? SRGBColorSpace : NoColorSpace;
  texture.flipY = false;
  [texture.wrapS, texture.wrapT] = map.wrap.map((w) => WRAPS[w]);
  if (map.magnified) texture.magFilter = FILTERS[map.magnified].none as typeof texture.magFilter;
  if (map.minified) texture.minFilter = FILTERS[map.minified.within][map.minified.between ?? 'none'];
  if (map.transform) {
    const { offset, rotation, scale } = map.transform;
    texture.offset.set(...offset);
    texture.repeat.set(...scale);
    texture.rotation = rotation;
  }
  texture.needsUpdate = true;
  return texture;
}

type Shaded = MeshStandardMaterial | MeshLambertMaterial | MeshBasicMaterial;

/** What of a material's textures goes where. Those that a material does not know are left out. */
const SLOTS: { map: keyof NonNullable<MeshMaterial['maps']>; to: string[]; isColor: boolean }[] = [
  { map: 'color', to: ['map'], isColor: true },
  { map: 'normal', to: ['normalMap'], isColor: false },
  { map: 'metalRough', to: ['metalnessMap', 'roughnessMap'], isColor: false },
  { map: 'occlusion', to: ['aoMap'], isColor: false },
  { map: 'emissive', to: ['emissiveMap'], isColor: true },
];

/** A material for drawing; in software what is no metal is matt. @returns it, and when its pictures are on it */
export function drawnMaterial(
  m: MeshMaterial,
  colors: boolean,
  software = SOFTWARE,
): { material: Shaded; ready: Promise<void> } {
  const blends = m.alpha?.mode === 'blend';
  const look = {
    name: m.name,
    color: new Color(m.color[0], m.color[1], m.color[2]),
    opacity: m.alpha ? m.color[3] : 1,
    transparent: blends,
    depthWrite: !blends,
    alphaTest: m.alpha?.mode === 'mask' ? m.alpha.cutoff : 0,
    side: m.doubleSided ? DoubleSide : FrontSide,
    vertexColors: colors && !m.plain,
  };
  const { normal, occlusion } = m.maps ?? {};
  const lit = {
    ...look,
    emissive: new Color(...m.emissive),
    emissiveIntensity: m.emissiveStrength ?? 1,
    // Green is up the picture, and v runs down it.
    ...(normal && { normalScale: new Vector2(normal.scale, -normal.scale) }),
    ...(occlusion && { aoMapIntensity: occlusion.strength }),
  };
  const material = m.unlit
    ? new MeshBasicMaterial(look)
    : software && m.metallic === 0
      ? new MeshLambertMaterial(lit)
      : new MeshStandardMaterial({ ...lit, metalness: m.metallic, roughness: m.roughness });
  if (!m.unlit && mirrors(m.roughness, m.metallic)) mirrorSky(material, m.roughness, m.metallic, m.ior);
  return { material, ready: m.maps ? putMaps(m.maps, material) : Promise.resolve() };
}

async function putMaps(maps: NonNullable<MeshMaterial['maps']>, material: Shaded): Promise<void> {
  const to = material as unknown as Record<string, Texture | null>;
  await Promise.all(
    SLOTS.map(async ({ map, to: slots, isColor }) => {
      const given = maps[map];
      const known = slots.filter((slot) => slot in material);
      const texture = given && known.length > 0 ? await textureOf(given, isColor) : null;
      if (texture) for (const slot of known) to[slot] = texture;
    }),
  );
  material.needsUpdate = true;
}

/** Lets go of a material and of the pictures on it. */
export function disposeMaterial(material: Material): void {
  const held = material as unknown as Record<string, Texture | null | undefined>;
  for (const { to } of SLOTS) for (const slot of to) held[slot]?.dispose();
  material.dispose();
}
