import type { Timed } from './portions';

/** Work that the card has to do, in steps. */
export interface Work {
  /** Whether it may go on; where not, nothing more comes of it. */
  mayGoOn(): boolean;
  /** Whether there is no step left. */
  isOver(): boolean;
  /** Whether the next step shows something. */
  isToShow(): boolean;
  /** Gives the card the next step. */
  step(): Timed;
  /** What is done once something is shown. */
  shown?(): void;
  /** What is done once all is over. */
  over(): void;
}

/** Milliseconds between two looks whether a step is done. */
const LOOK_MS = 4;
/** Milliseconds before the card is expected to be done with what it was given that it is given more. */
const AHEAD_MS = 12;
/** Steps that are expected to take less than this, milliseconds, are given together. */
const SHORT_MS = 6;

/** How a card is asked what it has done. */
export type Fences = Pick<
  WebGL2RenderingContext,
  | 'SYNC_GPU_COMMANDS_COMPLETE'
  | 'SYNC_STATUS'
  | 'UNSIGNALED'
  | 'fenceSync'
  | 'getSyncParameter'
  | 'deleteSync'
  | 'flush'
>;

/**
 * Gives the card steps of some work, one a turn of the page, or as many as are short. The next ones come just before the
 * card is expected to be done with the last: it does not wait for the page, and what is drawn in the background does not
 * pile up and hold the page when something is shown. That is shown only when all before it is drawn, and what follows
 * waits until the page has taken it. Where nothing is known of a step, nothing is given before it is done.
 */
export class Turns {
  private timer: ReturnType<typeof setTimeout> | undefined;
  private frame = 0;

  /** @param fences of the card, asked for when there is something to do: where nothing is drawn there are none */
  constructor(private fences: () => Fences) {}

  /** Begins with some work; with what it was at it does not go on. */
  begin(work: Work): void {
    this.stop();
    const gl = this.fences();
    const given: (Timed & { fence: WebGLSync | null })[] = [];
    let since = performance.now();
    const turn = () => {
      const now = performance.now();
      while (given.length > 0 && isPassed(gl, given[0].fence)) {
        given.shift()!.took(now - since);
        since = now;
      }
      if (!work.mayGoOn()) return;
      const isLast = work.isOver();
      if (isLast && given.length === 0) return work.over();
      const isToShow = work.isToShow();
      const isSoon = given.length === 1 && now - since > given[0].expected - AHEAD_MS;
      if (isLast || (given.length > 0 && (isToShow || !isSoon))) return this.again(turn, LOOK_MS);
      if (given.length === 0) since = now;
      const steps = [work.step()];
      let expected = steps[0].expected;
      while (!isToShow && expected < SHORT_MS && !work.isOver() && !work.isToShow()) {
        const step = work.step();
        expected += step.expected;
        steps.push(step);
      }
      given.push({
        expected,
        took: (ms) => share(steps, ms),
        fence: gl.fenceSync(gl.SYNC_GPU_COMMANDS_COMPLETE, 0),
      });
      gl.flush();
      if (!isToShow) return this.again(turn, LOOK_MS);
      work.shown?.();
      this.frame = requestAnimationFrame(() => this.again(turn, 0));
    };
    this.again(turn, 0);
  }

  stop(): void {
    clearTimeout(this.timer);
    cancelAnimationFrame(this.frame);
  }

  private again(turn: () => void, ms: number): void {
    this.timer = setTimeout(turn, ms);
  }
}

/** Tells steps what each has taken of what all have: by what was expected; one of which nothing was known, the rest. */
function share(steps: readonly Timed[], ms: number): void {
  const known = steps.reduce((sum, { expected }) => sum + (expected < Infinity ? expected : 0), 0);
  const isRest = steps.some(({ expected }) => expected === Infinity);
  const scale = isRest || known === 0 ? 1 : ms / known;
  for (const { expected, took } of steps)
    took(expected < Infinity ? expected * scale : Math.max(0, ms - known));
}

/** Whether the card has come to a fence, which is taken away then. */
function isPassed(gl: Fences, fence: WebGLSync | null): boolean {
  if (fence && gl.getSyncParameter(fence, gl.SYNC_STATUS) === gl.UNSIGNALED) return false;
  gl.deleteSync(fence);
  return true;
}
