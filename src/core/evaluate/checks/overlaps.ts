import { matrixOf } from '../../arrange/steps/groundContact';
import { solve3 } from '../../math/solve';
import { boxesOverlap } from '../../mesh/boxes';
import { eachPair } from '../../mesh/boxTree';
import type { Bvh } from '../../mesh/bvh';
import { isInside, meshesCross, type Seen } from '../../mesh/crossing';
import type { Standing } from './standing';

/** Boxes that reach into each other by no more than this, metres, only touch. */
const TOUCH = 1e-6;
/** Meshes may reach so far into each other: what is bent, or stands somewhere far away, is round to about that. */
const DEPTH = 1e-5;
/** Pairs looked at before others may have their turn. */
const AT_ONCE = 16;

/** Slots of two arrangements that reach into each other, and those that stand in the very same place. */
export interface Overlaps {
  /** Slots of the first and of the second, rising; of one arrangement alone the second are none. */
  overlap: [number[], number[]];
  doubled: [number[], number[]];
}

/**
 * Looks at every pair of two arrangements, or of one with itself: by their boxes first, then by their meshes.
 * @param excused rows that touch as they should, or that are told of elsewhere
 * @returns yields now and then
 */
export function* overlapsOf(
  a: Standing,
  b: Standing,
  excused: (i: number, j: number) => boolean,
): Generator<void, Overlaps> {
  const near: number[] = [];
  eachPair(a.tree, b.tree, (i, j) => {
    if (boxesOverlap(a.tree.boxes, i, b.tree.boxes, j, TOUCH) && !excused(a.rows[i], b.rows[j]))
      near.push(i, j);
  });
  const [over, same] = [pairOfSets(), pairOfSets()];
  const second = a === b ? 0 : 1;
  for (let n = 0; n < near.length; n += 2) {
    if (n % (2 * AT_ONCE) === 0) yield;
    const [row, other] = [a.rows[near[n]], b.rows[near[n + 1]]];
    const [slot, slotB] = [a.placements.slot[row], b.placements.slot[other]];
    if (over[0].has(slot) && over[second].has(slotB)) continue;
    const isDoubled = inSamePlace(a, row, b, other);
    if (!isDoubled && !reachIn(a, near[n], b, near[n + 1])) continue;
    const into = isDoubled ? same : over;
    into[0].add(slot);
    into[second].add(slotB);
  }
  return { overlap: rising(over), doubled: rising(same) };
}

const pairOfSets = (): [Set<number>, Set<number>] => [new Set(), new Set()];

const rising = (sets: [Set<number>, Set<number>]): [number[], number[]] =>
  sets.map((s) => [...s].sort((x, y) => x - y)) as [number[], number[]];

/** Whether two rows have the same prop in the same place, turned the same way. */
function inSamePlace(
  { placements: p }: Standing,
  i: number,
  { placements: q }: Standing,
  j: number,
): boolean {
  if (p.props[p.prop[i]] !== q.props[q.prop[j]]) return false;
  for (let r = 0; r < 3; r++)
    if (Math.abs(p.position[i * 3 + r] - q.position[j * 3 + r]) > TOUCH) return false;
  let alike = 0;
  for (let r = 0; r < 4; r++) alike += p.rotation[i * 4 + r] * q.rotation[j * 4 + r];
  return Math.abs(alike) > 1 - TOUCH;
}

/** Whether the meshes of two boxes reach into each other, or one is in the other. */
function reachIn(a: Standing, i: number, b: Standing, j: number): boolean {
  const middle = inBoth(a, i, b, j);
  const [p, q] = [seen(a, a.rows[i], middle), seen(b, b.rows[j], middle)];
  if (!p || !q) return false;
  if (meshesCross(p, q, DEPTH)) return true;
  // Whole in each other, or shifted along their own sides so that none goes through a face.
  if (holds(p, 0, 0, 0) && holds(q, 0, 0, 0)) return true;
  return holds(p, ...cornerOf(q)) || holds(q, ...cornerOf(p));
}

/** A row's mesh as seen from a place. */
function seen({ placements: p, mesh }: Standing, row: number, from: Float64Array): Seen | null {
  const found = mesh(row);
  if (!found) return null;
  const m = matrixOf(p, row);
  if (found.sized) for (let k = 0; k < 9; k++) m[k] /= p.scale[row * 3 + (k % 3)];
  return {
    tree: found.tree,
    m,
    at: Float64Array.from({ length: 3 }, (_, r) => p.position[row * 3 + r] - from[r]),
  };
}

/** The middle of what one box has of the other, along its own axes. */
function inBoth(a: Standing, i: number, b: Standing, j: number): Float64Array {
  const [p, q] = [a.tree.boxes, b.tree.boxes];
  const middle = p.centre.slice(i * 3, i * 3 + 3);
  for (let k = 0; k < 3; k++) {
    const axis = p.axes.subarray(i * 9 + k * 3, i * 9 + k * 3 + 3);
    let away = 0;
    let half = 0;
    for (let r = 0; r < 3; r++) {
      away += axis[r] * (q.centre[j * 3 + r] - p.centre[i * 3 + r]);
      let along = 0;
      for (let c = 0; c < 3; c++) along += axis[c] * q.axes[j * 9 + r * 3 + c];
      half += Math.abs(along) * q.half[j * 3 + r];
    }
    const own = p.half[i * 3 + k];
    const at = (Math.max(-own, away - half) + Math.min(own, away + half)) / 2;
    for (let r = 0; r < 3; r++) middle[r] += axis[r] * at;
  }
  return middle;
}

function cornerOf({ tree, m, at }: Seen): [number, number, number] {
  const o = tree.indices[tree.order[0] * 3] * 3;
  const p = tree.positions;
  return [0, 1, 2].map(
    (r) => at[r] + m[r * 3] * p[o] + m[r * 3 + 1] * p[o + 1] + m[r * 3 + 2] * p[o + 2],
  ) as [number, number, number];
}

/** Whether a mesh has a place in it. */
function holds({ tree, m, at }: Seen, x: number, y: number, z: number): boolean {
  const own = solve3(m, x - at[0], y - at[1], z - at[2]);
  return isOver(tree, own) && isInside(tree, own[0], own[1], own[2]);
}

const isOver = ({ bounds: b }: Bvh, p: readonly number[]): boolean =>
  p.every((v, r) => v > b[r] + DEPTH && v < b[3 + r] - DEPTH);
