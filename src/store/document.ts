import { create } from 'zustand';
import { emptyScene } from '@/core/scene/defaults';
import { applyPatches, type Patch } from '@/core/scene/patch';
import { checkChange, FINE, type Held, type Refusal } from '@/core/scene/guard';
import type { Scene } from '@/core/scene/schema';
import { applyCommand, replacing, type Command, type HistoryEntry } from './command';
import { stepPatches, takeStep, type Kept, type Step } from './steps';

export interface DocumentState extends Kept {
  /** Key of the open scene in the browser's store; null while none is open. */
  sceneId: string | null;
  /** Why nothing may be changed here, if so. */
  readOnly: 'another-tab' | 'deleted' | null;
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

/** What has happened: another document was opened, or a step was taken in the open one. */
export type Change = { kind: 'opened' } | { kind: 'step'; step: Step; patches: Patch[] };

const listeners = new Set<(change: Change) => void>();

/** Tells of every change, in its own task, once the document has it. @returns stops telling */
export function onChange(listener: (change: Change) => void): () => void {
  listeners.add(listener);
  return () => void listeners.delete(listener);
}

/** @param scene as it is after the step, where that is at hand already */
function take(step: Step, scene?: Scene): void {
  const before = get();
  const patches = stepPatches(before, step);
  const {
    past,
    future,
    scene: after,
  } = takeStep(before, step, scene ?? applyPatches(before.scene, patches).value);
  set({ past, future, scene: after, revision: before.revision + 1 });
  listeners.forEach((tell) => tell({ kind: 'step', step, patches }));
}

/** Whether a gesture is under way. */
export const useGesture = create<{ open: boolean }>(() => ({ open: false }));
const tellGesture = () => {
  const open = gesture?.open === true;
  if (useGesture.getState().open !== open) useGesture.setState({ open });
};

/** The gesture that is under way: its changes become one step of the undo list. */
let gesture: { key: string; before: Scene; open: boolean } | null = null;

/** Opens a scene with its undo list. */
export function openDocument(
  sceneId: string | null,
  scene: Scene,
  { past, future }: { past: HistoryEntry[]; future: HistoryEntry[] } = { past: [], future: [] },
): void {
  gesture = null;
  tellGesture();
  useBounds.setState({ held: [], refused: null });
  set({ sceneId, scene, past, future, readOnly: null, revision: get().revision + 1 });
  listeners.forEach((tell) => tell({ kind: 'opened' }));
}

/**
 * Runs a command on the open document.
 * @param key changes with the same key are one step until {@link endGesture}
 * @returns the id of what was made, if anything
 */
export function dispatch<A>(c: Command<A>, args: A, key?: string): string | undefined {
  const { scene, past, readOnly } = get();
  if (readOnly) return undefined;
  const { scene: next, entry, made, held, refused } = applyCommand(scene, c, args);
  if (held.length || refused) tellBounds(held, refused);
  if (!entry) return made;
  clearTimeout(resting);
  const joins = key !== undefined && gesture?.open && gesture.key === key && past.length > 0;
  if (joins) {
    take({ do: 'merge', entry, name: c.name(gesture!.before, next, args) }, next);
  } else {
    gesture = key === undefined ? null : { key, before: scene, open: true };
    take({ do: 'push', entry }, next);
  }
  tellGesture();
  return made;
}

/** Ends the gesture under way; the next change is a step of its own. */
export function endGesture(): void {
  clearTimeout(resting);
  if (gesture) gesture.open = false;
  tellGesture();
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
  go('cancel', get().past.at(-1)?.inverse);
}

/** Goes to a step before or after. One from before numbers had bounds may lead beyond them: it is held there too. */
function go(how: 'undo' | 'cancel' | 'redo', patches: Patch[] | undefined): void {
  const { scene, readOnly } = get();
  if (!patches || readOnly) return;
  gesture = null;
  tellGesture();
  const after = applyPatches(scene, patches).value;
  const { held } = checkChange(after, patches);
  if (held.length) tellBounds(held, null);
  take({ do: how, held: replacing(held) }, held.length ? undefined : after);
}

export const undo = (): void => go('undo', get().past.at(-1)?.inverse);
export const redo = (): void => go('redo', get().future[0]?.patches);

/** Where the scene is seen from is kept with it, but is no step of the undo list. */
export function setView(view: Scene['view']): void {
  const { scene, readOnly } = get();
  if (readOnly || JSON.stringify(scene.view) === JSON.stringify(view)) return;
  // A view from beyond all bounds is not kept; the one before it is.
  if (checkChange({ ...scene, view }, [{ op: 'replace', path: ['view'], value: view }]) !== FINE) return;
  take({ do: 'view', view });
}

export const setReadOnly = (readOnly: DocumentState['readOnly']): void => set({ readOnly });
