import { create } from 'zustand';
import { hasPoints } from '@/core/curve/schema';
import type { WayStep } from '@/core/arrange/steps/withinSchema';
import type { Scene } from '@/core/scene/schema';

/** A node of the scene. */
export interface NodeRef {
  kind: 'arrangement' | 'path' | 'surface' | 'prop' | 'mask';
  id: string;
}

/** Slots of an arrangement; of one that is a copy of a bundle perhaps something within it. */
export interface SelectedSlots {
  arrangement: string;
  ids: number[];
  /** From the copy on; absent: the copy as a whole. */
  within?: WayStep[];
}

/** What is selected. The lists, the scene, the flat view and the recipe all read and set this one. */
export interface SelectionState {
  /** The arrangement that the recipe and the flat view show. */
  arrangement: string | null;
  /** What the right side shows: the arrangement, or one other node. */
  node: NodeRef | null;
  /** Nodes that are selected beside that one. */
  beside: readonly NodeRef[];
  /** Selected points of one path. */
  points: { path: string; ids: string[] } | null;
  slots: SelectedSlots | null;
  /** What the pointer is over, anywhere. */
  hover: { arrangement: string; slot: number } | null;
  /** A path that the pointer is over. */
  overPath: string | null;
}

const NOTHING: SelectionState = {
  arrangement: null,
  node: null,
  beside: [],
  points: null,
  slots: null,
  hover: null,
  overPath: null,
};

export const useSelection = create<SelectionState>(() => NOTHING);
const set = useSelection.setState;
const get = useSelection.getState;

export const clearSelection = (): void => set(NOTHING);

export const selectArrangement = (id: string): void => selectNodes([{ kind: 'arrangement', id }]);

export const selectNode = (kind: 'path' | 'surface' | 'prop' | 'mask', id: string): void =>
  selectNodes([{ kind, id }]);

/** Selects several nodes; the last one is what the right side is about where they have nothing in common. */
export function selectNodes(nodes: readonly NodeRef[]): void {
  const node = nodes.at(-1) ?? null;
  set({
    node,
    beside: nodes.slice(0, -1),
    points: null,
    slots: null,
    ...(node?.kind === 'arrangement' && { arrangement: node.id }),
  });
}

/** All selected nodes, the one in hand last. */
export function selectedNodes(): NodeRef[] {
  const { node, beside } = get();
  return node ? [...beside, node] : [];
}

/** Takes a node in beside those that are selected, or out again. */
export function joinNode(node: NodeRef): void {
  const now = selectedNodes();
  const others = now.filter((n) => n.id !== node.id);
  selectNodes(others.length < now.length && others.length > 0 ? others : [...others, node]);
}

/** Selects the rows of a list from the one in hand to another. */
export function selectTo(node: NodeRef, rows: readonly NodeRef[]): void {
  const at = (id: string | undefined) => rows.findIndex((n) => n.id === id);
  const [from, to] = [at(get().node?.id), at(node.id)];
  if (from < 0) return selectNodes([node]);
  const chosen = rows.slice(Math.min(from, to), Math.max(from, to) + 1);
  // The end that was in hand stays it, so that the other end can be moved again.
  selectNodes(from < to ? [...chosen].reverse() : chosen);
}

/** Selects a point; with `add` it joins or leaves those already selected on the same path. */
export function selectPoint(path: string, id: string, add = false): void {
  const now = get().points;
  if (!add || now?.path !== path) return set({ points: { path, ids: [id] }, slots: null, beside: [] });
  const ids = now.ids.includes(id) ? now.ids.filter((x) => x !== id) : [...now.ids, id];
  set({ points: ids.length ? { path, ids } : null, slots: null });
}

export const selectSlots = (arrangement: string, ids: number[]): void =>
  set({
    arrangement,
    node: { kind: 'arrangement', id: arrangement },
    beside: [],
    slots: ids.length ? { arrangement, ids } : null,
    points: null,
  });

/** Selects something within the copy in a slot. @param way from the copy on; empty: the copy as a whole */
export function selectWithin(arrangement: string, slot: number, way: readonly WayStep[]): void {
  selectSlots(arrangement, [slot]);
  if (way.length > 0) set({ slots: { arrangement, ids: [slot], within: [...way] } });
}

/** Takes a slot in beside those of the same arrangement, or out again. */
export function joinSlot(arrangement: string, slot: number): void {
  const now = get().slots;
  const ids = now?.arrangement === arrangement ? now.ids : [];
  selectSlots(arrangement, ids.includes(slot) ? ids.filter((id) => id !== slot) : [...ids, slot]);
}

export function setHover(hover: SelectionState['hover']): void {
  const now = get().hover;
  if (now?.arrangement !== hover?.arrangement || now?.slot !== hover?.slot) set({ hover });
}

export function setOverPath(overPath: string | null): void {
  if (get().overPath !== overPath) set({ overPath });
}

/** Selects several points of one path at once. */
export const selectPoints = (path: string, ids: string[]): void =>
  set({ points: ids.length ? { path, ids } : null, slots: null, beside: [] });

/** One step back: what is within a copy, slots and points first, then another node, then nothing. */
export function stepBack(): void {
  const { points, slots, node, beside, arrangement } = get();
  if (slots?.within) selectWithin(slots.arrangement, slots.ids[0], slots.within.slice(0, -1));
  else if (points || slots) set({ points: null, slots: null });
  else if (beside.length > 0) set({ beside: [] });
  else if (node && node.kind !== 'arrangement' && arrangement)
    set({ node: { kind: 'arrangement', id: arrangement } });
  else clearSelection();
}

/** Lets go of what the scene no longer has. */
export function pruneSelection(scene: Scene): void {
  const { arrangement, node, beside, points, slots } = get();
  const has = (list: { id: string }[], id: string) => list.some((n) => n.id === id);
  const change: Partial<SelectionState> = {};
  if (arrangement && !has(scene.arrangements, arrangement))
    change.arrangement = scene.arrangements[0]?.id ?? null;
  const lists = {
    arrangement: scene.arrangements,
    path: scene.paths,
    surface: scene.surfaces,
    prop: scene.props,
    mask: scene.masks,
  };
  const besides = beside.filter((n) => has(lists[n.kind], n.id));
  if (besides.length < beside.length) change.beside = besides;
  if (node && besides.length > 0 && !has(lists[node.kind], node.id)) {
    change.node = besides.at(-1)!;
    change.beside = besides.slice(0, -1);
  } else if (node && !has(lists[node.kind], node.id)) {
    const id = change.arrangement ?? arrangement;
    change.node = id && has(scene.arrangements, id) ? { kind: 'arrangement', id } : null;
  }
  if (points) {
    const path = scene.paths.find((p) => p.id === points.path);
    const ids = points.ids.filter((id) => hasPoints(path) && has(path.source.points, id));
    if (ids.length !== points.ids.length) change.points = ids.length ? { path: points.path, ids } : null;
  }
  if (slots && !has(scene.arrangements, slots.arrangement)) change.slots = null;
  if (Object.keys(change).length) set(change);
}
