import { channel, randomBase, randomOf } from '../../math/random';
import type { Variation } from './variationSchema';

/** A line that places lie on, one behind the other. */
export interface Line {
  /** Metres, and whether its end is its beginning. */
  length: number;
  closed: boolean;
  /** Which line it is, and which of the rows along it: small whole numbers. */
  line: number;
  row: number;
}

/** What a place is moved by: metres to the right, metres up, degrees about its up. */
export type Wavered = [side: number, lift: number, turnDeg: number];

const CHANNELS = [channel('waver.side'), channel('waver.lift'), channel('waver.turn')];
/** Lines and rows have their own stretches of the hash. */
const LINE = 4_294_967_296;
const ROW = 16_777_216;
/** Cells before the beginning of a line have numbers too. */
const BEFORE = 4_194_304;

const fade = (t: number): number => t * t * t * (t * (t * 6 - 15) + 10);

/**
 * Seeded noise along lines: a random value between −1 and 1 every so many metres, smooth between them (value noise
 * with Perlin's fade of 2002), so that nothing is moved by more than the strength. It belongs to the line and not to
 * what stands on it: another pitch or count stands on the same waver. A closed line has a whole number of them.
 * @returns null where nothing wavers
 */
export function waverer(v: Variation, seed: number): ((on: Line, s: number, out: Wavered) => void) | null {
  const strength = [v.waverSide, v.waverLift, v.waverTurnDeg];
  if (strength.every((k) => k === 0)) return null;
  const bases = CHANNELS.map((c) => randomBase(seed, c));
  return (on, s, out) => {
    const whole = on.closed ? Math.max(1, Math.round(on.length / v.waverLength)) : 0;
    const x = on.closed ? (s / on.length) * whole : s / v.waverLength;
    const cell = Math.floor(x);
    const t = fade(x - cell);
    const row = on.line * LINE + (v.waverRows === 'each' ? (on.row + 1) * ROW : 0);
    const at = (k: number) => row + BEFORE + (whole > 0 ? ((k % whole) + whole) % whole : k);
    for (let c = 0; c < 3; c++) {
      const from = strength[c] === 0 ? 0 : randomOf(bases[c], at(cell)) * 2 - 1;
      const to = strength[c] === 0 ? 0 : randomOf(bases[c], at(cell + 1)) * 2 - 1;
      out[c] = strength[c] * (from + (to - from) * t);
    }
  };
}
