import { Primitive, type Node as GltfNode } from '@gltf-transform/core';
import type { DrawnLines } from '../arrange/drawnLines';
import { slotName } from '../arrange/slotId';
import type { GlbParts } from './glbParts';

/** What a bare line is drawn in: ink, linear. */
const INK: [number, number, number, number] = [0.013, 0.023, 0.037, 1];

/** Writes bare lines as a node with line primitives: all lines of an arrangement in one, by their slots. */
export function addLines(w: GlbParts, parent: GltfNode, name: string, lines: DrawnLines): void {
  const { each, position, slot } = lines;
  const count = each > 1 ? Math.floor(position.length / 3 / each) : 0;
  if (count === 0) return;
  const indices = new Uint32Array(count * (each - 1) * 2);
  for (let line = 0, o = 0; line < count; line++)
    for (let k = 0; k + 1 < each; k++) {
      indices[o++] = line * each + k;
      indices[o++] = line * each + k + 1;
    }
  const primitive = w.document
    .createPrimitive()
    .setMode(Primitive.Mode.LINES)
    .setAttribute('POSITION', w.accessor('VEC3', position.slice()))
    .setIndices(w.accessor('SCALAR', indices))
    .setMaterial(
      w.document.createMaterial('Line').setBaseColorFactor(INK).setRoughnessFactor(1).setMetallicFactor(0),
    );
  const mesh = w.document.createMesh(name).addPrimitive(primitive);
  parent.addChild(
    w.document
      .createNode(`${name}, lines`)
      .setMesh(mesh)
      .setExtras({ lines: Array.from(slot, slotName) }),
  );
}
