import type { BentMesh } from '../mesh/bend';
import type { DrawnLines } from './drawnLines';
import type { PosedMesh } from './poses/posable';
import { slotName } from './slotId';
import type { WayStep } from './steps/withinSchema';

/**
 * What copies of bundles hold, one row a prop or nested copy, those of one copy behind each other. Arrays are one entry
 * a row, or three, four, sixteen.
 */
export interface Inside {
  count: number;
  /** The row of the placements whose copy it is in. */
  copy: Int32Array;
  /** The row here of the nested copy that it is in; -1: it is in that copy itself. */
  parent: Int32Array;
  /** The slot of its own arrangement, and which of `of` that is. */
  slot: Float64Array;
  member: Int32Array;
  /** Ids of the arrangements. */
  of: string[];
  /** Index into `props`. Those that are bundles stand for the copies that the rows behind them are in. */
  prop: Int32Array;
  props: string[];
  /** 1 for a nested copy. */
  bundle: Uint8Array;
  /** How it lies in the own space of the copy that it is in: metres, x y z w, factors. */
  position: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  /** From its own space to the scene, column-major 4×4. */
  matrix: Float64Array;
  /** Linear red, green, blue; absent where nothing is tinted. */
  tint?: Float32Array;
  /** Index into `bent` of those that have a shape of their own, -1 for the others; absent where none has. */
  shape?: Int32Array;
  bent?: BentMesh[];
  /** The same for poses. */
  pose?: Int32Array;
  posed?: PosedMesh[];
  /** The bare lines of all copies, by the slots of those; absent where there are none. */
  lines?: DrawnLines;
}

/** The way to a row from the copy that it is in, from outside in. */
export function wayWithin({ parent, of, member, slot }: Inside, row: number): WayStep[] {
  const way: WayStep[] = [];
  for (let i = row; i >= 0; i = parent[i])
    way.unshift({ arrangement: of[member[i]], slot: slotName(slot[i]) });
  return way;
}

/** The arrangements that a row is of, from outside in: of the copy that it is in, then of copies nested in that. */
export function membersOf({ parent, of, member }: Inside, row: number): string[] {
  const out: string[] = [];
  for (let i = row; i >= 0; i = parent[i]) out.unshift(of[member[i]]);
  return out;
}

/** The row that a way leads to from the copy in a row of the placements; -1 where nothing is placed there. */
export function rowAtWay(inside: Inside, copy: number, way: readonly WayStep[]): number {
  let parent = -1;
  for (const step of way) {
    const member = inside.of.indexOf(step.arrangement);
    const isNext = (i: number) =>
      inside.copy[i] === copy &&
      inside.parent[i] === parent &&
      inside.member[i] === member &&
      slotName(inside.slot[i]) === step.slot;
    let row = parent + 1;
    while (row < inside.count && !isNext(row)) row++;
    if (row === inside.count) return -1;
    parent = row;
  }
  return parent;
}
