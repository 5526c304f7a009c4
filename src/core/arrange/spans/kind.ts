import { defineKind } from '../kind';
import { slotName } from '../slotId';
import { weightedWithout } from '../steps/withoutProp';
import { evaluateSpans } from './evaluate';
import { spansSchema } from './schema';

/** The kind "spans" as the registry lists it. */
export const spansKind = defineKind({
  schema: spansSchema,
  noun: 'member',
  // The posts' own paths are worked out before them: a member follows what they stand on.
  needs: ({ on, props, corner }) => ({
    paths: [],
    props: [...new Set([...props.map((p) => p.prop), ...(corner ? [corner.prop] : [])])],
    arrangements: [on],
    surfaces: [],
  }),
  moves: () => false,
  evaluate: evaluateSpans,
  withoutProp: ({ props, corner }, prop) => ({
    props: weightedWithout(props, prop),
    corner: corner?.prop === prop ? null : corner,
  }),
  // By the post that a member leaves from.
  removeSlots({ without }, slots, removed) {
    const names = new Set(slots.map(slotName));
    const others = without.filter((n) => !names.has(n));
    return { without: removed ? [...others, ...names] : others };
  },
});
