import { spansSchema, type Spans } from '@/core/arrange/spans/schema';
import { newThread, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement, freeName } from './find';
import { describeChange } from './naming';

/** Commands for spans. */

function findSpans(scene: Scene, id: string): Spans {
  const found = findArrangement(scene, id);
  if (found.kind !== 'spans') throw new Error(`"${id}" has no spans.`);
  return found;
}

type Values = Partial<Omit<Spans, 'id' | 'kind' | 'from' | 'to'>>;
type End = Partial<Spans['from']>;

/** Members between the props of an arrangement. @returns their id */
export const addSpans = command<{ on: string; values?: Values & { from?: End; to?: End } }>({
  apply(scene, { on, values = {} }) {
    const posts = findArrangement(scene, on);
    const id = takeId(scene, 'spans');
    const made = spansSchema.parse({
      id,
      kind: 'spans',
      name: freeName(scene.arrangements, `Between ${posts.name}`),
      thread: newThread(scene),
      on,
      ...values,
    });
    scene.arrangements.splice(scene.arrangements.indexOf(posts) + 1, 0, made);
    return id;
  },
  name: (before, _, { on }) => `spans between “${findArrangement(before, on).name}”`,
});

export const setSpans = command<{ id: string; values: Values }>({
  apply: (scene, { id, values }) => void Object.assign(findSpans(scene, id), values),
  name: (before, _, { id, values }) => describeChange(findSpans(before, id), values),
});

/** Leaves the members out that go from these posts. */
export const leaveOutSpans = command<{ id: string; slots: string[] }>({
  apply(scene, { id, slots }) {
    const spans = findSpans(scene, id);
    spans.without = [...new Set([...spans.without, ...slots])];
  },
  name: (_, __, { slots }) =>
    slots.length === 1 ? 'leave a member out' : `leave ${slots.length} members out`,
});

/** Sets one end of all members, or both alike. */
export const setSpanEnd = command<{ id: string; end: 'from' | 'to' | 'both'; values: End }>({
  apply(scene, { id, end, values }) {
    const spans = findSpans(scene, id);
    if (end !== 'to') Object.assign(spans.from, structuredClone(values));
    if (end !== 'from') Object.assign(spans.to, structuredClone(values));
  },
  name: (before, _, { id, end, values }) =>
    describeChange(findSpans(before, id)[end === 'to' ? 'to' : 'from'], values),
});
