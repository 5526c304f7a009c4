import { pow } from '../../math/portable';
import type { Bounds } from '../../mesh/mesh';
import type { Amount } from '../../mesh/scatter/even';
import { fitting } from '../../mesh/scatter/rounds';
import { MOST_PLACES, type Scatter, type ScatterSpread } from './schema';
import { MOST_CLUMPS } from './slots';

/** How many places there are to be, and how far apart. */

/** Where the props have no size. */
const PLAIN = 0.5;

/** Air between props, of their own width. */
const AIR = 1.25;

/** Metres that the widest of the props takes, seen from above (in a volume from anywhere), with some air. */
export function ownDistance(
  { props, stand }: Scatter,
  bounds: (Bounds | undefined)[],
  inVolume: boolean,
): number {
  const widest = bounds.slice(0, props.length).reduce((most, b) => {
    if (!b) return most;
    const [x, y, z] = [0, 1, 2].map((a) => b.max[a] - b.min[a]);
    return Math.max(most, x, z, inVolume ? y : 0);
  }, 0);
  const wide = widest * stand.size * AIR;
  return wide > 1e-4 ? Number(wide.toPrecision(3)) : PLAIN;
}

export interface Density {
  /** What even places are asked for. */
  amount: Amount;
  /** How many there are about. */
  number: number;
  /** Metres from one to the next. */
  distance: number;
}

/**
 * What a spread comes to over so many square (cubic) metres.
 * @param own metres where no distance is set
 */
export function densityOf(spread: ScatterSpread, own: number, size: number, dimensions: 2 | 3): Density {
  const power = (d: number) => (dimensions === 2 ? d * d : d * d * d);
  const root = (v: number) => (dimensions === 2 ? Math.sqrt(v) : pow(v, 1 / 3));
  if (spread.amount === 'distance') {
    const distance = spread.distance ?? own;
    const even = spread.how === 'even' || spread.how === 'clumps';
    const number = even ? fitting(size, distance, dimensions) : size / power(distance);
    return { amount: { distance }, number: Math.round(number), distance };
  }
  const number = spread.amount === 'number' ? spread.number : Math.round(spread.density * size);
  return { amount: { number }, number, distance: number > 0 ? root(size / number) : own };
}

/** What keeps a spread from being worked out: more places than there may be, and the least distance that fits. */
export function tooMany(
  { number }: Density,
  spread: ScatterSpread,
  size: number,
  dimensions: 2 | 3,
): { count: number; limit: number; distance: number } | null {
  const each = spread.how === 'clumps' ? Math.max(1, (spread.each[0] + spread.each[1]) / 2) : 1;
  const limit = spread.how === 'clumps' ? Math.min(MOST_CLUMPS * each, MOST_PLACES) : MOST_PLACES;
  const count = Math.round(number * each);
  if (count <= limit) return null;
  const share = (size * each) / limit;
  const distance = dimensions === 2 ? Math.sqrt(share) : pow(share, 1 / 3);
  return { count, limit: Math.round(limit), distance: Number((distance * 1.01).toPrecision(2)) };
}
