import type { Spans } from '@/core/arrange/spans/schema';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement, findPath, findWith } from './find';
import { describeChange } from './naming';

/** Commands for spans. */

type Values = Partial<Omit<Spans, 'id' | 'kind' | 'from' | 'to'>>;
type End = Partial<Spans['from']>;

/** Members between the props of an arrangement. @returns their id */
export const addSpans = command<{ on: string; values?: Values & { from?: End; to?: End } }>({
  apply: (scene, { on, values = {} }) =>
    addArrangement(
      scene,
      'spans',
      `Between ${findArrangement(scene, on).name}`,
      () => ({ on, ...values }),
      on,
    ),
  name: (before, _, { on }) => `spans between “${findArrangement(before, on).name}”`,
});

/** Members over the divisions of a path, without any posts. @returns their id */
export const addSpansOver = command<{ path: string; props: Spans['props'] }>({
  apply: (scene, { path, props }) =>
    addArrangement(scene, 'spans', `Along ${findPath(scene, path).name}`, () => ({
      divisions: { path },
      props,
    })),
  name: (before, _, { path }) => `members along “${findPath(before, path).name}”`,
});

/** Sets one end of all members, or both alike. */
export const setSpanEnd = command<{ id: string; end: 'from' | 'to' | 'both'; values: End }>({
  apply(scene, { id, end, values }) {
    const spans = findWith(scene, id, 'from', 'to');
    if (end !== 'to') Object.assign(spans.from, structuredClone(values));
    if (end !== 'from') Object.assign(spans.to, structuredClone(values));
  },
  name: (before, _, { id, end, values }) =>
    describeChange(findWith(before, id, 'from', 'to')[end === 'to' ? 'to' : 'from'], values, before.units),
});
