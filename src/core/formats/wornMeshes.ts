import type { Assets } from '../evaluate/scene';
import { bakedLook, picturesBy } from '../mesh/bake/look';
import type { Surface } from '../mesh/surfaceSchema';
import { dressed, materialFor, wardrobe, type Wardrobe } from '../mesh/dressed';
import type { MeshMaterial } from '../mesh/material';
import type { Material } from '../mesh/materialSchema';
import type { Mesh } from '../mesh/mesh';
import { linearColor } from '../math/color';
import type { Prop } from '../mesh/propSchema';
import { wornAmong, type WornBy } from '../scene/worn';
import type { Scene } from '../scene/schema';

/** Meshes as a file shows them: in the materials made by hand that they wear. */
export class WornMeshes {
  private wardrobe: Wardrobe;
  private worn: WornBy;
  private made = new Map<MeshMaterial[], Map<Material | null, MeshMaterial[]>>();

  constructor(
    scene: Pick<Scene, 'materials' | 'arrangements'>,
    private assets: Assets,
  ) {
    this.wardrobe = wardrobe(scene.materials, (hash) => assets.bytes?.(hash));
    this.worn = wornAmong(scene.arrangements);
  }

  /** The mesh of a prop that arrangements, from outside in, have placed; undefined where it is not at hand. */
  ofProp(prop: Prop | undefined, ...placedBy: readonly string[]): Mesh | undefined {
    const mesh = prop && this.assets.mesh(prop.mesh);
    return mesh && this.wearing(mesh, this.worn(prop, placedBy));
  }

  /** A surface’s mesh in its material, and in the maps that it wears. */
  ofSurface(mesh: Mesh, { material, baked }: Pick<Surface, 'material' | 'baked'>): Mesh {
    const worn = this.wearing(mesh, material);
    if (!baked?.shown || !mesh.uvs) return worn;
    const picture = picturesBy((hash) => this.assets.bytes?.(hash));
    return { ...worn, materials: worn.materials.map((look) => bakedLook(look, baked, picture)) };
  }

  /** A mesh in a material; null: in what it was put together with. Meshes in the same share one list of looks. */
  wearing(mesh: Mesh, id: string | null): Mesh {
    const material = (id !== null && this.wardrobe.material(id)) || null;
    if (!material && mesh.materials.every((m) => m.wears === undefined)) return mesh;
    let made = this.made.get(mesh.materials);
    if (!made) this.made.set(mesh.materials, (made = new Map()));
    let materials = made.get(material);
    if (!materials) {
      materials = mesh.materials.map((look) => {
        const worn = materialFor(look, material, this.wardrobe);
        return worn ? shining(dressed(look, worn, this.wardrobe, mesh.uvs !== undefined), worn) : look;
      });
      made.set(material, materials);
    }
    return { ...mesh, materials };
  }
}

const lit = new WeakMap<MeshMaterial, Map<Material, MeshMaterial>>();

/** A look with the light of its own that its material gives: as bright as white, where the file has no other measure. */
function shining(look: MeshMaterial, material: Material): MeshMaterial {
  const { glow } = material;
  if (!glow || glow.strength === 0) return look;
  let made = lit.get(look);
  if (!made) lit.set(look, (made = new Map()));
  let shines = made.get(material);
  if (!shines) {
    const color = linearColor(glow.color);
    made.set(
      material,
      (shines = { ...look, emissive: [0, 1, 2].map((k) => color[k] * look.color[k]) as typeof color }),
    );
  }
  return shines;
}
