import type { ArrangementKind } from '../registry';
import { evaluateSpans } from './evaluate';
import type { Spans } from './schema';

/** The kind "spans" as the registry lists it. */
export const spansKind: ArrangementKind<Spans> = {
  // The posts' own paths are worked out before them: a member follows what they stand on.
  dependsOn: ({ on, props, corner }) => ({
    paths: [],
    props: [...new Set([...props.map((p) => p.prop), ...(corner ? [corner.prop] : [])])],
    arrangements: [on],
    surfaces: [],
  }),
  moves: () => false,
  evaluate: evaluateSpans,
};
