import { WebIO, type Mesh as GltfMesh, type Node as GltfNode } from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import { meshBounds, propMatrix } from '../mesh/mesh';
import { GlbParts } from './glbParts';
import { STATE, type Placements } from '../arrange/result';
import type { EvaluatedArrangement, Assets, SceneResult, SurfaceResult } from '../evaluate/scene';
import type { Arrangement } from '../arrange/registry';
import type { Prop } from '../mesh/propSchema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { slotName } from '../arrange/slotId';
import { addSnapsBelow, addSnapsOfRows, countSnaps } from './glbSnapPoints';
import { addCopies } from './glbCopies';
import type { GlbOptions } from './glbOptions';

import type { Inside } from '../arrange/inside';

/** Placed rows that share a mesh. */
interface Group {
  prop: number;
  mirrored: boolean;
  /** Number of the shape of their own; -1 for the prop's mesh. */
  shape: number;
  /** "r,g,b" linear; empty for the prop's own colours. */
  tint: string;
  rows: number[];
}

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** Above this many tints instances carry theirs as an attribute (_TINT) instead of a mesh a tint. */
const MOST_TINTS = 32;

/** What of a placed row is written apart from the others: what copies of bundles hold is written with each of them. */
const isPlain = (inside: Inside | undefined): ((row: number) => boolean) => {
  const copies = new Set(inside?.copy);
  return (row) => !copies.has(row);
};

/** Rows of the placed props by prop, mirroring and tint. */
function groupsOf(p: Placements, plain: (row: number) => boolean): Group[] {
  const tintOf = (i: number) =>
    p.tint ? [0, 1, 2].map((a) => Math.round(p.tint![i * 3 + a] * 255) / 255).join(',') : '';
  const tints = new Set<string>();
  for (let i = 0; i < p.count && tints.size <= MOST_TINTS; i++)
    if (p.state[i] === STATE.placed) tints.add(tintOf(i));
  const apart = tints.size <= MOST_TINTS;
  const out = new Map<string, Group>();
  for (let i = 0; i < p.count; i++) {
    if (p.state[i] !== STATE.placed || !plain(i)) continue;
    const shape = p.shape ? p.shape[i] : -1;
    const mirrored = shape < 0 && p.scale[i * 3] < 0;
    const tint = apart ? tintOf(i) : '';
    const key = `${p.prop[i]} ${mirrored} ${shape} ${tint}`;
    const group = out.get(key);
    if (group) group.rows.push(i);
    else out.set(key, { prop: p.prop[i], mirrored, shape, tint, rows: [i] });
  }
  return [...out.values()].sort((a, b) => a.prop - b.prop || Number(a.mirrored) - Number(b.mirrored));
}

/** A row's scale; its mirroring is in the mesh, and that of a shape of its own is too. */
const sizeOf = (p: Placements, row: number): [number, number, number] =>
  p.shape && p.shape[row] >= 0
    ? [1, 1, 1]
    : [Math.abs(p.scale[row * 3]), p.scale[row * 3 + 1], p.scale[row * 3 + 2]];

function addInstanced(
  w: GlbParts,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: Placements,
  { rows, tint }: Group,
): void {
  const extension = w.document.createExtension(EXTMeshGPUInstancing).setRequired(true);
  const pick = (from: Float64Array | Float32Array, width: number) => {
    const out = new Float32Array(rows.length * width);
    rows.forEach((row, i) => out.set(from.subarray(row * width, row * width + width), i * width));
    return out;
  };
  const instances = extension
    .createInstancedMesh()
    .setAttribute('TRANSLATION', w.accessor('VEC3', pick(p.position, 3)))
    .setAttribute('ROTATION', w.accessor('VEC4', pick(p.rotation, 4)))
    .setAttribute('SCALE', w.accessor('VEC3', Float32Array.from(rows.flatMap((row) => sizeOf(p, row)))));
  if (p.tint && !tint) instances.setAttribute('_TINT', w.accessor('VEC3', pick(p.tint, 3)));
  const node = w.document.createNode(name).setMesh(mesh).setExtension('EXT_mesh_gpu_instancing', instances);
  node.setExtras({ slots: rows.map((row) => slotName(p.slot[row])) });
  parent.addChild(node);
}

