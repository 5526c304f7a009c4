import type { Placements } from './result';

/**
 * Placements that are some rows of others, which are settled once: what was made of a row there holds for it here. Where
 * some of those are settled anew they are others, and it is known which rows differ.
 */
export interface SettledRows {
  of: Placements;
  /** Which row of those each row is, rising. */
  rows: Uint32Array;
}

const known = new WeakMap<Float64Array, SettledRows & { out: Placements }>();

/** Remembers of placements which rows of others they are. */
export function keepSettledRows(out: Placements, settled: SettledRows): void {
  known.set(out.position, { ...settled, out });
}

/** What these are rows of; undefined where nothing is known, or anything was made of them since. */
export function settledRowsOf(p: Placements): SettledRows | undefined {
  const have = known.get(p.position);
  if (!have) return undefined;
  const { out } = have;
  const isSame =
    p.rotation === out.rotation &&
    p.scale === out.scale &&
    p.state === out.state &&
    p.prop === out.prop &&
    p.tint === out.tint &&
    p.shape === out.shape &&
    p.pose === out.pose;
  return isSame ? have : undefined;
}

interface Again {
  was: Placements;
  rows: Uint32Array;
}

const settledAgain = new WeakMap<Placements, Again>();

/** Those whose arrays have been written over since. */
const writtenOver = new WeakSet<Placements>();

/** Placements of which some rows are settled anew: its arrays are those of `was`, which holds no more. */
export function withRowsAgain(was: Placements, rows: Uint32Array): Placements {
  const now = { ...was };
  writtenOver.add(was);
  // One step back is enough.
  settledAgain.delete(was);
  settledAgain.set(now, { was, rows });
  return now;
}

/** Whether what is settled still is what it was. */
export const stillHolds = (of: Placements): boolean => !writtenOver.has(of);

/** What settled placements were before some rows of them were settled anew, and which. */
export const beforeAgain = (of: Placements): Again | undefined => settledAgain.get(of);
