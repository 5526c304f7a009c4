import { cos, sin } from '../../math/portable';
import { channel, random01 } from '../../math/random';

/** Several about one place: how many there are and how wide they stand. */
export interface Clump {
  /** Least and most. */
  each: readonly [number, number];
  /** Metres from the middle to the farthest. */
  wide: number;
}

const EACH = channel('scatter.clump.each');
const AWAY = channel('scatter.clump.away');
const ROUND = channel('scatter.clump.round');
const HIGH = channel('scatter.clump.high');

/** The most that stand about one place. */
export const MOST_EACH = 200;

/** How many stand about a place. @param slot the place's own */
export function clumpSize({ each: [least, most] }: Clump, seed: number, slot: number): number {
  const [low, high] = [Math.min(least, most), Math.max(least, most)];
  return low + Math.floor(random01(seed, slot, EACH) * (high - low + 1));
}

/**
 * Where the n-th stands beside its middle, in two directions: evenly likely over the disc.
 * @param slot of the one that stands there @returns metres
 */
export function clumpOffset({ wide }: Clump, seed: number, slot: number): [number, number] {
  const away = wide * Math.sqrt(random01(seed, slot, AWAY));
  const round = 2 * Math.PI * random01(seed, slot, ROUND);
  return [away * cos(round), away * sin(round)];
}

/** How much higher or lower than its middle one stands in a volume, for what is left of the ball. @returns metres */
export function clumpHeight({ wide }: Clump, seed: number, slot: number, away: number): number {
  return Math.sqrt(Math.max(0, wide * wide - away * away)) * (2 * random01(seed, slot, HIGH) - 1);
}
