import type { OrderEntry, OrderItem } from '@/core/arrange/steps/schema';
import { newEntry, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findProp, findWith } from './find';
import { describeChange } from './naming';

/** Commands for the order: which prop goes in which slot. Entries are found by id, in groups too. */

/** The list that holds an entry, and where in it. */
function locate(entries: OrderEntry[], id: string): { list: OrderEntry[]; index: number } | null {
  const index = entries.findIndex((e) => e.id === id);
  if (index >= 0) return { list: entries, index };
  for (const e of entries) {
    const found = e.item.kind === 'group' ? locate(e.item.entries, id) : null;
    if (found) return found;
  }
  return null;
}

function need(scene: Scene, run: string, entry: string) {
  const found = locate(findWith(scene, run, 'order').order.entries, entry);
  if (!found) throw new Error(`The order of "${run}" has no entry "${entry}".`);
  return found;
}

/** The entries of a group, or the order's own. */
function listOf(scene: Scene, run: string, group: string | null | undefined): OrderEntry[] {
  if (!group) return findWith(scene, run, 'order').order.entries;
  const { list, index } = need(scene, run, group);
  const { item } = list[index];
  if (item.kind !== 'group') throw new Error(`The entry "${group}" is no group.`);
  return item.entries;
}

/** @param into a group's entry id; absent: the order itself */
export const addEntry = command<{ id: string; item: OrderItem; at?: number; into?: string | null }>({
  apply(scene, { id, item, at, into }) {
    const entries = listOf(scene, id, into);
    const entry = newEntry(takeId(scene, 'entry'), item);
    entries.splice(at ?? entries.length, 0, entry);
    return entry.id;
  },
  name: (before, _, { item }) =>
    item.kind === 'prop' ? `add “${findProp(before, item.prop).name}”` : `add a ${item.kind}`,
});

export const setEntry = command<{ id: string; entry: string; values: Partial<Omit<OrderEntry, 'id'>> }>({
  apply(scene, { id, entry, values }) {
    const { list, index } = need(scene, id, entry);
    Object.assign(list[index], values);
  },
  name(before, _, { id, entry, values }) {
    if (values.item)
      return values.item.kind === 'prop'
        ? `swap in “${findProp(before, values.item.prop).name}”`
        : values.item.kind;
    const { list, index } = need(before, id, entry);
    return describeChange(list[index], values, before.units);
  },
});

/** Moves an entry to a place in the order or a group; a group does not go into itself. */
export const moveEntry = command<{ id: string; entry: string; to: number; into?: string | null }>({
  apply(scene, { id, entry, to, into }) {
    const { list, index } = need(scene, id, entry);
    const { item } = list[index];
    if (into && (into === entry || (item.kind === 'group' && locate(item.entries, into)))) return;
    const target = into === undefined ? list : listOf(scene, id, into);
    const [moved] = list.splice(index, 1);
    target.splice(to, 0, moved);
  },
  name: () => 'reorder the props',
});

/** Puts an entry into a new group in its place. */
export const groupEntry = command<{ id: string; entry: string }>({
  apply(scene, { id, entry }) {
    const { list, index } = need(scene, id, entry);
    const group = newEntry(takeId(scene, 'entry'), { kind: 'group', entries: [list[index]] });
    list[index] = group;
    return group.id;
  },
  name: () => 'group the props',
});

/** Takes a group away; what was in it stays in its place. */
export const ungroupEntry = command<{ id: string; entry: string }>({
  apply(scene, { id, entry }) {
    const { list, index } = need(scene, id, entry);
    const { item } = list[index];
    if (item.kind === 'group') list.splice(index, 1, ...item.entries);
  },
  name: () => 'ungroup the props',
});

export const removeEntry = command<{ id: string; entry: string }>({
  apply(scene, { id, entry }) {
    const { list, index } = need(scene, id, entry);
    list.splice(index, 1);
  },
  name: () => 'take out of the order',
});
