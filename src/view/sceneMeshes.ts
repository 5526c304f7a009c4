import {
  BufferAttribute,
  BufferGeometry,
  Color,
  DoubleSide,
  FrontSide,
  Matrix4,
  MeshLambertMaterial,
  MeshStandardMaterial,
  SRGBColorSpace,
  Texture,
  type Material,
} from 'three';
import { computeBoundsTree, disposeBoundsTree } from 'three-mesh-bvh';
import type { Mesh, MeshMaterial } from '@/core/mesh/mesh';

/** A mesh on its way to the GPU. */
export interface DrawnMesh {
  geometry: BufferGeometry;
  materials: Material[];
  /** Cheaper ones of the same colours, for while the view moves. */
  coarse: Material[];
}

const withTree = BufferGeometry.prototype as BufferGeometry & {
  computeBoundsTree: typeof computeBoundsTree;
  disposeBoundsTree: typeof disposeBoundsTree;
};
withTree.computeBoundsTree = computeBoundsTree;
withTree.disposeBoundsTree = disposeBoundsTree;

function drawnMaterial(m: MeshMaterial, colors: boolean, redraw: () => void): MeshStandardMaterial {
  const material = new MeshStandardMaterial({
    name: m.name,
    color: new Color(m.color[0], m.color[1], m.color[2]),
    opacity: m.color[3],
    transparent: m.color[3] < 1,
    metalness: m.metallic,
    roughness: m.roughness,
    emissive: new Color(...m.emissive),
    side: m.doubleSided ? DoubleSide : FrontSide,
    vertexColors: colors,
  });
  if (m.texture) void loadTexture(m.texture, material, redraw);
  return material;
}

const coarseMaterial = (m: MeshStandardMaterial): MeshLambertMaterial =>
  new MeshLambertMaterial({
    color: m.color,
    opacity: m.opacity,
    transparent: m.transparent,
    emissive: m.emissive,
    side: m.side,
    vertexColors: m.vertexColors,
  });

async function loadTexture(
  t: NonNullable<MeshMaterial['texture']>,
  to: MeshStandardMaterial,
  redraw: () => void,
): Promise<void> {
  try {
    const image = await createImageBitmap(new Blob([new Uint8Array(t.bytes)], { type: t.mime }));
    const texture = new Texture(image);
    texture.colorSpace = SRGBColorSpace;
    texture.flipY = false;
    texture.needsUpdate = true;
    to.map = texture;
    to.needsUpdate = true;
    redraw();
  } catch {
    // A picture that the browser cannot decode leaves the plain colour.
  }
}

/** A mesh mapped by `matrix` (column-major) into a buffer geometry, with a tree where it will be picked. */
export function drawnMesh(
  mesh: Mesh,
  matrix: ArrayLike<number>,
  redraw: () => void,
  picked = true,
): DrawnMesh {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions.slice(), 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals.slice(), 3));
  if (mesh.uvs) geometry.setAttribute('uv', new BufferAttribute(mesh.uvs, 2));
  if (mesh.colors) geometry.setAttribute('color', new BufferAttribute(mesh.colors, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  geometry.applyMatrix4(new Matrix4().fromArray(Array.from(matrix)));
  for (const g of mesh.groups) geometry.addGroup(g.start, g.count, g.material);
  if (picked) withTree.computeBoundsTree.call(geometry, { indirect: true });
  const materials = mesh.materials.map((m) => drawnMaterial(m, mesh.colors !== undefined, redraw));
  return { geometry, materials, coarse: materials.map(coarseMaterial) };
}

export function disposeDrawn(drawn: DrawnMesh): void {
  (drawn.geometry as typeof withTree).disposeBoundsTree?.();
  drawn.geometry.dispose();
  for (const m of [...drawn.materials, ...drawn.coarse]) {
    (m as MeshStandardMaterial).map?.dispose();
    m.dispose();
  }
}
