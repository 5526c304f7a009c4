import type { ArrangementKind } from '../registry';
import { evaluateSpans } from './evaluate';
import type { Spans } from './schema';

/** The kind "spans" as the registry lists it. */
export const spansKind: ArrangementKind<Spans> = {
  dependsOn: ({ on, props }) => ({
    paths: [],
    props: [...new Set(props.map((p) => p.prop))],
    arrangements: [on],
    surfaces: [],
  }),
  moves: () => false,
  evaluate: evaluateSpans,
};
