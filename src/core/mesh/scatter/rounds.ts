import { pow } from '../../math/portable';

/**
 * Even places come in rounds: in each, candidates by chance, of which every one stays that is not too near to one that
 * is there already (dart throwing, Cook 1986; rounds of ever smaller distances, so that the first so many are even,
 * too: McCool and Fiume 1992). Distances are the same for every density: a smaller one keeps what there was.
 */

/** The distance of the first round, metres; from one round to the next they shrink. */
const FIRST = 1024;
const SHRINK = Math.SQRT1_2;
/**
 * Candidates a square (a cube) of the distance: in the last round so many that no gap stays where another one would
 * fit; before it fewer do.
 */
const THROWS = 12;
const THROWS_BEFORE = 5;
/** More rounds than this none needs. */
const MOST = 64;

export interface Round {
  level: number;
  distance: number;
  /** Candidates a square (a cube) of the distance, and for all of the size. */
  dense: number;
  throws: number;
}

/** The distance of a round in which nothing else is asked for, metres. */
export const roundDistance = (level: number): number => FIRST * pow(SHRINK, level);

/**
 * The rounds down to a distance, or without end where that is null.
 * @param size square metres, or cubic ones @param dimensions 2 or 3
 */
export function* rounds(size: number, dimensions: 2 | 3, distance: number | null): Generator<Round> {
  for (let level = 0; level < MOST; level++) {
    const even = roundDistance(level);
    const last = distance !== null && even <= distance * 1.001;
    const d = last ? distance : even;
    const dense = last || distance === null ? THROWS : THROWS_BEFORE;
    const throws = Math.ceil((dense * size) / (dimensions === 2 ? d * d : d * d * d));
    yield { level, distance: d, dense, throws };
    if (last) return;
  }
}

/** About so many even places come to stand at a distance, measured on the plane and in a cube. */
export const fitting = (size: number, distance: number, dimensions: 2 | 3): number =>
  (0.6 * size) / (dimensions === 2 ? distance * distance : distance * distance * distance);
