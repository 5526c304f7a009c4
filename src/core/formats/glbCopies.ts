import type { Node as GltfNode } from '@gltf-transform/core';
import { membersOf, type Inside } from '../arrange/inside';
import type { Placements } from '../arrange/result';
import { slotName } from '../arrange/slotId';
import type { Prop } from '../mesh/propSchema';
import type { GlbOptions } from './glbOptions';
import type { GlbParts } from './glbParts';
import { addInstanced, addNodes, fewTints, groupRows, meshOfGroup, placed, type RowValues } from './glbRows';
import type { WornMeshes } from './wornMeshes';

/** What one copy holds: rows of props, and of the copies that are nested in it. */
interface Held {
  leaves: number[];
  nested: number[];
}

/**
 * Writes copies of bundles: a node a copy, in it what it holds in its own space, nested copies as nodes in it. Instanced
 * where that is asked for.
 */
export function addCopies(
  w: GlbParts,
  parent: GltfNode,
  p: Placements,
  inside: Inside,
  props: ReadonlyMap<string, Prop>,
  worn: WornMeshes,
  options: GlbOptions,
): void {
  const { copyAt } = copyWriter(w, parent, inside, props, worn, options);
  for (const row of new Set(inside.copy)) copyAt(parent, p, row, p.props[p.prop[row]], `of ${row}`);
}

/**
 * Writes what copies hold. @returns `copyAt`: a node for a copy, with all that it holds; `fill`: what the copy in a row
 * holds, into a node that is there
 */
export function copyWriter(
  w: GlbParts,
  parent: GltfNode,
  inside: Inside,
  props: ReadonlyMap<string, Prop>,
  worn: WornMeshes,
  options: GlbOptions,
) {
  const held = heldBy(inside);
  const outer = String(parent.getExtras().id);
  const apart = fewTints(
    inside,
    [...held.values()].flatMap((h) => h.leaves),
  );
  const copyAt = (node: GltfNode, rows: RowValues, row: number, id: string, key: string): void => {
    const slot = slotName(rows.slot[row]);
    const prop = props.get(id)?.name ?? 'Bundle';
    const copy = placed(w, `${prop} ${slot}`, rows, row, rows.scale.subarray(row * 3, row * 3 + 3));
    node.addChild(copy.setExtras({ slot, prop }));
    fill(copy, key);
  };
  const fill = (node: GltfNode, key: string): void => {
    const own = held.get(key);
    for (const group of groupRows(inside, own?.leaves ?? [], apart, (row) => membersOf(inside, row))) {
      const prop = props.get(inside.props[group.prop]);
      const mesh = worn.ofProp(prop, outer, ...group.way);
      if (!prop || !mesh || mesh.indices.length < 3) continue;
      const made = meshOfGroup(w, prop, mesh, inside, group, `in ${outer}`);
      // What is bent in a bundle grows with the bundle.
      if (options.props === 'instanced') addInstanced(w, node, prop.name, made, inside, group, true);
      else addNodes(w, node, prop.name, made, inside, group, true, options.snaps ? prop : null);
    }
    for (const row of own?.nested ?? [])
      copyAt(node, inside, row, inside.props[inside.prop[row]], `in ${row}`);
  };
  return { copyAt, fill: (node: GltfNode, row: number) => fill(node, `of ${row}`) };
}

/** What each copy holds, by "of" the row of a copy, or "in" the row of a nested one. */
function heldBy(inside: Inside): Map<string, Held> {
  const out = new Map<string, Held>();
  for (let i = 0; i < inside.count; i++) {
    const key = inside.parent[i] < 0 ? `of ${inside.copy[i]}` : `in ${inside.parent[i]}`;
    let held = out.get(key);
    if (!held) out.set(key, (held = { leaves: [], nested: [] }));
    (inside.bundle[i] ? held.nested : held.leaves).push(i);
  }
  return out;
}
