import type { BufferGeometry, Material as ThreeMaterial } from 'three';
import type { Glow } from '@/core/light/lampSchema';
import { dressed, materialFor, wardrobe, type Wardrobe } from '@/core/mesh/dressed';
import type { MeshMaterial } from '@/core/mesh/material';
import type { Material } from '@/core/mesh/materialSchema';
import type { Mesh } from '@/core/mesh/mesh';
import { engine } from '@/store/engine';
import { setGlow, shinesWith } from './lamps/glowMaterial';
import { dresses, readyMaterial, undress, type DrawnMesh } from './sceneMeshes';

/** Drawn meshes in the materials made by hand that they wear. What is worn twice is made once. */

/** The looks of a mesh in a material; null: in what it was put together with. */
export function looksIn(
  { materials, uvs }: Pick<Mesh, 'materials' | 'uvs'>,
  id: string | null,
  from: Wardrobe,
): MeshMaterial[] {
  const asked = (id !== null && from.material(id)) || null;
  return materials.map((look) => {
    const m = materialFor(look, asked, from);
    return m ? dressed(look, m, from, uvs !== undefined) : look;
  });
}

/** Old materials are let go of when the frame that shows them has been drawn. */
const LET_GO_MS = 1000;

/** The materials of a scene, with the pictures that the page has. */
export const drawnWardrobe = (materials: readonly Material[]): Wardrobe =>
  wardrobe(materials, engine().bytesOf);

/**
 * A mesh in a material; the same geometry, so that nothing but its materials is made.
 * @param id of the material; null: what it was put together with
 * @param glow its own light, where the material has none
 */
export function inMaterial(
  plain: DrawnMesh,
  id: string | null,
  from: Wardrobe,
  glow: Glow | null,
  redraw: () => void,
): DrawnMesh {
  const asked = (id !== null && from.material(id)) || null;
  const by = plain.looks.map((look) => materialFor(look, asked, from));
  if (by.every((m) => m === undefined)) {
    shine(plain.materials, plain.geometry, () => glow);
    return plain;
  }
  const bare = by.some((m) => m?.picture && !from.picture(m.picture.hash));
  let all = dresses.get(plain.materials);
  if (!all) dresses.set(plain.materials, (all = new Map()));
  const key = asked?.id ?? '';
  const have = all.get(key);
  const isSame = have?.bare === bare && have.by.every((m, i) => m === by[i]);
  if (isSame && have.of === plain) {
    shine(have.drawn.materials, plain.geometry, (i) => by[i]?.glow ?? glow);
    return have.drawn;
  }
  const drawn = {
    ...plain,
    materials: isSame ? have.drawn.materials : made(plain, by, from, redraw),
  };
  if (have && !isSame) setTimeout(() => undress(have.drawn), LET_GO_MS);
  all.set(key, { by, bare, of: plain, drawn });
  shine(drawn.materials, drawn.geometry, (i) => by[i]?.glow ?? glow);
  return drawn;
}

function made(
  { looks, colored, geometry }: DrawnMesh,
  by: readonly (Material | undefined)[],
  from: Wardrobe,
  redraw: () => void,
): ThreeMaterial[] {
  const mapped = geometry.hasAttribute('uv');
  return looks.map((look, i) => {
    const m = by[i];
    return readyMaterial(m ? dressed(look, m, from, mapped) : look, colored, redraw);
  });
}

function shine(
  materials: readonly ThreeMaterial[],
  geometry: BufferGeometry,
  glowOf: (i: number) => Glow | null,
): void {
  materials.forEach((material, i) => setGlow(material, shinesWith(glowOf(i), geometry)));
}
