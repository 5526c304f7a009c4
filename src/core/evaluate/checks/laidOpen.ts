import type { Inside } from '../../arrange/inside';
import { allocatePlacements, STATE, type ArrangementResult, type Placements } from '../../arrange/result';
import { turnAndSizes } from '../../math/affine';
import type { BentMesh } from '../../mesh/bend';

/** Sizes nearer to 1 than this are of a shape that has them already. */
const HAIR = 1e-12;

/**
 * Placements with what copies of bundles hold in the place of those copies, each with the slot of its copy.
 * @returns `from`: the row of the arrangement behind each; absent where nothing is a bundle, and they are its own
 */
export function laidOpen({ placements: p, inside }: Pick<ArrangementResult, 'placements' | 'inside'>): {
  placements: Placements;
  from?: Int32Array;
} {
  if (!inside) return { placements: p };
  const held = leavesOf(inside);
  const bundles = new Set([...held.keys()].map((row) => p.prop[row]));
  const rows: { own: number; leaf: number }[] = [];
  for (let own = 0; own < p.count; own++) {
    if (p.state[own] !== STATE.placed) continue;
    const leaves = held.get(own);
    if (leaves) for (const leaf of leaves) rows.push({ own, leaf });
    // A copy out of which all was taken stands nowhere.
    else if (!bundles.has(p.prop[own])) rows.push({ own, leaf: -1 });
  }
  const props = [...new Set([...p.props, ...inside.props])];
  const number = new Map(props.map((id, i) => [id, i]));
  const out = allocatePlacements(rows.length, props);
  const bent: BentMesh[] = [];
  const shape = new Int32Array(rows.length).fill(-1);
  rows.forEach(({ own, leaf }, i) => {
    out.slot[i] = p.slot[own];
    const of = leaf < 0 ? p : inside;
    const at = leaf < 0 ? own : leaf;
    out.prop[i] = number.get(of.props[of.prop[at]])!;
    const copied = leaf < 0 ? null : turnAndSizes(inside.matrix, leaf * 16);
    out.scale.set(copied?.scale ?? p.scale.subarray(own * 3, own * 3 + 3), i * 3);
    out.rotation.set(copied?.rotation ?? p.rotation.subarray(own * 4, own * 4 + 4), i * 4);
    const [places, from] = copied ? [inside.matrix, leaf * 16 + 12] : [p.position, own * 3];
    out.position.set(places.subarray(from, from + 3), i * 3);
    const made = of.bent?.[of.shape?.[at] ?? -1];
    if (!made) return;
    shape[i] = bent.length;
    bent.push(copied ? sized(made, copied.scale) : made);
  });
  if (bent.length > 0) Object.assign(out, { bent, shape });
  return { placements: out, from: Int32Array.from(rows, (r) => r.own) };
}

/** The rows of single props by the row of the copy that they are in. */
function leavesOf({ count, copy, bundle }: Inside): Map<number, number[]> {
  const out = new Map<number, number[]>();
  for (let i = 0; i < count; i++) {
    const list = out.get(copy[i]);
    if (!list) out.set(copy[i], bundle[i] ? [] : [i]);
    else if (!bundle[i]) list.push(i);
  }
  return out;
}

/** A shape with the sizes of its copy in it. */
function sized(mesh: BentMesh, scale: readonly number[]): BentMesh {
  if (scale.every((s) => Math.abs(s - 1) < HAIR)) return mesh;
  return { ...mesh, positions: mesh.positions.map((v, k) => v * scale[k % 3]) as BentMesh['positions'] };
}
