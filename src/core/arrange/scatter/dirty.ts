import { changesSince, differences } from '../../mesh/mask/changes';
import { cellsOf, restPlaces } from '../../mesh/mask/painted';
import type { MaskPlaces } from '../../mesh/mask/places';
import { boxOfStroke, goesOnFrom } from '../../mesh/mask/stroke';
import type { BrushedStroke } from './schema';

/** What the places of a scatter stand by, beside what they are settled anew for altogether. */
export interface StandsBy {
  /** What the brush makes of them. */
  brushed: readonly BrushedStroke[];
  /** What the masks of its variation give all of them; null where there is none. */
  values: readonly (Float64Array | null)[];
}

/**
 * The places that may stand otherwise than before; null: any may.
 * @param reads all of them, as the brush meets them
 */
export function dirtyPlaces(was: StandsBy, now: StandsBy, reads: MaskPlaces): Set<number> | null {
  const out = new Set<number>();
  for (let k = 0; k < now.values.length; k++) {
    const [before, values] = [was.values[k], now.values[k]];
    if (before === values) continue;
    if (!before || !values || before.length !== values.length) return null;
    for (const i of changesSince(values, before) ?? differences(values, before)) out.add(i);
  }
  if (was.brushed === now.brushed) return out;
  for (const { stroke, first } of otherStrokes(was.brushed, now.brushed))
    cellsOf(restPlaces(reads, stroke.surface)).within(...boxOfStroke(stroke, first), (i) => out.add(i));
  return out;
}

interface Other {
  stroke: BrushedStroke;
  /** Where the first of its dabs that counts begins in the list. */
  first: number;
}

/** The strokes that only one of two lists has, and all that come after those: each goes on from what is there. */
function otherStrokes(was: readonly BrushedStroke[], now: readonly BrushedStroke[]): Other[] {
  let same = 0;
  while (same < was.length && was[same] === now[same]) same++;
  const [old, fresh] = [was.slice(same), now.slice(same)];
  const grows = old.length === 1 && fresh.length === 1 && goesOn(old[0], fresh[0]);
  // Which way a stroke runs at its last dab follows from the next one, too.
  if (grows) return [{ stroke: fresh[0], first: Math.max(0, old[0].dabs.length - 6) }];
  return [...old, ...fresh].map((stroke) => ({ stroke, first: 0 }));
}

/** Whether a stroke is another one drawn on. */
function goesOn({ dabs: from, ...was }: BrushedStroke, { dabs, ...now }: BrushedStroke): boolean {
  const keys = Object.keys(was) as (keyof typeof was)[];
  return (
    keys.length === Object.keys(now).length &&
    keys.every((key) => was[key] === now[key]) &&
    goesOnFrom(dabs, from) > 0
  );
}
