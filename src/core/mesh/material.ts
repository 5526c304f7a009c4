import { linearColor } from '../math/color';
import type { Vec3 } from '../math/vec3';

/** A picture as its file holds it. Maps that show the same one share the object. */
export interface Picture {
  mime: string;
  bytes: Uint8Array;
}

/** How a picture goes on beyond its edges. */
export type Wrap = 'repeat' | 'mirror' | 'clamp';

/** A picture of a material, and how it lies on the texture coordinates. */
export interface MaterialMap {
  picture: Picture;
  /** Along u and v. */
  wrap: [Wrap, Wrap];
  /** Seen from near: "near" shows its pixels. Absent: as the renderer likes. */
  magnified?: 'near' | 'linear';
  /** Seen from afar: within a picture, and from one of its smaller copies to the next, where it has some. */
  minified?: { within: 'near' | 'linear'; between: 'near' | 'linear' | null };
  /** Of the texture coordinates: moved by u, v, after being turned by radians and sized (KHR_texture_transform). */
  transform?: { offset: [number, number]; rotation: number; scale: [number, number] };
}

/** How alpha counts: not at all; from the cutoff on it is there; or as far as it says. */
export type Alpha = { mode: 'opaque' } | { mode: 'mask'; cutoff: number } | { mode: 'blend' };

/** One look of a mesh, as glTF's metallic-roughness materials say it. What is absent is as there. */
export interface MeshMaterial {
  name: string;
  /** Linear red, green, blue, alpha, 0–1. */
  color: [number, number, number, number];
  metallic: number;
  roughness: number;
  emissive: Vec3;
  /** Times as bright as `emissive` says (KHR_materials_emissive_strength). */
  emissiveStrength?: number;
  doubleSided: boolean;
  /** Opaque where absent. */
  alpha?: Alpha;
  /** Shown in its own colours, whatever the light (KHR_materials_unlit). */
  unlit?: boolean;
  /** Its colour is all: those of the vertices do not count. */
  plain?: boolean;
  /** Id of the material made by hand that it is to wear, where its mesh was put together from others. */
  wears?: string;
  /** Index of refraction (KHR_materials_ior). */
  ior?: number;
  maps?: {
    color?: MaterialMap;
    /** Tangent space; `scale` of its x and y. */
    normal?: MaterialMap & { scale: number };
    /** Green is roughness, blue metal. */
    metalRough?: MaterialMap;
    /** Red; 0 of its strength is none. */
    occlusion?: MaterialMap & { strength: number };
    emissive?: MaterialMap;
  };
}

/** A plain, hardly shiny material of one colour. @param color sRGB, as #rrggbb */
export const plainMaterial = (name: string, color: string, doubleSided: boolean): MeshMaterial => ({
  name,
  color: [...linearColor(color), 1] as [number, number, number, number],
  metallic: 0,
  roughness: 0.9,
  emissive: [0, 0, 0],
  doubleSided,
});
