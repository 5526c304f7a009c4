import type { Document, Node } from '@gltf-transform/core';
import { normalize, type Vec3 } from '../math/vec3';
import type { Mesh } from '../mesh/mesh';

/** More of one file are left out: they would be something else. */
const MOST = 1000;

/**
 * Nodes without a mesh, a camera, children or bones, as the snap points that they are meant to be: where they stand, by
 * their names, pointing along their own Z. Those that stand at no number are left out.
 */
export function emptyNodes(document: Document): NonNullable<Mesh['snapPoints']> {
  const root = document.getRoot();
  const scene = root.getDefaultScene() ?? root.listScenes()[0];
  const bones = new Set(root.listSkins().flatMap((s) => s.listJoints()));
  const found: Node[] = [];
  scene?.traverse((node) => {
    const empty =
      !node.getMesh() && !node.getCamera() && node.listChildren().length === 0 && !bones.has(node);
    if (empty && node.listExtensions().length === 0 && found.length < MOST) found.push(node);
  });
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
