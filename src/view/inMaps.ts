import type { Material } from 'three';
import type { Baked } from '@/core/mesh/bake/bakeSchema';
import { bakedLook, picturesBy } from '@/core/mesh/bake/look';
import { engine } from '@/store/engine';
import { readyMaterial, undress, type DrawnMesh } from './sceneMeshes';

/** Meshes that wear baked maps, each as it was worn last. */
const kept = new WeakMap<Material[], { made: Baked['made']; drawn: DrawnMesh }>();
/** Old materials are let go of when the frame that shows the new ones has been drawn. */
const LET_GO_MS = 1000;

/** A drawn mesh in the maps that it wears; the same one where it wears none. */
export function inMaps(plain: DrawnMesh, baked: Baked | null, redraw: () => void): DrawnMesh {
  if (!baked?.shown || !baked.made || !plain.geometry.hasAttribute('uv')) return plain;
  const have = kept.get(plain.materials);
  if (have?.made === baked.made) return { ...plain, materials: have.drawn.materials };
  const picture = picturesBy(engine().bytesOf);
  const looks = plain.looks.map((look) => bakedLook(look, baked, picture));
  const drawn = {
    ...plain,
    looks,
    materials: looks.map((look) => readyMaterial(look, plain.colored, redraw)),
  };
  kept.set(plain.materials, { made: baked.made, drawn });
  if (have) setTimeout(() => undress(have.drawn), LET_GO_MS);
  return drawn;
}
