import { create } from 'zustand';
import { engine } from './engine';

/** The time at which the scene is shown. Playing is looking: it changes nothing of the document. */
export interface ClockState {
  /** Seconds. */
  time: number;
  playing: boolean;
  /** How fast the time runs; 1 is as it is. */
  speed: number;
  /** Seconds of the stretch that the slider shows. */
  span: number;
  /** At its end the time begins again. */
  loop: boolean;
}

export const useClock = create<ClockState>(() => ({
  time: 0,
  playing: false,
  speed: 1,
  span: 8,
  loop: false,
}));

export const setClock = (values: Partial<Pick<ClockState, 'speed' | 'span' | 'loop'>>): void =>
  useClock.setState(values);

/** Shows the scene at a time. */
export function setTime(time: number): void {
  useClock.setState({ time });
  engine().time = time;
  engine().again();
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
    const { time, speed, span, loop } = useClock.getState();
    const next = time + Math.min(0.25, (now - last) / 1000) * speed;
    setTime(loop && span > 0 ? ((next % span) + span) % span : next);
    last = now;
    frame = requestAnimationFrame(step);
  };
  frame = requestAnimationFrame(step);
}

/** Back to the beginning, standing still. */
export function rewind(): void {
  play(false);
  if (useClock.getState().time !== 0) setTime(0);
}
