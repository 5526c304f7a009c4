import { solve3 } from '../../math/solve';
import { boxesOverlap } from '../../mesh/boxes';
import { PairWalk } from '../../mesh/boxTree';
import type { Bvh } from '../../mesh/bvh';
import { depthOf } from '../../mesh/depth';
import { isInside, meshesCross, type Seen } from '../../mesh/crossing';
import { seen, type Standing } from './standing';

/** Boxes that reach into each other by no more than this, metres, only touch. */
const TOUCH = 1e-6;
/** Meshes may reach so far into each other: what is bent, or stands somewhere far away, is round to about that. */
const DEPTH = 1e-5;
/** About how long the parts of a look take, as numbers of each other. */
const COST = { pair: 1, boxes: 4, meshes: 200, depth: 800 };
/** Of so many pairs it is worked out how deep they are in each other. */
const MOST_DEPTHS = 60;
/** So much is looked at before others may have their turn: a good millisecond. */
const AT_ONCE = 16 * COST.meshes;

/** Slots of two arrangements that reach into each other, and those that stand in the very same place. */
export interface Overlaps {
  /** Slots of the first and of the second, rising; of one arrangement alone the second are none. */
  overlap: [number[], number[]];
  doubled: [number[], number[]];
  /** By slot of each how deep it is in the other, or that in it, metres; of some only where there are many. */
  depth: [Map<number, number>, Map<number, number>];
}

/**
 * Looks at every pair of two arrangements, or of one with itself: by their boxes first, then by their meshes. What is in
 * one copy of a bundle is not held against what else is in that: it is so where the bundle was made.
 * @param excused rows that touch as they should, or that are told of elsewhere
 * @param each told every two rows that do; absent: it is enough to know of each row that it does
 * @returns yields now and then
 */
export function* overlapsOf(
  a: Standing,
  b: Standing,
  excused: (i: number, j: number) => boolean,
  each?: (i: number, j: number) => void,
): Generator<void, Overlaps> {
  const alone = a === b;
  const [over, same] = [marksOf(a, b), marksOf(a, b)];
  let spent = 0;
  const depth: Overlaps['depth'] = [new Map(), new Map()];
  let depths = 0;
  const deepen = (k: 0 | 1, slot: number, metres: number) =>
    depth[k].set(slot, Math.max(metres, depth[k].get(slot) ?? 0));
  const hold = (i: number, j: number): void => {
    const [row, other] = [a.rows[i], b.rows[j]];
    spent += COST.pair;
    const isDoubled = inSamePlace(a, row, b, other);
    // Of two that are known to reach into something more is not asked.
    if (!each && !isDoubled && over[0][row] && over[1][other] && depths >= MOST_DEPTHS) return;
    spent += COST.boxes;
    const [from, into] = [a.from(row), b.from(other)];
    if (alone && from === into) return;
    if (!boxesOverlap(a.tree.boxes, i, b.tree.boxes, j, TOUCH) || excused(from, into)) return;
    if (!isDoubled) {
      spent += COST.meshes;
      const pair = seenPair(a, i, b, j);
      if (!pair || !reachIn(...pair)) return;
      if (!each && depths < MOST_DEPTHS) {
        depths++;
        spent += COST.depth;
        const { metres = 0 } = depthOf(...pair) ?? {};
        deepen(0, a.placements.slot[row], metres);
        deepen(alone ? 0 : 1, b.placements.slot[other], metres);
      }
    }
    each?.(from, into);
    const marks = isDoubled ? same : over;
    marks[0][row] = 1;
    marks[1][other] = 1;
  };
  const walk = new PairWalk(a.tree, b.tree);
  while (!walk.on(hold, () => spent > AT_ONCE)) {
    spent = 0;
    yield;
  }
  const rising = ([first, second]: Marks): [number[], number[]] => [
    slotsOf(a, first),
    alone ? [] : slotsOf(b, second),
  ];
  return { overlap: rising(over), doubled: rising(same), depth };
}

/** Rows of two arrangements that are marked; of one with itself both are the same. */
type Marks = [Uint8Array, Uint8Array];
function marksOf(a: Standing, b: Standing): Marks {
  const first = new Uint8Array(a.placements.count);
  return [first, a === b ? first : new Uint8Array(b.placements.count)];
}

/** The slots of marked rows, rising. */
function slotsOf({ placements: { slot } }: Standing, marks: Uint8Array): number[] {
  const slots = new Set<number>();
  for (let row = 0; row < marks.length; row++) if (marks[row]) slots.add(slot[row]);
  return [...slots].sort((x, y) => x - y);
}

/** Whether two rows have the same prop in the same place, turned the same way. */
function inSamePlace(
  { placements: p }: Standing,
  i: number,
  { placements: q }: Standing,
  j: number,
): boolean {
  for (let r = 0; r < 3; r++)
    if (Math.abs(p.position[i * 3 + r] - q.position[j * 3 + r]) > TOUCH) return false;
  if (p.props[p.prop[i]] !== q.props[q.prop[j]]) return false;
  let alike = 0;
  for (let r = 0; r < 4; r++) alike += p.rotation[i * 4 + r] * q.rotation[j * 4 + r];
  return Math.abs(alike) > 1 - TOUCH;
}

/** The meshes of two boxes, as seen from between them. */
function seenPair(a: Standing, i: number, b: Standing, j: number): [Seen, Seen] | null {
  const middle = inBoth(a, i, b, j);
  const [p, q] = [seen(a, a.rows[i], middle), seen(b, b.rows[j], middle)];
  return p && q ? [p, q] : null;
}

/** Whether two meshes reach into each other, or one is in the other. */
function reachIn(p: Seen, q: Seen): boolean {
  if (meshesCross(p, q, DEPTH)) return true;
  // Whole in each other, or shifted along their own sides so that none goes through a face.
  if (holds(p, 0, 0, 0) && holds(q, 0, 0, 0)) return true;
  return holds(p, ...cornerOf(q)) || holds(q, ...cornerOf(p));
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