function addNodes(
  w: GlbParts,
  parent: GltfNode,
  name: string,
  mesh: GltfMesh,
  p: Placements,
  { rows, tint, mirrored, shape }: Group,
  snapsOf: Prop | null,
): void {
  for (const row of rows) {
    const slot = slotName(p.slot[row]);
    const node = w.document
      .createNode(`${name} ${slot}`)
      .setMesh(mesh)
      .setTranslation([p.position[row * 3], p.position[row * 3 + 1], p.position[row * 3 + 2]])
      .setRotation([
        p.rotation[row * 4],
        p.rotation[row * 4 + 1],
        p.rotation[row * 4 + 2],
        p.rotation[row * 4 + 3],
      ])
      .setScale(sizeOf(p, row))
      .setExtras({
        slot,
        prop: name,
        ...(p.tint && !tint && { tint: [...p.tint.subarray(row * 3, row * 3 + 3)] }),
      });
    if (snapsOf && shape < 0) addSnapsBelow(w.document, node, snapsOf, mirrored);
    parent.addChild(node);
  }
}

function addArrangement(
  w: GlbParts,
  arrangement: Arrangement,
  result: EvaluatedArrangement,
  props: Map<string, Prop>,
  assets: Assets,
  options: GlbOptions,
): void {
  const parent = w.document
    .createNode(arrangement.name)
    .setExtras({ kind: arrangement.kind, id: arrangement.id });
  const p = result.placements;
  for (const group of groupsOf(p, isPlain(result.inside))) {
    const prop = props.get(p.props[group.prop]);
    const mesh = prop && assets.mesh(prop.mesh);
    if (!prop || !mesh || mesh.indices.length < 3) continue;
    const bent = p.bent?.[group.shape];
    const key = bent
      ? `${prop.id} ${arrangement.id} ${group.shape}`
      : `${prop.id}${group.mirrored ? ' mirrored' : ''}`;
    const plain = bent
      ? w.mesh(
          key,
          `${prop.name}, bent`,
          { ...mesh, ...bent, positions: Float32Array.from(bent.positions) },
          SAME,
        )
      : w.mesh(key, prop.name, mesh, propMatrix(prop, meshBounds(mesh)), group.mirrored);
    const made = group.tint ? w.tinted(plain, group.tint) : plain;
    if (options.props === 'instanced') addInstanced(w, parent, prop.name, made, p, group);
    else addNodes(w, parent, prop.name, made, p, group, options.snaps ? prop : null);
  }
  if (result.inside) addCopies(w, parent, p, result.inside, props, assets, options);
  if (options.snaps && options.props === 'instanced') addSnapsOfRows(w.document, parent, p, props);
  if (parent.listChildren().length > 0) w.scene.addChild(parent);
}

function addSurface(w: GlbParts, surface: Surface, { mesh, matrix }: SurfaceResult): void {
  if (!mesh || mesh.indices.length < 3) return;
  const made = w.mesh(`surface ${surface.id}`, surface.name, mesh, matrix);
  w.scene.addChild(w.document.createNode(surface.name).setMesh(made).setExtras({ id: surface.id }));
}

/**
 * A binary glTF 2.0 of what is placed and visible: metres, Y up. Each prop's mesh is written once, with its foot
 * at the origin; nodes are named by arrangement and prop and carry slot names in their extras.
 */
export async function writeGlb(
  scene: Scene,
  result: SceneResult,
  assets: Assets,
  options: GlbOptions,
): Promise<Uint8Array> {
  const w = new GlbParts(scene.name);
  const props = new Map(scene.props.map((p) => [p.id, p]));
  if (options.snaps) {
    const shown = result.arrangements.filter((_, i) => scene.arrangements[i].visible);
    countSnaps(
      shown.map((r) => r.placements),
      props,
    );
  }
  scene.arrangements.forEach((a, i) => {
    if (a.visible) addArrangement(w, a, result.arrangements[i], props, assets, options);
  });
  if (options.surfaces)
    scene.surfaces.forEach((s, i) => {
      if (s.visible) addSurface(w, s, result.surfaces[i]);
    });
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(w.document);
}
