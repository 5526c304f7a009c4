import type { Mesh as GltfMesh, Node as GltfNode } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import type { Placements } from '../arrange/result';
import { slotName } from '../arrange/slotId';
import type { PosedMesh } from '../arrange/poses/posable';
import { meshBounds, propMatrix, type Mesh } from '../mesh/mesh';
import type { Prop } from '../mesh/propSchema';
import type { GlbParts } from './glbParts';
import { addSnapsBelow } from './glbSnapPoints';

/** Rows of props as nodes or instances: what an arrangement has placed, and what a copy of a bundle holds. */

/** What of rows is written. */
export type RowValues = Pick<
  Placements,
  'slot' | 'prop' | 'position' | 'rotation' | 'scale' | 'tint' | 'shape' | 'bent' | 'pose' | 'posed'
>;

/** Rows that share a mesh. */
export interface RowGroup {
  prop: number;
  mirrored: boolean;
  /** Number of the shape of their own; -1 for the prop's mesh. */
  shape: number;
  /** Number of the pose that they stand in; -1 for none. */
  pose: number;
  /** "r,g,b" linear; empty for the prop's own colours. */
  tint: string;
  /** The arrangements within a bundle that they are of, from outside in; empty where they are in none. */
  way: string[];
  rows: number[];
}

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** Above this many tints instances carry theirs as an attribute (_TINT) instead of a mesh a tint. */
const MOST_TINTS = 32;

const tintOf = ({ tint }: RowValues, i: number): string =>
  tint ? [0, 1, 2].map((a) => Math.round(tint[i * 3 + a] * 255) / 255).join(',') : '';

/** Whether rows have so few tints that each has meshes of its own. */
export function fewTints(p: RowValues, rows: readonly number[]): boolean {
  const tints = new Set<string>();
  for (let k = 0; k < rows.length && tints.size <= MOST_TINTS; k++) tints.add(tintOf(p, rows[k]));
  return tints.size <= MOST_TINTS;
}

/** Rows by prop, mirroring, shape and, where tints are kept apart, tint; and by what they are of within a bundle. */
export function groupRows(
  p: RowValues,
  rows: readonly number[],
  apart: boolean,
  wayOf: (row: number) => string[] = () => [],
): RowGroup[] {
  const out = new Map<string, RowGroup>();
  for (const i of rows) {
    const shape = p.shape ? p.shape[i] : -1;
    const mirrored = shape < 0 && p.scale[i * 3] < 0;
    const tint = apart ? tintOf(p, i) : '';
    const pose = p.pose ? p.pose[i] : -1;
    const way = wayOf(i);
    const key = `${p.prop[i]} ${mirrored} ${shape} ${pose} ${tint} ${way.join()}`;
    const group = out.get(key);
    if (group) group.rows.push(i);
    else out.set(key, { prop: p.prop[i], mirrored, shape, pose, tint, way, rows: [i] });
  }
  return [...out.values()].sort((a, b) => a.prop - b.prop || Number(a.mirrored) - Number(b.mirrored));
}

/** The mesh of a prop in a pose: one for all that stand in it. */
export const posedMesh = (
  w: GlbParts,
  prop: Prop,
  mesh: Mesh,
  { key, positions, normals }: PosedMesh,
  mirrored: boolean,
): GltfMesh =>
  w.mesh(
    `${prop.id} ${key}${mirrored ? ' mirrored' : ''}`,
    prop.name,
    { ...mesh, positions, normals },
    SAME,
    mirrored,
  );

/** The mesh of a group, in its tint. @param of what shapes of their own belong to */
export function meshOfGroup(
  w: GlbParts,
  prop: Prop,
  mesh: Mesh,
  { bent, posed }: Pick<RowValues, 'bent' | 'posed'>,
  { shape, pose, mirrored, tint }: RowGroup,
  of: string,
): GltfMesh {
  const own = bent?.[shape];
  const plain = own
    ? w.mesh(
        `${prop.id} ${of} ${shape}`,
        `${prop.name}, bent`,
        { ...mesh, ...own, positions: Float32Array.from(own.positions) },
        SAME,
      )
    : posed?.[pose]
      ? posedMesh(w, prop, mesh, posed[pose], mirrored)
      : w.mesh(
          `${prop.id}${mirrored ? ' mirrored' : ''}`,
          prop.name,
          mesh,
          propMatrix(prop, meshBounds(mesh)),
          mirrored,
        );
  return tint ? w.tinted(plain, tint) : plain;
}

/** A row's scale; its mirroring is in the mesh, and that of a shape of its own is too. */
const sizeOf = (p: RowValues, row: number): [number, number, number] => {
  const [x, y, z] = p.scale.subarray(row * 3, row * 3 + 3);
  return [Math.abs(x), y, z];
};

/** One node with an instance a row. */
export function addInstanced(
  w: GlbParts,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: RowValues,
  { rows, tint, shape }: RowGroup,
  sized: boolean,
): void {
  const extension = w.document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  const pick = (from: Float64Array | Float32Array, width: number) => {
    const out = new Float32Array(rows.length * width);
    rows.forEach((row, i) => out.set(from.subarray(row * width, row * width + width), i * width));
    return out;
  };
  const size = (row: number) => (shape >= 0 && !sized ? [1, 1, 1] : sizeOf(p, row));
  const instances = extension
    .createInstancedMesh()
    .setAttribute('TRANSLATION', w.accessor('VEC3', pick(p.position, 3)))
    .setAttribute('ROTATION', w.accessor('VEC4', pick(p.rotation, 4)))
    .setAttribute('SCALE', w.accessor('VEC3', Float32Array.from(rows.flatMap(size))));
  if (p.tint && !tint) instances.setAttribute('_TINT', w.accessor('VEC3', pick(p.tint, 3)));
  const node = w.document.createNode(name).setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', instances);
  node.setExtras({ slots: rows.map((row) => slotName(p.slot[row])) });
  parent.addChild(node);
}

/** A node a row. @param snapsOf the prop whose snap points go along; null: none */
export function addNodes(
  w: GlbParts,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: RowValues,
  { rows, tint, mirrored, shape }: RowGroup,
  sized: boolean,
  snapsOf: Prop | null,
): void {
  for (const row of rows) {
    const slot = slotName(p.slot[row]);
    const node = placed(w, `${name} ${slot}`, p, row, shape >= 0 && !sized ? [1, 1, 1] : sizeOf(p, row))
      .setMesh(mesh)
      .setExtras({
        slot,
        prop: name,
        ...(p.tint && !tint && { tint: [...p.tint.subarray(row * 3, row * 3 + 3)] }),
      });
    if (snapsOf && shape < 0) addSnapsBelow(w.document, node, snapsOf, mirrored);
    parent.addChild(node);
  }
}

/** A node where a row stands. */
export const placed = (
  w: GlbParts,
  name: string,
  { position, rotation }: RowValues,
  row: number,
  scale: ArrayLike<number>,
): GltfNode =>
  w.document
    .createNode(name)
    .setTranslation([position[row * 3], position[row * 3 + 1], position[row * 3 + 2]])
    .setRotation([rotation[row * 4], rotation[row * 4 + 1], rotation[row * 4 + 2], rotation[row * 4 + 3]])
    .setScale([scale[0], scale[1], scale[2]]);
