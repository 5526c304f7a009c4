import { linearColor } from '../../math/color';
import { channel, random01 } from '../../math/random';
import { CHANNELS, restOf, STEP_OF, type Channel, type Spread, type Variation } from './schema';
import { cos } from '../../math/portable';

const KEYS = Object.fromEntries(
  CHANNELS.map((c) => [c, channel(`variation.${c.replace('Deg', '')}`)]),
) as Record<Channel, number>;
/** Two more draws a channel, for values that lie mostly in the middle. */
const MORE = Object.fromEntries(
  CHANNELS.map((c) => [c, [channel(`variation.${c}.2`), channel(`variation.${c}.3`)]]),
) as Record<Channel, [number, number]>;
const MIRROR = channel('variation.mirror');
const TINT = channel('variation.tint');
const TINT_STRENGTH = channel('variation.tint.strength');

export type Varied = Record<Channel, number> & { mirrored: boolean };

export const unvaried = (): Varied => ({
  ...(Object.fromEntries(CHANNELS.map((c) => [c, restOf(c)])) as Record<Channel, number>),
  mirrored: false,
});

/** A channel that is on, ready to draw from. */
interface Draw {
  channel: Channel;
  low: number;
  high: number;
  step: number;
  spread: Spread;
}

/** Draws the random values of slots. Only channels that are on cost anything. */
export interface Varier {
  /** Writes the values of one slot to `out`, which starts as {@link unvaried} and is this one's alone. */
  vary(slot: number, prop: number, out: Varied): void;
}

/**
 * The variation of a run, prepared. Each channel depends on the seed, the slot and itself only.
 * @param props ids, for the ranges that some props have of their own @returns null where nothing varies
 */
export function varier(v: Variation, seed: number, props: readonly string[]): Varier | null {
  const drawsOf = (own: Variation['perProp'][string] | undefined): Draw[] =>
    CHANNELS.flatMap((c) => {
      const range = own?.[c] ?? v[c];
      const [low, high] = [Math.min(...range), Math.max(...range)];
      if (low === restOf(c) && high === low) return [];
      return [{ channel: c, low, high, step: Number(v[STEP_OF[c]!] ?? 0), spread: v.spread[c] }];
    });
  const common = drawsOf(undefined);
  const own = props.map((id) => (v.perProp[id] ? drawsOf(v.perProp[id]) : common));
  // What is on for some props only is put back to rest for the others.
  const mixed = own.some((d) => d !== common) ? CHANNELS : [];
  if (v.mirror <= 0 && own.every((d) => d.length === 0) && common.length === 0) return null;
  return {
    vary(slot, prop, out) {
      for (const c of mixed) out[c] = restOf(c);
      const draws = prop >= 0 ? own[prop] : common;
      for (let i = 0; i < draws.length; i++) out[draws[i].channel] = drawFrom(draws[i], seed, slot);
      out.mirrored = v.mirror > 0 && random01(seed, slot, MIRROR) < v.mirror;
    },
  };
}

/** A share 0–1 of the range by its spread: evenly; the mean of three; or by the arcsine, mostly near both ends. */
export function spreadShare(spread: Spread, seed: number, slot: number, c: Channel): number {
  const u = random01(seed, slot, KEYS[c]);
  if (spread === 'bell') return (u + random01(seed, slot, MORE[c][0]) + random01(seed, slot, MORE[c][1])) / 3;
  return spread === 'extremes' ? (1 - cos(Math.PI * u)) / 2 : u;
}

function drawFrom(d: Draw, seed: number, slot: number): number {
  if (d.low === d.high) return d.low;
  const u = spreadShare(d.spread, seed, slot, d.channel);
  if (!(d.step > 0)) return d.low + (d.high - d.low) * u;
  const steps = Math.floor((d.high - d.low) / d.step + 1e-9) + 1;
  return d.low + d.step * Math.min(steps - 1, Math.floor(u * steps));
}

/** Tints of slots, to be multiplied with a prop's own colour: three linear numbers each; null where there is none. */
export function tintsOf(v: Variation, seed: number, slots: Float64Array): Float32Array | null {
  const { colors, strength } = v.tint;
  const [low, high] = [Math.min(...strength), Math.max(...strength)];
  if (colors.length === 0 || high <= 0) return null;
  const dyes = colors.map(linearColor);
  const out = new Float32Array(slots.length * 3);
  for (let i = 0; i < slots.length; i++) {
    const dye = dyes[Math.floor(random01(seed, slots[i], TINT) * dyes.length)];
    const k = low === high ? low : low + (high - low) * random01(seed, slots[i], TINT_STRENGTH);
    for (let a = 0; a < 3; a++) out[i * 3 + a] = 1 + (dye[a] - 1) * k;
  }
  return out;
}
