import { channel, randomIn } from '../../math/random';
import type { Variation } from './schema';

const CHANNELS = {
  along: channel('variation.along'),
  side: channel('variation.side'),
  lift: channel('variation.lift'),
  turn: channel('variation.turn'),
  tip: channel('variation.tip'),
  roll: channel('variation.roll'),
  size: channel('variation.size'),
};

export interface Varied {
  along: number;
  side: number;
  lift: number;
  turnDeg: number;
  tipDeg: number;
  rollDeg: number;
  size: number;
}

/** Whether any channel is on, so that a run without variation pays nothing for it. */
export function varies(v: Variation): boolean {
  const off = (r: readonly [number, number], value: number) => r[0] === value && r[1] === value;
  return !(
    off(v.along, 0) &&
    off(v.side, 0) &&
    off(v.lift, 0) &&
    off(v.turnDeg, 0) &&
    off(v.tipDeg, 0) &&
    off(v.rollDeg, 0) &&
    off(v.size, 1)
  );
}

/** The random values of one slot, written to `out`. Each channel depends on the seed, the slot and itself only. */
export function vary(v: Variation, seed: number, slot: number, out: Varied): void {
  const draw = (key: number, range: readonly [number, number], step = 0) =>
    randomIn(seed, slot, key, Math.min(...range), Math.max(...range), step);
  out.along = draw(CHANNELS.along, v.along);
  out.side = draw(CHANNELS.side, v.side);
  out.lift = draw(CHANNELS.lift, v.lift);
  out.turnDeg = draw(CHANNELS.turn, v.turnDeg, v.turnStepDeg);
  out.tipDeg = draw(CHANNELS.tip, v.tipDeg, v.tipStepDeg);
  out.rollDeg = draw(CHANNELS.roll, v.rollDeg, v.rollStepDeg);
  out.size = draw(CHANNELS.size, v.size);
}
