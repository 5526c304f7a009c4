import { create } from 'zustand';
import { setReadOnly, useDocument } from '../document';
import { saveScene, TakenOverError } from './scenes';
import { TAB } from './tabs';

/** Writing takes a third of the time at most: after a write of a large scene the next one rests twice as long as that took. */
const REST_SHARE = 2;
/** Whatever a write takes, the next change waits no longer than this. */
const MOST_REST_MS = 250;

export interface SavedState {
  state: 'saved' | 'saving' | 'failed';
  /** For "failed": one sentence. */
  problem?: string;
}

export const useSaved = create<SavedState>(() => ({ state: 'saved' }));

let timer: ReturnType<typeof setTimeout> | undefined;
let writing: Promise<void> = Promise.resolve();
let written = -1;
let rest = 0;

/** Writes the open document now, if it has changed. */
export function saveNow(): Promise<void> {
  clearTimeout(timer);
  timer = undefined;
  writing = writing.then(write);
  return writing;
}

async function write(): Promise<void> {
  const { sceneId, scene, past, future, revision, readOnly } = useDocument.getState();
  if (!sceneId || readOnly || revision === written) return;
  const started = performance.now();
  try {
    await saveScene(sceneId, { scene, past, future }, TAB);
    rest = Math.min(MOST_REST_MS, (performance.now() - started) * REST_SHARE);
    written = revision;
    // What changed while it was written has its own turn: until then not all is saved.
    const all = useDocument.getState().revision === revision;
    useSaved.setState({ state: all ? 'saved' : 'saving', problem: undefined });
  } catch (error) {
    if (error instanceof TakenOverError) return setReadOnly('another-tab');
    useSaved.setState({ state: 'failed', problem: describeFailure(error) });
  }
}

/** One sentence for a save that failed. Dexie wraps the browser's own error. */
export function describeFailure(error: unknown): string {
  const e = error as { name?: string; message?: string; inner?: { name?: string } };
  const full = [e?.name, e?.inner?.name, e?.message].some((t) => t?.includes('QuotaExceeded'));
  return full
    ? 'The browser’s storage is full, so the last changes are not saved. Send the scene out as a .clothesline file, or delete scenes you no longer need; saving goes on by itself.'
    : `The last changes could not be saved (${e?.message ?? String(error)}). Send the scene out as a .clothesline file to be safe; saving is tried again with the next change.`;
}

/** Keeps the open document saved until the returned function is called. */
export function startAutosave(): () => void {
  written = useDocument.getState().revision;
  const stop = useDocument.subscribe((now, before) => {
    if (now.revision === before.revision || !now.sceneId || now.readOnly) return;
    if (useSaved.getState().state !== 'failed') useSaved.setState({ state: 'saving' });
    timer ??= setTimeout(() => void saveNow(), rest);
  });
  const flush = () => void saveNow();
  const hidden = () => document.visibilityState === 'hidden' && flush();
  addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', hidden);
  const retry = setInterval(() => useSaved.getState().state === 'failed' && flush(), 5000);
  return () => {
    stop();
    flush();
    clearInterval(retry);
    removeEventListener('pagehide', flush);
    document.removeEventListener('visibilitychange', hidden);
  };
}
