import { create } from 'zustand';
import { useDocument } from './document';
import { engine } from './engine';

/** The time at which the scene is shown. Playing is looking: it changes nothing of the document. */
export interface ClockState {
  /** Seconds. */
  time: number;
  playing: boolean;
}

export const useClock = create<ClockState>(() => ({ time: 0, playing: false }));

/** Shows the scene at a time. */
export function setTime(time: number): void {
  useClock.setState({ time });
  engine().time = time;
  engine().evaluate(useDocument.getState().scene);
}

let frame = 0;

/** Starts or stops the time. The engine works out only the latest moment, so playing never falls behind. */
export function play(playing: boolean): void {
  if (playing === useClock.getState().playing) return;
  useClock.setState({ playing });
  cancelAnimationFrame(frame);
  if (!playing) return;
  let last = performance.now();
  const step = (now: number) => {
    const { time } = useClock.getState();
    setTime(time + Math.min(0.25, (now - last) / 1000));
    last = now;
    frame = requestAnimationFrame(step);
  };
  frame = requestAnimationFrame(step);
}

/** Back to the beginning, standing still. */
export function rewind(): void {
  play(false);
  setTime(0);
}
