import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { GlbParts } from './glbParts';
import { STATE, type Placements } from '../arrange/result';
import type { EvaluatedArrangement, Assets, SceneResult, SurfaceResult } from '../evaluate/scene';
import type { Arrangement } from '../arrange/registry';
import type { Prop } from '../mesh/propSchema';
import type { Scene } from '../scene/schema';
import type { Surface } from '../mesh/surfaceSchema';
import { addSnapsOfRows, countSnaps } from './glbSnapPoints';
import { addLights } from './glbLights';
import { addLines } from './glbLines';
import { addCopies } from './glbCopies';
import { addInstanced, addNodes, fewTints, groupRows, meshOfGroup } from './glbRows';
import type { GlbOptions } from './glbOptions';
import { WornMeshes } from './wornMeshes';

import type { Inside } from '../arrange/inside';

/** The placed rows that are written one beside the other: copies of bundles are written with what they hold. */
function plainRows(p: Placements, inside: Inside | undefined): number[] {
  const copies = new Set(inside?.copy);
  const rows: number[] = [];
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed && !copies.has(i)) rows.push(i);
  return rows;
}

function addArrangement(
  w: GlbParts,
  arrangement: Arrangement,
  result: EvaluatedArrangement,
  props: Map<string, Prop>,
  worn: WornMeshes,
  options: GlbOptions,
): void {
  const parent = w.document
    .createNode(arrangement.name)
    .setExtras({ kind: arrangement.kind, id: arrangement.id });
  const p = result.placements;
  const rows = plainRows(p, result.inside);
  for (const group of groupRows(p, rows, fewTints(p, rows))) {
    const prop = props.get(p.props[group.prop]);
    const mesh = worn.ofProp(prop, arrangement.id);
    if (!prop || !mesh || mesh.indices.length < 3) continue;
    const made = meshOfGroup(w, prop, mesh, p, group, arrangement.id);
    if (options.props === 'instanced') addInstanced(w, parent, prop.name, made, p, group, false);
    else addNodes(w, parent, prop.name, made, p, group, false, options.snaps ? prop : null);
  }
  if (result.inside) addCopies(w, parent, p, result.inside, props, worn, options);
  // Lines that nothing runs along are all that there is of them.
  if (result.lines && p.count === 0) addLines(w, parent, arrangement.name, result.lines);
  if (result.inside?.lines) addLines(w, parent, arrangement.name, result.inside.lines);
  if (options.snaps && options.props === 'instanced') addSnapsOfRows(w.document, parent, p, props);
  if (parent.listChildren().length > 0) w.scene.addChild(parent);
}

function addSurface(w: GlbParts, surface: Surface, { mesh, matrix }: SurfaceResult, worn: WornMeshes): void {
  if (!mesh || mesh.indices.length < 3) return;
  const made = w.mesh(`surface ${surface.id}`, surface.name, worn.ofSurface(mesh, surface), matrix);
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
  const worn = new WornMeshes(scene, assets);
  const props = new Map(scene.props.map((p) => [p.id, p]));
  if (options.snaps) {
    const shown = result.arrangements.filter((_, i) => scene.arrangements[i].visible);
    countSnaps(
      shown.map((r) => r.placements),
      props,
    );
  }
  scene.arrangements.forEach((a, i) => {
    if (a.visible) addArrangement(w, a, result.arrangements[i], props, worn, options);
  });
  if (options.surfaces)
    scene.surfaces.forEach((s, i) => {
      if (s.visible) addSurface(w, s, result.surfaces[i], worn);
    });
  if (options.lights) addLights(w, scene, result);
  return new WebIO().registerExtensions(ALL_EXTENSIONS).writeBinary(w.document);
}
