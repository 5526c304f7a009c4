import { kindOf, type Arrangement } from '@/core/arrange/registry';
import { newRelease, type Release } from '@/core/arrange/release/schema';
import { corrected } from '@/core/arrange/steps/corrected';
import type { Lock } from '@/core/arrange/steps/lock';
import { command } from '../command';
import { findArrangement } from './find';
import { describeChange } from './naming';

/** Commands for props that are let go, so that they fall. */

/** Sets how an arrangement lets its props go; null: it holds them again. */
export const setRelease = command<{ id: string; values: Partial<Release> | null }>({
  apply(scene, { id, values }) {
    const a = findArrangement(scene, id);
    if (values === null) delete a.release;
    else a.release = { ...(a.release ?? newRelease()), ...values };
  },
  name(before, _, { id, values }) {
    const found = findArrangement(before, id);
    if (values === null) return `hold “${found.name}”`;
    if (!found.release) return `let “${found.name}” fall`;
    return `release: ${describeChange(found.release, values, before.units)}`;
  },
});

/**
 * What has fallen stays as it lies, by hand, and nothing is let go any more.
 * @param places by slot name @param gone slots that their fall has taken away
 */
export const takeAsItLies = command<{ id: string; places: Record<string, Lock>; gone: number[] }>({
  apply(scene, { id, places, gone }) {
    const a = findArrangement(scene, id);
    delete a.release;
    const kind = kindOf(a);
    if (kind.putAt) Object.assign(a, kind.putAt(a as never, bare(places)));
    else if ('hand' in a)
      a.hand = corrected(a.hand, Object.keys(places), (_, name) => ({ lock: places[name] }));
    if (gone.length > 0) Object.assign(a, kind.removeSlots?.(a as never, gone, true));
  },
  name: (before, _, { id }) => `“${findArrangement(before, id).name}” as it lies`,
});

/** Whether what an arrangement has placed can stay as it lies. */
export const canLie = (a: Arrangement): boolean => 'hand' in a || !!kindOf(a).putAt;

const bare = (places: Record<string, Lock>) =>
  new Map(
    Object.entries(places).map(([name, { position, rotation, scale }]) => [
      name,
      { position, rotation, scale },
    ]),
  );
