import type { Document, Primitive } from '@gltf-transform/core';
import { hasFurtherEmptyNodes } from './glbSnapPoints';
import { isOnFirst, PICTURES_OF } from './glbMaterials';

/** Extensions whose content is kept, or that only say how it is packed. */
const KEPT = new Set([
  'EXT_meshopt_compression',
  'EXT_mesh_gpu_instancing',
  'EXT_texture_avif',
  'EXT_texture_webp',
  'KHR_materials_emissive_strength',
  'KHR_materials_ior',
  'KHR_materials_unlit',
  'KHR_mesh_quantization',
  'KHR_texture_basisu',
  'KHR_texture_transform',
]);

/** What the commonest ones are called. */
const NAMES: Record<string, string> = {
  KHR_lights_punctual: 'lights',
  KHR_materials_anisotropy: 'brushed metal',
  KHR_materials_clearcoat: 'clear coat',
  KHR_materials_iridescence: 'iridescence',
  KHR_materials_pbrSpecularGlossiness: 'specular and glossiness',
  KHR_materials_sheen: 'sheen',
  KHR_materials_specular: 'tinted highlights',
  KHR_materials_transmission: 'transmission of light',
  KHR_materials_variants: 'variants of materials',
  KHR_materials_volume: 'coloured glass',
};

/** What a file has beside its faces, materials and motions: it does not come in. In words, each once. */
export function notKept(document: Document): string[] {
  const root = document.getRoot();
  const found = root
    .listExtensionsUsed()
    .map((e) => e.extensionName)
    .filter((name) => !KEPT.has(name))
    .map((name) => NAMES[name] ?? name);
  if (root.listCameras().length > 0) found.push('cameras');
  if (root.listScenes().length > 1) found.push('further scenes');
  const primitives = root.listMeshes().flatMap((mesh) => mesh.listPrimitives());
  if (primitives.some((p) => p.getMode() < 4)) found.push('points and lines');
  if (primitives.some(isSheer)) found.push('transparency of vertices');
  const infos = root
    .listMaterials()
    .flatMap((m) => Object.values(PICTURES_OF).map((slot) => m[`get${slot}TextureInfo`]()));
  if (infos.some((info) => info && !isOnFirst(info))) found.push('pictures on further texture coordinates');
  if (hasFurtherEmptyNodes(document)) found.push('snap points beyond the first thousand');
  return [...new Set(found)];
}

/** Whether any of its vertices has a colour that is not whole. */
function isSheer(primitive: Primitive): boolean {
  const color = primitive.getAttribute('COLOR_0');
  if (color?.getType() !== 'VEC4') return false;
  const el = [0, 0, 0, 0];
  for (let i = 0; i < color.getCount(); i++) if (color.getElement(i, el)[3] < 1) return true;
  return false;
}
