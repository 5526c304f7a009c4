import type { MaskPlaces } from '../mesh/mask/places';
import type { Placements } from './result';
import type { Pose } from './steps/onSurface';
import type { Line } from './steps/waver';

/**
 * Places where something may stand, one behind the other: all that a kind has to say of them. Arrays are one entry a
 * place, or three: x, y, z. {@link settle} does the rest, the same for every kind.
 */
export interface Sites {
  /** Ids, from {@link slotId}. */
  slot: Float64Array;
  /** Index of the prop that the order gives each, swaps by hand included; -1 a pause. */
  prop: Int32Array;
  /** Metres along what they lie on. */
  s: Float64Array;
  /** Foot, metres. */
  position: Float64Array;
  /** Unit, at right angles to each other. */
  front: Float64Array;
  up: Float64Array;
  /** How each lies, a quaternion x, y, z, w, where that is known closer than by its front and up. */
  rotation?: Float64Array;
  /** Which side is outward, for that heading: from {@link outwardSide}. */
  outward: number;
  /** What a place, or what is laid there, brings of size: a factor. @param i the slot @param place where it stands */
  size?(i: number, place: number): number;
  /** Sizes that a place brings by axis: three factors each, of the prop's own space. */
  scale?: Float64Array;
  /** Degrees about its up that a slot brings. */
  turn?(i: number): number;
  /** Whether a slot was put there by hand: it is no gap, whatever the recipe says. */
  fixed?(i: number): boolean;
  /** Whether a slot is one of every second. */
  odd(i: number): boolean;
  /** 1 where the front is what it faces, whatever the heading says. */
  faced?: Uint8Array;
  /** Whether a slot faces the other way across. */
  otherSide?(i: number): boolean;
  /**
   * Factors of the axes of each place, three of them, by which what is moved there grows: left (negative where all is
   * mirrored), up, front.
   */
  axes?: Float64Array;
  /** Why it was empty before any gap, by slot: from {@link STATE}. What a hand decided goes before. */
  before?: Uint8Array;
  /** Why each slot is empty, where that had to be known to lay them: from {@link STATE}. */
  state?: Uint8Array;
  /** The line that all of them lie on, by which they waver; absent where they lie on none. */
  along?: Line;
  /** Where each line of the places begins, if they are several: gaps in a row are so within a line. */
  lines?: ArrayLike<number>;
  /** Whether the last place of a line is followed by its first. */
  around?: boolean;
  /** 1 where a place is past an end; it is a gap, whatever moves there. */
  past?: Uint8Array;
  /** Whether a place is kept out; null where none is. */
  keptOut?: ((place: number) => boolean) | null;
  /**
   * Where a place comes to when it goes on along what it lies on: false where it stays on no such thing and just moves
   * straight on, "off" where there is nothing any more. Absent: always straight.
   */
  moved?(place: number, along: number, side: number, out: Pose): boolean | 'off';
  /** Metres that each has made on its way to here, where they have travelled. */
  made?: Float64Array;
  /** How far a place goes with the normal of what it stands on; absent: it stays upright. */
  lean?(place: number): number;
  /** Whether a place is held to a surface as it is: it looks for no ground. */
  held?(place: number): boolean;
  /** Asks `moved` for every place, also for those that go nowhere: position, front and up may then be empty. */
  asks?: boolean;
  /** Laid end to end: their length and place along are what their neighbours rest on, and do not vary. */
  endToEnd?: boolean;
  /** What a hand moved along is in the places already. */
  nudged?: boolean;
  /** What masks read of each place, where that is known closer than by where it is. */
  reads?: MaskPlaces;
  /** Called for each that is settled in its row: to shape it, or to keep what is known of it. */
  settled?(settled: Settled, out: Placements): void;
}

/** One slot as it came out. What it holds is written over for the next. */
export interface Settled {
  i: number;
  place: number;
  /** Its row in the placements. */
  row: number;
  /** Whether a hand holds it where it is. */
  locked: boolean;
  /** Metres above its place. */
  lift: number;
  /** Degrees about its up in all, besides its heading. */
  turnDeg: number;
}
