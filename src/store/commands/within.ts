import type { WayStep, WithinCorrection } from '@/core/arrange/steps/withinSchema';
import { command } from '../command';
import { findArrangement, findProp } from './find';
import { describeChange } from './naming';

/** Commands of what a hand corrects of single props within the copies of bundles. */

/** What a field is when it corrects nothing. */
const REST: Record<string, unknown> = { along: 0, side: 0, lift: 0, turnDeg: 0, size: 1 };

const isSame = (a: readonly WayStep[], b: readonly WayStep[]): boolean =>
  a.length === b.length &&
  a.every((s, i) => s.slot === b[i].slot && (i === 0 || s.arrangement === b[i].arrangement));

/** What is corrected at the end of a way, if anything is. @param way from the slot of the copy on */
export const correctedAt = (
  { within = [] }: Pick<ReturnType<typeof findArrangement>, 'within'>,
  way: readonly WayStep[],
): WithinCorrection => within.find((w) => isSame(w.way, way))?.hand ?? {};

/** "12/3": the slots of a way, as tables name them. */
export const wayName = (way: readonly WayStep[]): string => way.map((s) => s.slot).join('/');

/** Fields that correct something; a value of undefined, or one that corrects nothing, lets it go. */
export type WithinValues = { [F in keyof WithinCorrection]?: WithinCorrection[F] | undefined };

/**
 * Corrects one prop within a copy of a bundle; all other copies stay as they are.
 * @param way from outside in, the slot of the copy first @param values null lets go of all that was corrected there
 */
export const correctWithin = command<{ way: WayStep[]; values: WithinValues | null }>({
  apply(scene, { way, values }) {
    const a = findArrangement(scene, way[0].arrangement);
    const hand = Object.fromEntries(
      Object.entries(values === null ? {} : { ...correctedAt(a, way), ...values }).filter(
        ([field, v]) => v !== undefined && v !== REST[field],
      ),
    );
    const list = a.within ?? [];
    const at = list.findIndex((w) => isSame(w.way, way));
    if (Object.keys(hand).length > 0) {
      if (at >= 0) list[at].hand = hand;
      else list.push({ way, hand });
    } else if (at >= 0) list.splice(at, 1);
    if (list.length > 0) a.within = list;
    else delete a.within;
  },
  name(before, _, { way, values }) {
    const name = `#${wayName(way)}`;
    if (values === null) return `let go of ${name}`;
    if ('removed' in values) return `${values.removed ? 'remove' : 'bring back'} ${name}`;
    if (values.prop) return `swap ${name} for “${findProp(before, values.prop).name}”`;
    if ('prop' in values) return `swap ${name} back`;
    const now = correctedAt(findArrangement(before, way[0].arrangement), way);
    return `nudge ${name}: ${describeChange({ ...REST, ...now }, values, before.units)}`;
  },
});

/** Lets go of all that a hand corrected within the copies of an arrangement. */
export const letGoWithin = command<{ id: string }>({
  apply: (scene, { id }) => void delete findArrangement(scene, id).within,
  name: () => 'let go of all within copies',
});
