import { applyPatches, type Patch } from '@/core/scene/patch';
import type { Scene } from '@/core/scene/schema';
import { mergeEntries, type HistoryEntry } from './command';

/** How many steps can be undone. */
const MOST_STEPS = 500;

/** A document with what can be undone and redone in it. */
export interface Kept {
  scene: Scene;
  past: HistoryEntry[];
  future: HistoryEntry[];
}

/**
 * What happened to a document, small enough to be told to others and to be written down at once. The same steps on
 * the same document give the same document: whoever has the one before a step needs nothing else.
 */
export type Step =
  /** A change that becomes a step of the undo list. */
  | { do: 'push'; entry: HistoryEntry }
  /** A further change of the gesture that the last one began; the two get one name. */
  | { do: 'merge'; entry: HistoryEntry; name: string }
  /** `held`: what was brought within its bounds afterwards. */
  | { do: 'undo' | 'redo'; held: Patch[] }
  /** The gesture under way is taken back, and cannot be redone. */
  | { do: 'cancel'; held: Patch[] }
  /** Where the scene is seen from: kept, but never undone. */
  | { do: 'view'; view: Scene['view'] };

/** What a step changes in the scene. @throws Error where there is nothing to undo or redo */
export function stepPatches({ past, future }: Pick<Kept, 'past' | 'future'>, step: Step): Patch[] {
  const found = (entry: HistoryEntry | undefined) => {
    if (!entry) throw new Error(`There is nothing to ${step.do}.`);
    return entry;
  };
  switch (step.do) {
    case 'push':
    case 'merge':
      return step.entry.patches;
    case 'undo':
    case 'cancel':
      return [...found(past.at(-1)).inverse, ...step.held];
    case 'redo':
      return [...found(future[0]).patches, ...step.held];
    case 'view':
      return [{ op: 'replace', path: ['view'], value: step.view }];
    default:
      throw new Error('A step of an unknown kind.');
  }
}

/**
 * A document after a step.
 * @param scene as it is after the step, where that is at hand already
 * @throws Error for a step that does not fit the document
 */
export function takeStep(
  kept: Kept,
  step: Step,
  scene: Scene = applyPatches(kept.scene, stepPatches(kept, step)).value,
): Kept {
  const { past, future } = kept;
  switch (step.do) {
    case 'push':
      return { scene, past: [...past, step.entry].slice(-MOST_STEPS), future: [] };
    case 'merge':
      return {
        scene,
        past: [...past.slice(0, -1), mergeEntries(past[past.length - 1], step.entry, step.name)],
        future: [],
      };
    case 'undo':
      return { scene, past: past.slice(0, -1), future: [past[past.length - 1], ...future] };
    case 'redo':
      return { scene, past: [...past, future[0]], future: future.slice(1) };
    case 'cancel':
      return { scene, past: past.slice(0, -1), future };
    case 'view':
      return { scene, past, future };
  }
}
