import { BufferAttribute, BufferGeometry, Matrix4, type Material } from 'three';
import { computeBoundsTree, disposeBoundsTree } from 'three-mesh-bvh';
import type { PosedMesh } from '@/core/arrange/poses/posable';
import type { BentMesh } from '@/core/mesh/bend';
import type { DrawBatch } from '@/engine/drawBatch';
import type { ServedArrangement } from '@/engine/served';
import type { MeshMaterial } from '@/core/mesh/material';
import type { Material as HandMaterial } from '@/core/mesh/materialSchema';
import type { Mesh } from '@/core/mesh/mesh';
import type { MeshRef } from '@/core/mesh/meshRef';
import { disposeMaterial, drawnMaterial } from './materials';

/** A mesh on its way to the GPU. */
export interface DrawnMesh {
  geometry: BufferGeometry;
  materials: Material[];
  /** What its materials are drawn from, and whether its vertices have colours. */
  looks: MeshMaterial[];
  colored: boolean;
  /** What it was made from; absent for a shape that was worked out. */
  ref?: MeshRef | undefined;
  /** A shape that some rows have of their own. */
  ofRows?: true;
}

const withTree = BufferGeometry.prototype as BufferGeometry & {
  computeBoundsTree: typeof computeBoundsTree;
  disposeBoundsTree: typeof disposeBoundsTree;
};
withTree.computeBoundsTree = computeBoundsTree;
withTree.disposeBoundsTree = disposeBoundsTree;

/** A mesh mapped by `matrix` (column-major) as a buffer geometry. */
export function drawnGeometry(mesh: Mesh, matrix: ArrayLike<number>): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(mesh.positions.slice(), 3));
  geometry.setAttribute('normal', new BufferAttribute(mesh.normals.slice(), 3));
  if (mesh.uvs) geometry.setAttribute('uv', new BufferAttribute(mesh.uvs, 2));
  if (mesh.colors) geometry.setAttribute('color', new BufferAttribute(mesh.colors, 3));
  geometry.setIndex(new BufferAttribute(mesh.indices, 1));
  geometry.applyMatrix4(new Matrix4().fromArray(Array.from(matrix)));
  for (const g of mesh.groups) geometry.addGroup(g.start, g.count, g.material);
  return geometry;
}

/** A mesh ready to be drawn, with a tree for picking. */
export function drawnMesh(mesh: Mesh, matrix: ArrayLike<number>, redraw: () => void): DrawnMesh {
  const geometry = drawnGeometry(mesh, matrix);
  withTree.computeBoundsTree.call(geometry, { indirect: true });
  const colored = mesh.colors !== undefined;
  const looks = mesh.materials;
  return { geometry, materials: looks.map((m) => readyMaterial(m, colored, redraw)), looks, colored };
}

/** A material for drawing; what it is on is drawn anew when its pictures are there. */
export function readyMaterial(look: MeshMaterial, colored: boolean, redraw: () => void): Material {
  const { material, ready } = drawnMaterial(look, colored);
  if (look.maps) void ready.then(redraw);
  return material;
}

const mirrored = new WeakMap<BufferGeometry, BufferGeometry>();

/** The same mesh mirrored left to right, its faces still outside; made once. */
export function mirroredGeometry({ geometry }: DrawnMesh): BufferGeometry {
  let made = mirrored.get(geometry);
  if (made) return made;
  made = geometry.clone();
  made.applyMatrix4(new Matrix4().makeScale(-1, 1, 1));
  const index = made.getIndex()!;
  for (let i = 0; i < index.count; i += 3) {
    const [a, b] = [index.getX(i), index.getX(i + 1)];
    index.setX(i, b);
    index.setX(i + 1, a);
  }
  withTree.computeBoundsTree.call(made, { indirect: true });
  mirrored.set(geometry, made);
  return made;
}

