import type { Document, Node } from '@gltf-transform/core';
import { STATE, type Placements } from '../arrange/result';
import { slotName } from '../arrange/slotId';
import { snapInRow } from '../arrange/snapPlace';
import { quatBetween } from '../math/quat';
import { normalize, type Vec3 } from '../math/vec3';
import type { Bounds, Mesh } from '../mesh/mesh';
import type { Prop } from '../mesh/propSchema';

/** Snap points in a file: nodes without a mesh, each pointing along its own Z. */

/** More nodes than this are refused: nothing would open them. */
const MOST_SENT = 100_000;

/** More of one file are left out: they would be something else. */
const MOST = 1000;

/** Nodes without a mesh, a camera, children or bones. */
function nodesWithoutAnything(document: Document): Node[] {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const bones = new Set(root.listSkins().flatMap((s) => s.listJoints()));
  const found: Node[] = [];
  scene?.traverse((node) => {
    const empty =
      !node.getMesh() && !node.getCamera() && node.listChildren().length === 0 && !bones.has(node);
    if (empty && node.listExtensions().length === 0) found.push(node);
  });
  return found;
}

/** Whether a file has more such nodes than are taken as snap points. */
export const hasFurtherEmptyNodes = (document: Document): boolean =>
  nodesWithoutAnything(document).length > MOST;

/**
 * Nodes without a mesh, a camera, children or bones, as the snap points that they are meant to be: where they stand, by
 * their names, pointing along their own Z. Those that stand at no number are left out.
 */
export function emptyNodes(document: Document): NonNullable<Mesh['snapPoints']> {
  const found = nodesWithoutAnything(document).slice(0, MOST);
  const taken = new Set<string>();
  return found.flatMap((node, i) => {
    const m = node.getWorldMatrix();
    const position: Vec3 = [m[12], m[13], m[14]];
    const way: Vec3 = [m[8], m[9], m[10]];
    if (![...position, ...way].every(Number.isFinite)) return [];
    let name = node.getName().trim().slice(0, 180) || `point ${i + 1}`;
    for (let n = 2; taken.has(name); n++) name = `${node.getName().trim().slice(0, 180) || 'point'} ${n}`;
    taken.add(name);
    return [{ name, position, direction: normalize(way) }];
  });
}

const AHEAD: Vec3 = [0, 0, 1];
const NO_BOX: Bounds = { min: [0, 0, 0], max: [0, 0, 0] };

/** Puts the snap points of a prop below its node, in its own space. @param mirrored left and right, as its mesh is */
export function addSnapsBelow(document: Document, node: Node, prop: Prop, mirrored: boolean): void {
  const own = ([x, y, z]: Vec3): Vec3 => [mirrored ? -x : x, y, z];
  for (const { name, position, direction } of prop.snapPoints)
    node.addChild(
      document
        .createNode(name)
        .setTranslation(own(position))
        .setRotation(quatBetween(AHEAD, direction ? own(direction) : AHEAD)),
    );
}

/** Puts the snap points of all placed rows into a node, where they are in the scene; bent ones have none. */
export function addSnapsOfRows(
  document: Document,
  parent: Node,
  p: Placements,
  props: ReadonlyMap<string, Prop>,
): void {
  const factsOf = (id: string) => ({
    state: 'ready' as const,
    bounds: NO_BOX,
    snapPoints: props.get(id)?.snapPoints,
  });
  for (let row = 0; row < p.count; row++) {
    if (p.state[row] !== STATE.placed || (p.shape && p.shape[row] >= 0)) continue;
    const prop = props.get(p.props[p.prop[row]]);
    for (const { name } of prop?.snapPoints ?? []) {
      const place = snapInRow(p, row, name, factsOf)!;
      const node = document
        .createNode(name)
        .setTranslation(place.position)
        .setRotation(quatBetween(AHEAD, place.direction ?? AHEAD))
        .setExtras({ slot: slotName(p.slot[row]), prop: prop!.name });
      parent.addChild(node);
    }
  }
}

/** How many snap points some rows have. @throws where they are more than a file should hold */
export function countSnaps(placements: readonly Placements[], props: ReadonlyMap<string, Prop>): number {
  let count = 0;
  for (const p of placements) {
    const each = p.props.map((id) => props.get(id)?.snapPoints.length ?? 0);
    for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed) count += each[p.prop[i]] ?? 0;
  }
  if (count > MOST_SENT)
    throw new Error(
      `its snap points would be ${count.toLocaleString('en')} nodes, and ${MOST_SENT.toLocaleString('en')} are the most; send out fewer arrangements, or leave snap points out`,
    );
  return count;
}
