import type { CompiledPath } from '../../curve/compile';
import { carriedLength } from '../../curve/laid';
import type { Finding } from '../result';
import { parseSlotName } from '../slotId';
import { cornersOf } from '../steps/divide';
import type { TouchLayout } from '../steps/touch';
import type { Run } from './schema';

/** One row of slots on one stroke of one path. */
export interface Lane {
  part: number;
  pathId: string;
  stroke: number;
  path: CompiledPath;
  /** What lengths along it are counted on: itself, or itself on its surface at rest. */
  measure: CompiledPath;
  row: number;
  /** Metres to the right of the path, before the facing step's own. */
  offset: number;
  /** Its slots alternate from side to side of the offset. */
  alternate: boolean;
  /** Faces the other way across the path. */
  mirrored: boolean;
  id: Float64Array;
  /** Metres along what is measured, the pulley's way and nudges along included. */
  s: Float64Array;
  /** The same as lengths along the path as it lies. */
  at: Float64Array;
  /** Prop index of each slot, -1 a pause. */
  prop: Int32Array;
  orderEmpty: boolean;
  /** 1 where the pulley moved a slot past an open end. */
  past: Uint8Array;
  /** Laid end to end and closed up: why each is empty, since what is takes no room. From `STATE`. */
  state?: Uint8Array;
  /** Laid end to end: where each stands. */
  touch?: TouchLayout;
  outward: number;
  /** Metres along the path where the last one is cut off. */
  cutAt?: number;
  /** Whether the path's points carry size factors. */
  sized: boolean;
}

export interface RowPlace {
  row: number;
  offset: number;
  stagger: number;
  mirrored: boolean;
  alternate: boolean;
}

/** Where a lane is laid. */
export interface Where {
  part: number;
  pathId: string;
  stroke: number;
  path: CompiledPath;
  measure: CompiledPath;
  outward: number;
  row: RowPlace;
}
/** Why a lane could not be laid. */
export type Refused = { problem: Finding['kind']; detail: Finding['detail'] };

/** A lane without its slots. */
export const plainLane = ({ part, pathId, stroke, path, measure, outward, row }: Where) => ({
  part,
  pathId,
  stroke,
  path,
  measure,
  outward,
  row: row.row,
  offset: row.offset,
  alternate: row.alternate,
  mirrored: row.mirrored,
  sized: path.size.some((size) => size !== 1),
});

/** Lengths along what is measured as lengths along the path as it lies. */
export const asItLies = ({ path, measure }: Pick<Lane, 'path' | 'measure'>, s: Float64Array): Float64Array =>
  measure === path ? s : s.map((v) => carriedLength(path, v));

/** For each corner the nearest slot, if it is within three quarters of a pitch. */
export function slotsAtCorners(path: CompiledPath, s: Float64Array, pitch: number): Set<number> {
  const out = new Set<number>();
  for (const corner of cornersOf(path)) {
    let best = -1;
    let least = pitch * 0.75;
    for (let i = 0; i < s.length; i++) {
      let d = Math.abs(s[i] - corner);
      if (path.closed) d = Math.min(d, path.length - d);
      if (d <= least) [best, least] = [i, d];
    }
    if (best >= 0) out.add(best);
  }
  return out;
}

/** Moves the slots that were nudged along. */
export function nudgeAlong(run: Run, id: Float64Array, s: Float64Array): void {
  const moved = new Map<number, number>();
  for (const [name, h] of Object.entries(run.hand)) if (h.along) moved.set(parseSlotName(name), h.along);
  if (moved.size) for (let i = 0; i < id.length; i++) s[i] += moved.get(id[i]) ?? 0;
}
