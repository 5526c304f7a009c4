import { linearColor } from '../../math/color';
import { channel, random01, randomBase, randomOf } from '../../math/random';
import { CHANNELS, restOf, STEP_OF, type Channel, type Spread, type Variation } from './schema';
import { cos } from '../../math/portable';

/** Three draws a channel: values that lie mostly in the middle take all of them. */
const KEYS = Object.fromEntries(
  CHANNELS.map((c) => {
    const name = `variation.${c.replace('Deg', '')}`;
    return [c, [channel(name), channel(`variation.${c}.2`), channel(`variation.${c}.3`)]];
  }),
) as Record<Channel, [number, number, number]>;
const MIRROR = channel('variation.mirror');
const TINT = channel('variation.tint');
const TINT_STRENGTH = channel('variation.tint.strength');

/** One slot's values: each channel's at its index in {@link VARIED}, and last whether it is mirrored (1) or not. */
export type Varied = Float64Array;
export const VARIED = {
  along: 0,
  side: 1,
  lift: 2,
  turnDeg: 3,
  tipDeg: 4,
  rollDeg: 5,
  size: 6,
  sizeX: 7,
  sizeY: 8,
  sizeZ: 9,
  mirrored: 10,
} as const satisfies Record<Channel | 'mirrored', number>;

/** The values of a slot where nothing varies: 0, and sizes 1. */
export const unvaried = (): Varied => {
  const out = new Float64Array(11);
  for (const c of CHANNELS) out[VARIED[c]] = restOf(c);
  return out;
};

/** A channel that is on, ready to draw from. */
interface Draw {
  /** What seed and channel make of its hashes. */
  bases: number[];
  /** Where its value goes. */
  at: number;
  low: number;
  high: number;
  step: number;
  spread: Spread;
  /** Any value of the range is as likely as any other: the commonest, and the quickest to draw. */
  even: boolean;
}

/** Draws the random values of slots. Only channels that are on cost anything. */
export interface Varier {
  /** Writes the values of one slot to `out`, which starts as {@link unvaried} and is this one's alone. */
  vary(slot: number, prop: number, out: Varied): void;
  /**
   * The same values of many slots, a list for each index of {@link VARIED}; absent where a channel is off.
   * @returns null where some props have ranges of their own
   */
  columns(slots: Float64Array): VariedColumns | null;
}
export type VariedColumns = readonly (Float64Array | undefined)[];

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
      const step = Number(v[STEP_OF[c]!] ?? 0);
      return [
        {
          bases: KEYS[c].map((key) => randomBase(seed, key)),
          at: VARIED[c],
          low,
          high,
          step,
          spread: v.spread[c],
          even: v.spread[c] === 'uniform' && !(step > 0) && low !== high,
        },
      ];
    });
  const common = drawsOf(undefined);
  const own = props.map((id) => (v.perProp[id] ? drawsOf(v.perProp[id]) : common));
  // What is on for some props only is put back to rest for the others.
  const mixed = own.some((d) => d !== common) ? CHANNELS : [];
  if (v.mirror <= 0 && own.every((d) => d.length === 0) && common.length === 0) return null;
  return {
    vary(slot, prop, out) {
      for (const c of mixed) out[VARIED[c]] = restOf(c);
      const draws = prop >= 0 ? own[prop] : common;
      for (let i = 0; i < draws.length; i++) {
        const d = draws[i];
        out[d.at] = d.even ? d.low + (d.high - d.low) * randomOf(d.bases[0], slot) : drawFrom(d, slot);
      }
      if (v.mirror > 0) out[VARIED.mirrored] = random01(seed, slot, MIRROR) < v.mirror ? 1 : 0;
    },
    columns(slots) {
      if (own.some((d) => d !== common)) return null;
      const out: Float64Array[] = [];
      for (const d of common) out[d.at] = columnOf(d, slots);
      if (v.mirror > 0)
        out[VARIED.mirrored] = slots.map((slot) => (random01(seed, slot, MIRROR) < v.mirror ? 1 : 0));
      return out;
    },
  };
}

function columnOf(d: Draw, slots: Float64Array): Float64Array {
  const out = new Float64Array(slots.length);
  if (!d.even) for (let i = 0; i < out.length; i++) out[i] = drawFrom(d, slots[i]);
  else {
    const { low } = d;
    const width = d.high - low;
    const base = d.bases[0];
    for (let i = 0; i < out.length; i++) out[i] = low + width * randomOf(base, slots[i]);
  }
  return out;
}

/** A share 0–1 of the range by its spread: evenly; the mean of three; or by the arcsine, mostly near both ends. */
function spreadShare({ spread, bases }: Draw, slot: number): number {
  const u = randomOf(bases[0], slot);
  if (spread === 'bell') return (u + randomOf(bases[1], slot) + randomOf(bases[2], slot)) / 3;
  return spread === 'extremes' ? (1 - cos(Math.PI * u)) / 2 : u;
}

function drawFrom(d: Draw, slot: number): number {
  if (d.low === d.high) return d.low;
  const u = spreadShare(d, slot);
  // Steps finer than the 32 bits of a value are none.
  if (!(d.step > 0) || !((d.high - d.low) / d.step < 4294967296)) return d.low + (d.high - d.low) * u;
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
