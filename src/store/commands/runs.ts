import type { Run } from '@/core/arrange/run/schema';
import type { KeepOut, OrderEntry } from '@/core/arrange/steps/schema';
import { slotName } from '@/core/arrange/slotId';
import { newEntry, newRun, takeId, THREADS } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement, findPath, findProp, freeName } from './find';
import { describeChange } from './naming';

/** Commands for runs: each step of the recipe, and the hand's corrections. */

export const addRun = command<{ prop: string | null; path: string | null; name?: string }>({
  apply(scene, { prop, path, name }) {
    const id = takeId(scene, 'run');
    const entries = prop ? [newEntry(takeId(scene, 'entry'), { kind: 'prop', prop })] : [];
    const title = name ?? (prop ? findProp(scene, prop).name : 'Run');
    const used = scene.arrangements.map((a) => a.thread);
    const thread = [...THREADS].sort((a, b) => count(used, a) - count(used, b))[0];
    scene.arrangements.push(newRun(id, freeName(scene.arrangements, title), thread, path, entries));
    return id;
  },
  name: (_, after) => `hang “${after.arrangements.at(-1)!.name}”`,
});

const count = (list: string[], item: string) => list.filter((x) => x === item).length;

export const setArrangement = command<{
  id: string;
  values: Partial<Pick<Run, 'name' | 'thread' | 'visible' | 'seed'>>;
}>({
  apply: (scene, { id, values }) => void Object.assign(findArrangement(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findArrangement(before, id).name}: ${describeChange(findArrangement(before, id), values)}`,
});

export const removeArrangement = command<{ id: string }>({
  apply: (scene, { id }) => void (scene.arrangements = scene.arrangements.filter((a) => a.id !== id)),
  name: (before, _, { id }) => `remove “${findArrangement(before, id).name}”`,
});

export const duplicateArrangement = command<{ id: string }>({
  apply(scene, { id }) {
    const at = scene.arrangements.findIndex((a) => a.id === id);
    const copy: Run = JSON.parse(JSON.stringify(findArrangement(scene, id)));
    copy.id = takeId(scene, 'run');
    copy.name = freeName(scene.arrangements, copy.name);
    for (const e of copy.order.entries) e.id = takeId(scene, 'entry');
    for (const k of copy.gaps.keepOuts) k.id = takeId(scene, 'keep');
    scene.arrangements.splice(at + 1, 0, copy);
    return copy.id;
  },
  name: (before, _, { id }) => `duplicate “${findArrangement(before, id).name}”`,
});

/** Puts a run on these paths, in this order; a path it already stood on keeps its part number and so its slots. */
export const setRunPaths = command<{ id: string; paths: string[] }>({
  apply(scene, { id, paths }) {
    const run = findArrangement(scene, id);
    // One path for another keeps the number too, so that what the hand did stays.
    if (run.paths.length === 1 && paths.length === 1) {
      run.paths[0].path = paths[0];
      return;
    }
    let next = Math.max(-1, ...run.paths.map((p) => p.part)) + 1;
    run.paths = paths.map((path) => run.paths.find((p) => p.path === path) ?? { part: next++, path });
  },
  name: (_, after, { paths }) =>
    paths.length
      ? `path ${paths.map((p) => `“${findPath(after, p).name}”`).join(', ')}`
      : 'take off the path',
});

type Step = 'order' | 'spacing' | 'facing' | 'variation' | 'gaps';

/** Sets some fields of one step. */
export const setStep = command<{ [S in Step]: { id: string; step: S; values: Partial<Run[S]> } }[Step]>({
  apply: (scene, { id, step, values }) => void Object.assign(findArrangement(scene, id)[step], values),
  name: (before, _, { id, step, values }) => describeChange(findArrangement(before, id)[step], values),
});

/** Puts one step back to its defaults. */
export const resetStep = command<{ id: string; step: Exclude<Step, 'order'> }>({
  apply(scene, { id, step }) {
    const run = findArrangement(scene, id);
    Object.assign(run, { [step]: newRun('', '', 'madder', null, [])[step] });
  },
  name: (_, __, { step }) => `reset ${step}`,
});

export const addEntry = command<{ id: string; item: OrderEntry['item']; at?: number }>({
  apply(scene, { id, item, at }) {
    const { entries } = findArrangement(scene, id).order;
    const entry = newEntry(takeId(scene, 'entry'), item);
    entries.splice(at ?? entries.length, 0, entry);
    return entry.id;
  },
  name: (before, _, { item }) =>
    item.kind === 'rest' ? 'add a rest' : `add “${findProp(before, item.prop).name}”`,
});

export const setEntry = command<{ id: string; entry: string; values: Partial<Omit<OrderEntry, 'id'>> }>({
  apply: (scene, { id, entry, values }) => void Object.assign(findEntry(scene, id, entry), values),
  name(before, _, { id, entry, values }) {
    if (values.item)
      return values.item.kind === 'prop' ? `swap in “${findProp(before, values.item.prop).name}”` : 'rest';
    return describeChange(findEntry(before, id, entry), values);
  },
});

function findEntry(scene: Scene, id: string, entry: string): OrderEntry {
  const found = findArrangement(scene, id).order.entries.find((e) => e.id === entry);
  if (!found) throw new Error(`The order of "${id}" has no entry "${entry}".`);
  return found;
}

export const moveEntry = command<{ id: string; entry: string; to: number }>({
  apply(scene, { id, entry, to }) {
    const { entries } = findArrangement(scene, id).order;
    const [moved] = entries.splice(
      entries.findIndex((e) => e.id === entry),
      1,
    );
    entries.splice(to, 0, moved);
  },
  name: () => 'reorder the props',
});

export const removeEntry = command<{ id: string; entry: string }>({
  apply(scene, { id, entry }) {
    const { order } = findArrangement(scene, id);
    order.entries = order.entries.filter((e) => e.id !== entry);
  },
  name: () => 'take out of the order',
});

export const addKeepOut = command<{ id: string; from: number; to: number; name?: string; part?: number }>({
  apply(scene, { id, from, to, name, part = 0 }) {
    const { keepOuts } = findArrangement(scene, id).gaps;
    const keep = { id: takeId(scene, 'keep'), name: name ?? freeName(keepOuts, 'Keep-out'), part, from, to };
    keepOuts.push(keep);
    return keep.id;
  },
  name: () => 'add a keep-out',
});

export const setKeepOut = command<{ id: string; keepOut: string; values: Partial<Omit<KeepOut, 'id'>> }>({
  apply: (scene, { id, keepOut, values }) => void Object.assign(findKeepOut(scene, id, keepOut), values),
  name: (before, _, { id, keepOut, values }) => {
    const keep = findKeepOut(before, id, keepOut);
    return `${keep.name}: ${describeChange(keep, values)}`;
  },
});

function findKeepOut(scene: Scene, id: string, keepOut: string): KeepOut {
  const found = findArrangement(scene, id).gaps.keepOuts.find((k) => k.id === keepOut);
  if (!found) throw new Error(`"${id}" has no keep-out "${keepOut}".`);
  return found;
}

export const removeKeepOut = command<{ id: string; keepOut: string }>({
  apply(scene, { id, keepOut }) {
    const { gaps } = findArrangement(scene, id);
    gaps.keepOuts = gaps.keepOuts.filter((k) => k.id !== keepOut);
  },
  name: (before, _, { id, keepOut }) => `remove “${findKeepOut(before, id, keepOut).name}”`,
});

/**
 * Takes slots out by hand, or brings them back, also out of a gap by chance or a keep-out. Going back to what the
 * recipe says leaves nothing behind. Kept by slot name through every later change.
 */
export const setSlotsRemoved = command<{ id: string; slots: number[]; removed: boolean }>({
  apply(scene, { id, slots, removed }) {
    const { hand } = findArrangement(scene, id);
    for (const name of slots.map(slotName)) {
      if (hand[name] && hand[name].removed !== removed) delete hand[name];
      else hand[name] = { removed };
    }
  },
  name(_, __, { slots, removed }) {
    const what = slots.length === 1 ? `#${slotName(slots[0])}` : `${slots.length} slots`;
    return removed ? `remove ${what}` : `bring back ${what}`;
  },
});