export function disposeDrawn(drawn: DrawnMesh): void {
  mirrored.get(drawn.geometry)?.dispose();
  (drawn.geometry as typeof withTree).disposeBoundsTree?.();
  drawn.geometry.dispose();
  undress(drawn);
  dresses.get(drawn.materials)?.forEach((d) => undress(d.drawn));
}

/** A mesh in materials made by hand. */
export interface Dress {
  /** What each of its looks wears. */
  by: readonly (HandMaterial | undefined)[];
  /** Whether a picture was not at hand. */
  bare: boolean;
  of: DrawnMesh;
  drawn: DrawnMesh;
}

/** Meshes in materials made by hand, by the materials that they have themselves; they go when those do. */
export const dresses = new WeakMap<Material[], Map<string, Dress>>();

/** Lets go of all of a mesh but what it shares with others in other materials. */
export function undress(drawn: DrawnMesh): void {
  drawn.materials.forEach(disposeMaterial);
  poses.get(drawn)?.forEach(({ geometry }) => geometry.dispose());
}

const shaped = new WeakMap<BentMesh, DrawnMesh>();

/** Lets go of a shape that rows had of their own; the props' meshes stay. */
export function releaseShape(drawn: DrawnMesh): void {
  if (drawn.ofRows) drawn.geometry.dispose();
}

/** A shape that some rows have of their own as a buffer geometry. */
export function bentGeometry(bent: BentMesh): BufferGeometry {
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(Float32Array.from(bent.positions), 3));
  geometry.setAttribute('normal', new BufferAttribute(bent.normals, 3));
  if (bent.uvs) geometry.setAttribute('uv', new BufferAttribute(bent.uvs, 2));
  if (bent.colors) geometry.setAttribute('color', new BufferAttribute(bent.colors, 3));
  geometry.setIndex(new BufferAttribute(bent.indices, 1));
  for (const g of bent.groups) geometry.addGroup(g.start, g.count, g.material);
  return geometry;
}

/** Poses of drawn meshes, by their keys: made once, and there as long as what they are poses of. */
const poses = new WeakMap<DrawnMesh, Map<string, DrawnMesh>>();

/** A mesh in a pose: its vertices elsewhere, all else its own. */
function posedMesh(plain: DrawnMesh, { key, positions, normals }: PosedMesh): DrawnMesh {
  let made = poses.get(plain);
  if (!made) poses.set(plain, (made = new Map()));
  const have = made.get(key);
  if (have) return have;
  const geometry = new BufferGeometry();
  geometry.setAttribute('position', new BufferAttribute(positions, 3));
  geometry.setAttribute('normal', new BufferAttribute(normals, 3));
  for (const name of ['uv', 'color'] as const) {
    const shared = plain.geometry.getAttribute(name);
    if (shared) geometry.setAttribute(name, shared);
  }
  geometry.setIndex(plain.geometry.getIndex());
  for (const g of plain.geometry.groups) geometry.addGroup(g.start, g.count, g.materialIndex);
  const drawn = { ...plain, geometry };
  made.set(key, drawn);
  return drawn;
}

/** The mesh of a batch: the prop's own, or in its materials the shape that these rows have. */
export function shapedMesh(
  plain: DrawnMesh,
  { placements, inside }: ServedArrangement,
  { shape, pose, within }: DrawBatch,
): DrawnMesh {
  const posed = pose === undefined ? undefined : (within ? inside : placements)?.posed?.[pose];
  if (posed) return posedMesh(plain, posed);
  const bent = shape === undefined ? undefined : (within ? inside : placements)?.bent?.[shape];
  if (!bent) return plain;
  const have = shaped.get(bent);
  if (have?.materials === plain.materials) return have;
  const geometry = bentGeometry(bent);
  // Made anew at every step of a drag: a tree for picking would cost more than it saves.
  const made = { ...plain, geometry, ref: undefined, ofRows: true as const };
  shaped.set(bent, made);
  return made;
}
