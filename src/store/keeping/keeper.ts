import { create } from 'zustand';
import { onChange, setReadOnly, useDocument } from '../document';
import { takeStep, type Kept, type Step } from '../steps';
import { keepsNothing } from './database';
import type { FoundScene } from './load';
import { appendSteps, DeletedError, TakenOverError } from './log';
import { TAB } from './tabs';

/** Keeps what happens to the open document: every step is written in the task that made it, behind those before it. */

/** Between the beginnings of two writes, while changes come faster than that. */
const BREATH_MS = 60;
/** A write that failed is tried again after this, and with every change. */
const AGAIN_MS = 5000;
/** Records of a log that are worth folding. */
const FOLD_AT = 60;
/** Nothing has happened for so long. */
const IDLE_MS = 3000;

export interface SavedState {
  state: 'saved' | 'saving' | 'failed';
  /** For "failed": one sentence. */
  problem?: string;
}

export const useSaved = create<SavedState>(() => ({ state: 'saved' }));

/** What of one scene is not on disk yet. It outlives the page that shows the scene, until all of it is kept. */
class Keeper {
  private queue: Step[] = [];
  private writing: Promise<void> | null = null;
  private timer: ReturnType<typeof setTimeout> | undefined;
  private idle: ReturnType<typeof setTimeout> | undefined;
  private begun = -Infinity;
  private problem: string | undefined;
  private records: number;

  /** @param whole what to write before the first step, where what is on disk is another scene than this */
  constructor(
    readonly id: string,
    private at: number,
    records: number,
    private whole: Kept | undefined,
    private name: string,
  ) {
    this.records = records;
    this.rested();
  }

  get unkept(): readonly Step[] {
    return this.queue;
  }

  add(step: Step, name: string): void {
    touched = true;
    this.queue.push(step);
    this.name = name;
    waiting.set(this.id, this);
    this.tell();
    clearTimeout(this.idle);
    if (this.problem) this.begin();
    else this.schedule();
  }

  private schedule(): void {
    if (this.writing || this.timer !== undefined) return;
    const rest = this.begun + BREATH_MS - performance.now();
    if (rest <= 0) this.begin();
    else this.timer = setTimeout(() => this.begin(), rest);
  }

  private begin(): void {
    if (this.writing) return;
    clearTimeout(this.timer);
    this.timer = undefined;
    this.begun = performance.now();
    this.writing = this.write().finally(() => {
      this.writing = null;
      this.tell();
      if (this.queue.length === 0) this.rested();
      else if (this.problem) this.timer = setTimeout(() => this.begin(), AGAIN_MS);
      else this.schedule();
    });
  }

  /** Writes all that waits. Resolves when it is on disk, or when that failed; `useSaved` tells which. */
  async flush(): Promise<void> {
    await this.writing;
    do {
      if (this.queue.length > 0) this.begin();
      await this.writing;
    } while (this.queue.length > 0 && !this.problem);
  }

  private async write(): Promise<void> {
    const steps = this.queue.slice();
    try {
      await appendSteps({ id: this.id, tab: TAB, at: this.at + 1 }, steps, this.name, this.whole);
    } catch (error) {
      if (!(error instanceof TakenOverError || error instanceof DeletedError)) {
        this.problem = describeFailure(error);
        return;
      }
      if (open === this) setReadOnly(error instanceof DeletedError ? 'deleted' : 'another-tab');
      // There is no place any more where they could be kept.
      this.queue.length = steps.length;
    }
    this.problem = undefined;
    this.at += this.whole ? 2 : 1;
    this.whole = undefined;
    this.records++;
    this.queue.splice(0, steps.length);
    if (this.queue.length === 0) waiting.delete(this.id);
  }

  /** Nothing waits: after a while without a change a long log is folded, in a worker, for a large scene takes a second. */
  private rested(): void {
    clearTimeout(this.idle);
    this.idle = setTimeout(() => {
      if (this.records < FOLD_AT || keepsNothing() || typeof Worker === 'undefined') return;
      this.records = 0;
      const worker = new Worker(new URL('./fold.worker.ts', import.meta.url), { type: 'module' });
      worker.onmessage = worker.onerror = () => worker.terminate();
      worker.postMessage(this.id);
    }, IDLE_MS);
  }

  leave(): void {
    clearTimeout(this.idle);
  }

  tell(): void {
    if (open !== this) return;
    const { problem } = this;
    const state = problem ? 'failed' : this.queue.length ? 'saving' : 'saved';
    if (useSaved.getState().state !== state || problem) useSaved.setState({ state, problem });
  }
}

/** Scenes with steps that are not on disk yet. */
const waiting = new Map<string, Keeper>();
let open: Keeper | null = null;

/** Whether something would be lost if the page went now. */
export const isUnkept = (): boolean => waiting.size > 0 || (keepsNothing() && touched);
let touched = false;

if (typeof window !== 'undefined')
  window.addEventListener('beforeunload', (e) => {
    if (isUnkept()) e.preventDefault();
  });

/** Writes what waits of the open document. */
export const saveNow = (): Promise<void> => open?.flush() ?? Promise.resolve();

/** A scene as it was found, with what this page did to it and could not write yet. */
export function withUnkept(id: string, found: FoundScene): FoundScene {
  const steps = waiting.get(id)?.unkept ?? [];
  return steps.reduce<FoundScene>((kept, step) => ({ ...kept, ...takeStep(kept, step) }), found);
}

/** Keeps the document that was just opened, from this moment on, until the returned function is called. */
export function keepOpen(id: string, found: FoundScene): () => void {
  const { scene, past, future, at, records, differs } = found;
  const whole = differs ? { scene, past, future } : undefined;
  const keeper = waiting.get(id) ?? new Keeper(id, at, records, whole, scene.name);
  open = keeper;
  keeper.tell();
  const stop = onChange((change) => {
    if (change.kind === 'step') keeper.add(change.step, useDocument.getState().scene.name);
  });
  const flush = () => void keeper.flush();
  const hidden = () => document.visibilityState === 'hidden' && flush();
  addEventListener('pagehide', flush);
  document.addEventListener('visibilitychange', hidden);
  return () => {
    stop();
    flush();
    keeper.leave();
    if (open === keeper) open = null;
    removeEventListener('pagehide', flush);
    document.removeEventListener('visibilitychange', hidden);
  };
}

/** One sentence for a save that failed. Dexie wraps the browser's own error. */
export function describeFailure(error: unknown): string {
  const e = error as { name?: string; message?: string; inner?: { name?: string } };
  const full = [e?.name, e?.inner?.name, e?.message].some((t) => t?.includes('QuotaExceeded'));
  return full
    ? 'The browser’s storage is full, so the last changes are not saved. Send the scene out as a .clothesline file, or delete scenes you no longer need; saving goes on by itself.'
    : `The last changes could not be saved (${e?.message ?? String(error)}). Send the scene out as a .clothesline file to be safe; saving is tried again with the next change.`;
}
