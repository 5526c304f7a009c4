import type { Node as GltfNode } from '@gltf-transform/core';
import { EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import type { Inside } from '../arrange/inside';
import type { Placements } from '../arrange/result';
import { slotName } from '../arrange/slotId';
import type { Assets } from '../evaluate/scene';
import { meshBounds, propMatrix } from '../mesh/mesh';
import type { Prop } from '../mesh/propSchema';
import type { GlbParts } from './glbParts';
import type { GlbOptions } from './glbOptions';

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];

/** What one copy holds: rows of the same prop, mirroring and shape together, and the copies that are nested in it. */
interface Held {
  leaves: Map<string, number[]>;
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
  assets: Assets,
  options: GlbOptions,
): void {
  const held = heldBy(inside);
  const fill = (node: GltfNode, key: string): void => {
    const own = held.get(key);
    for (const rows of own?.leaves.values() ?? []) addLeaves(w, node, inside, rows, props, assets, options);
    for (const row of own?.nested ?? []) {
      const prop = props.get(inside.props[inside.prop[row]]);
      const slot = slotName(inside.slot[row]);
      const copy = w.document
        .createNode(`${prop?.name ?? 'Bundle'} ${slot}`)
        .setTranslation([...inside.position.subarray(row * 3, row * 3 + 3)] as [number, number, number])
        .setRotation([...inside.rotation.subarray(row * 4, row * 4 + 4)] as [number, number, number, number])
        .setScale([...inside.scale.subarray(row * 3, row * 3 + 3)] as [number, number, number])
        .setExtras({ slot, prop: prop?.name });
      node.addChild(copy);
      fill(copy, `in ${row}`);
    }
  };
  for (const row of new Set(inside.copy)) {
    const prop = props.get(p.props[p.prop[row]]);
    const slot = slotName(p.slot[row]);
    const node = w.document
      .createNode(`${prop?.name ?? 'Bundle'} ${slot}`)
      .setTranslation([...p.position.subarray(row * 3, row * 3 + 3)] as [number, number, number])
      .setRotation([...p.rotation.subarray(row * 4, row * 4 + 4)] as [number, number, number, number])
      .setScale([...p.scale.subarray(row * 3, row * 3 + 3)] as [number, number, number])
      .setExtras({ slot, prop: prop?.name });
    parent.addChild(node);
    fill(node, `of ${row}`);
  }
}

/** What each copy holds, by "of" the row of a copy, or "in" the row of a nested one. */
function heldBy(inside: Inside): Map<string, Held> {
  const out = new Map<string, Held>();
  for (let i = 0; i < inside.count; i++) {
    const key = inside.parent[i] < 0 ? `of ${inside.copy[i]}` : `in ${inside.parent[i]}`;
    let held = out.get(key);
    if (!held) out.set(key, (held = { leaves: new Map(), nested: [] }));
    if (inside.bundle[i]) {
      held.nested.push(i);
      continue;
    }
    const shape = inside.shape?.[i] ?? -1;
    const tint = inside.tint
      ? [...inside.tint.subarray(i * 3, i * 3 + 3)].map((v) => Math.round(v * 255) / 255).join()
      : '';
    const like = `${inside.prop[i]} ${shape} ${shape < 0 && inside.scale[i * 3] < 0} ${tint}`;
    const rows = held.leaves.get(like);
    if (rows) rows.push(i);
    else held.leaves.set(like, [i]);
  }
  return out;
}

function addLeaves(
  w: GlbParts,
  node: GltfNode,
  inside: Inside,
  rows: readonly number[],
  props: ReadonlyMap<string, Prop>,
  assets: Assets,
  options: GlbOptions,
): void {
  const [first] = rows;
  const prop = props.get(inside.props[inside.prop[first]]);
  const mesh = prop && assets.mesh(prop.mesh);
  if (!prop || !mesh || mesh.indices.length < 3) return;
  const shape = inside.shape?.[first] ?? -1;
  const mirrored = shape < 0 && inside.scale[first * 3] < 0;
  const bent = inside.bent?.[shape];
  const plain = bent
    ? w.mesh(
        `${prop.id} within ${rows[0]}`,
        `${prop.name}, bent`,
        { ...mesh, ...bent, positions: Float32Array.from(bent.positions) },
        SAME,
      )
    : w.mesh(
        `${prop.id}${mirrored ? ' mirrored' : ''}`,
        prop.name,
        mesh,
        propMatrix(prop, meshBounds(mesh)),
        mirrored,
      );
  const tint = inside.tint?.subarray(first * 3, first * 3 + 3);
  const made = tint && tint.some((v) => v !== 1) ? w.tinted(plain, [...tint].join()) : plain;
  const sizes = (row: number) => [
    Math.abs(inside.scale[row * 3]),
    inside.scale[row * 3 + 1],
    inside.scale[row * 3 + 2],
  ];
  if (options.props === 'instanced') {
    const pick = (from: Float64Array, width: number) =>
      Float32Array.from(rows.flatMap((row) => [...from.subarray(row * width, row * width + width)]));
    const instances = w.document
      .createExtension(EXTMeshGPUInstancing)
      .setRequired(true)
      .createInstancedMesh()
      .setAttribute('TRANSLATION', w.accessor('VEC3', pick(inside.position, 3)))
      .setAttribute('ROTATION', w.accessor('VEC4', pick(inside.rotation, 4)))
      .setAttribute('SCALE', w.accessor('VEC3', Float32Array.from(rows.flatMap(sizes))));
    node.addChild(
      w.document
        .createNode(prop.name)
        .setMesh(made)
        .setExtension('EXT_mesh_gpu_instancing', instances)
        .setExtras({ slots: rows.map((row) => slotName(inside.slot[row])) }),
    );
    return;
  }
  for (const row of rows) {
    const slot = slotName(inside.slot[row]);
    node.addChild(
      w.document
        .createNode(`${prop.name} ${slot}`)
        .setMesh(made)
        .setTranslation([...inside.position.subarray(row * 3, row * 3 + 3)] as [number, number, number])
        .setRotation([...inside.rotation.subarray(row * 4, row * 4 + 4)] as [number, number, number, number])
        .setScale(sizes(row) as [number, number, number])
        .setExtras({ slot, prop: prop.name }),
    );
  }
}
