import { applyPatches, type Patch } from 'immer';
import { create } from 'zustand';
import { emptyScene } from '@/core/scene/defaults';
import { checkChange, FINE, type Held, type Refusal } from '@/core/scene/guard';
import type { Scene } from '@/core/scene/schema';
import { applyCommand, mergeEntries, type Command, type HistoryEntry } from './command';

/** How many steps can be undone. */
const MAX_HISTORY = 500;

export interface DocumentState {
  /** Key of the open scene in the browser's store; null while none is open. */
  sceneId: string | null;
  scene: Scene;
  past: HistoryEntry[];
  future: HistoryEntry[];
  /** Why nothing may be changed here, if so. */
  readOnly: 'another-tab' | null;
  /** Rises with every change of the scene, its view included. */
  revision: number;
}

/** The open document. Components read it; only the functions below change it. */
export const useDocument = create<DocumentState>(() => ({
  sceneId: null,
  scene: emptyScene(''),
  past: [],
  future: [],
  readOnly: null,
  revision: 0,
}));

/** What the last changes met with: numbers that were held to their bounds, or why a change was not made. */
export const useBounds = create<{ held: Held[]; refused: Refusal | null; at: number }>(() => ({
  held: [],
  refused: null,
  at: 0,
}));
const tellBounds = (held: Held[], refused: Refusal | null) =>
  useBounds.setState(({ at }) => ({ held, refused, at: at + 1 }));

const get = useDocument.getState;
const set = useDocument.setState;

/** The gesture that is under way: its changes become one step of the undo list. */
let gesture: { key: string; before: Scene; open: boolean } | null = null;

/** Opens a scene with its undo list. */
export function openDocument(
  sceneId: string | null,
  scene: Scene,
  { past, future }: { past: HistoryEntry[]; future: HistoryEntry[] } = { past: [], future: [] },
): void {
  gesture = null;
  useBounds.setState({ held: [], refused: null });
  set({ sceneId, scene, past, future, readOnly: null, revision: get().revision + 1 });
}

/**
 * Runs a command on the open document.
 * @param key changes with the same key are one step until {@link endGesture}
 * @returns the id of what was made, if anything
 */
export function dispatch<A>(c: Command<A>, args: A, key?: string): string | undefined {
  const { scene, past, readOnly, revision } = get();
  if (readOnly) return undefined;
  const { scene: next, entry, made, held, refused } = applyCommand(scene, c, args);
  if (held.length || refused) tellBounds(held, refused);
  if (!entry) return made;
  clearTimeout(resting);
  const joins = key !== undefined && gesture?.open && gesture.key === key && past.length > 0;
  if (joins) {
    const merged = mergeEntries(past[past.length - 1], entry, c.name(gesture!.before, next, args));
    set({ scene: next, past: [...past.slice(0, -1), merged], future: [], revision: revision + 1 });
  } else {
    gesture = key === undefined ? null : { key, before: scene, open: true };
    set({ scene: next, past: [...past, entry].slice(-MAX_HISTORY), future: [], revision: revision + 1 });
  }
  return made;
}

/** Ends the gesture under way; the next change is a step of its own. */
export function endGesture(): void {
  clearTimeout(resting);
  if (gesture) gesture.open = false;
}

let resting: ReturnType<typeof setTimeout> | undefined;
/** Ends the gesture once no key was pressed for a moment, so that a row of key presses is one step. */
export function restGesture(): void {
  clearTimeout(resting);
  resting = setTimeout(endGesture, 700);
}

/** Takes the gesture under way back, as Escape does in the middle of a drag. */
export function cancelGesture(key: string): void {
  if (!gesture?.open || gesture.key !== key) return;
  undo();
  set({ future: get().future.slice(1) });
}

/** Steps from before numbers had bounds may lead back to one beyond them: it is held there too. */
function within(scene: Scene, patches: Patch[]): Scene {
  const { held } = checkChange(scene, patches);
  if (held.length === 0) return scene;
  tellBounds(held, null);
  return applyPatches(
    scene,
    held.map(({ path, held: value }): Patch => ({ op: 'replace', path: path as Patch['path'], value })),
  );
}

export function undo(): void {
  const { past, future, scene, readOnly, revision } = get();
  const entry = past.at(-1);
  if (!entry || readOnly) return;
  gesture = null;
  set({
    scene: within(applyPatches(scene, entry.inverse), entry.inverse),
    past: past.slice(0, -1),
    future: [entry, ...future],
    revision: revision + 1,
  });
}

export function redo(): void {
  const { past, future, scene, readOnly, revision } = get();
  const entry = future[0];
  if (!entry || readOnly) return;
  gesture = null;
  set({
    scene: within(applyPatches(scene, entry.patches), entry.patches),
    past: [...past, entry],
    future: future.slice(1),
    revision: revision + 1,
  });
}

/** Where the scene is seen from is kept with it, but is no step of the undo list. */
export function setView(view: Scene['view']): void {
  const { scene, readOnly, revision } = get();
  if (readOnly || JSON.stringify(scene.view) === JSON.stringify(view)) return;
  // A view from beyond all bounds is not kept; the one before it is.
  if (checkChange({ ...scene, view }, [{ op: 'replace', path: ['view'], value: view }]) !== FINE) return;
  set({ scene: { ...scene, view }, revision: revision + 1 });
}

export const setReadOnly = (readOnly: DocumentState['readOnly']): void => set({ readOnly });
