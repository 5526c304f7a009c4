import type { ArrangeContext } from '../../arrange/context';
import { kindOf, type Arrangement } from '../../arrange/registry';
import { valueAt } from '../../scene/guard';
import { excuses } from './excuses';
import { overlapsOf } from './overlaps';
import { standingOf } from './standing';

/** What can be changed until nothing of an arrangement reaches into its own any more. */
export type Fits = 'pitch' | 'size';

const FIELDS: Record<Fits, string[][]> = {
  pitch: [['spacing', 'pitch']],
  size: [
    ['facing', 'size'],
    ['stand', 'size'],
  ],
};
/** So often a pitch is doubled, or a size halved, before it is given up. */
const TRIES = 12;
/** To one in so many of what fits. */
const FINE = 1 / 512;

/** Where a number stands in an arrangement of whatever kind; null where it has none such. */
export const fieldOf = (a: Arrangement, fits: Fits): string[] | null =>
  FIELDS[fits].find((field) => typeof valueAt(a, field) === 'number') ??
  (fits === 'pitch' && valueAt(a, ['spacing', 'pitch']) === null ? FIELDS.pitch[0] : null);

function withValue(a: Arrangement, [block, name]: string[], value: number): Arrangement {
  const fields = a as unknown as Record<string, object>;
  return { ...a, [block]: { ...fields[block], [name]: value } } as Arrangement;
}

/** Whether nothing of an arrangement reaches into its own. @returns yields now and then */
function* isClear(a: Arrangement, context: ArrangeContext): Generator<void, boolean> {
  const r = kindOf(a).evaluate(a, context);
  if (r.findings.some((f) => f.kind === 'too-tight' || f.severity === 'error')) return false;
  const s = standingOf('', r, context);
  const { overlap, doubled } = yield* overlapsOf(s, s, excuses({ a, r }, { a, r }));
  return overlap[0].length + doubled[0].length === 0;
}

/**
 * The pitch next to the present one, or the size, at which nothing of an arrangement reaches into its own: the least
 * wider pitch, the largest smaller size, to one in {@link FINE}, and never one that was not looked at.
 * @param from the pitch that it has now, metres, or the size
 * @returns yields now and then; null where none is found, or none is needed
 */
export function* fitting(
  a: Arrangement,
  fits: Fits,
  from: number,
  context: ArrangeContext,
): Generator<void, number | null> {
  const field = fieldOf(a, fits);
  if (!field || !(from > 0) || (yield* isClear(withValue(a, field, from), context))) return null;
  const factor = fits === 'pitch' ? 2 : 0.5;
  let [tight, clear] = [from, from * factor];
  for (let i = 0; !(yield* isClear(withValue(a, field, clear), context)); i++) {
    if (i === TRIES) return null;
    [tight, clear] = [clear, clear * factor];
  }
  // Rounded as people write it, away from what is too tight.
  let grain = 1;
  while (grain * 100 > clear) grain /= 10;
  while (grain * 1000 <= clear) grain *= 10;
  while (Math.abs(tight - clear) > Math.max(clear * FINE, grain)) {
    const middle = (tight + clear) / 2;
    if (yield* isClear(withValue(a, field, middle), context)) clear = middle;
    else tight = middle;
  }
  const rounded =
    (fits === 'pitch' ? Math.ceil : Math.floor)(Number((clear / grain).toPrecision(12))) * grain;
  const tidy = Number(rounded.toPrecision(6));
  return tidy > 0 && (yield* isClear(withValue(a, field, tidy), context)) ? tidy : clear;
}
