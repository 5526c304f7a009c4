import { kindOf, needsOf, surfacesOf, type Arrangement } from '../../arrange/registry';
import { meshesCross } from '../../mesh/crossing';
import type { TriMesh } from '../../mesh/triMesh';
import type { Scene } from '../../scene/schema';
import { pathNeeds } from '../compileSource';
import { seen, type Standing } from './standing';

/** What goes in by less than this share of its least side, and a millimetre, stands there, a little tipped perhaps. */
const SHARE = 0.05;
const LEAST = 1e-3;
/** Rows looked at before others may have their turn. */
const AT_ONCE = 24;

/**
 * The slots of what goes through a surface that it does not stand on, rising.
 * @returns yields now and then
 */
export function* slotsThrough(of: Standing, surface: TriMesh): Generator<void, number[]> {
  const tree = surface.tree();
  const slots = new Set<number>();
  if (tree.nodes === 0) return [];
  const { boxes } = of.tree;
  for (let k = 0, looked = 0; k < of.rows.length; k++) {
    if (isApart(boxes.centre, boxes.axes, boxes.half, k, tree.bounds)) continue;
    if (++looked % AT_ONCE === 0) yield;
    const row = of.rows[k];
    const foot = of.placements.position.subarray(row * 3, row * 3 + 3);
    const thing = seen(of, row, foot);
    if (!thing) continue;
    const wall = { tree, m: SAME, at: foot.map((v) => -v) };
    const side = 2 * Math.min(boxes.half[k * 3], boxes.half[k * 3 + 1], boxes.half[k * 3 + 2]);
    if (meshesCross(thing, wall, LEAST + SHARE * side)) slots.add(of.placements.slot[row]);
  }
  return [...slots].sort((x, y) => x - y);
}

const SAME = Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1);

/** Whether an oriented box lies beside a level one. */
function isApart(
  centre: Float64Array,
  axes: Float64Array,
  half: Float64Array,
  k: number,
  bounds: Float64Array,
): boolean {
  for (let r = 0; r < 3; r++) {
    let reach = 0;
    for (let a = 0; a < 3; a++) reach += Math.abs(axes[k * 9 + a * 3 + r]) * half[k * 3 + a];
    const c = centre[k * 3 + r];
    if (c + reach < bounds[r] || c - reach > bounds[3 + r]) return true;
  }
  return false;
}

/** The surfaces that an arrangement stands on, lies on or is laid over, or that which it stands on does. */
export function stoodOn(a: Arrangement, scene: Scene): Set<string> {
  const out = new Set<string>();
  const shown = scene.surfaces.filter((s) => s.visible).map((s) => s.id);
  const known = new Set<string>();
  const addPath = (id: string): void => {
    const path = scene.paths.find((p) => p.id === id);
    if (!path || known.has(id)) return;
    known.add(id);
    const needs = pathNeeds(path, scene);
    needs.surfaces.forEach((s) => out.add(s));
    needs.paths.forEach(addPath);
  };
  const add = (one: Arrangement): void => {
    if (known.has(one.id)) return;
    known.add(one.id);
    const needs = needsOf(one);
    surfacesOf(needs, shown).forEach((s) => out.add(s));
    needs.paths.forEach(addPath);
    for (const under of kindOf(one).touches?.(one).on ?? []) {
      const leader = scene.arrangements.find((o) => o.id === under);
      if (leader) add(leader);
    }
  };
  add(a);
  return out;
}
