import type { Run } from './schema';

type RunPath = Run['paths'][number];

/** The most that a part's number may be: slot ids carry it. */
const MOST_PART = 4095;

/** A number for one more path of a run: the one after all that there are, or the first that is free. */
export function freePart(paths: readonly RunPath[]): number {
  const used = new Set(paths.map((p) => p.part));
  const next = Math.max(-1, ...used) + 1;
  if (next <= MOST_PART) return next;
  let free = 0;
  while (used.has(free)) free++;
  return free;
}

/** The paths of a run, each with a number of its own: of two that have one, the later takes one that is free. */
export function withOwnParts(paths: readonly RunPath[]): RunPath[] {
  const out: RunPath[] = [];
  for (const p of paths) {
    const taken = out.some((o) => o.part === p.part);
    out.push(taken ? { ...p, part: freePart([...paths, ...out]) } : p);
  }
  return out;
}
