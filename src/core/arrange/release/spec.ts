import type { TriMesh } from '../../mesh/triMesh';
import type { Sliced } from '../../mesh/slice';
import type { Placements } from '../result';
import type { Parts } from './hulls';
import type { Physics } from './physics';
import type { Release } from './schema';

/** Frames a second that are kept of a fall. */
export const RATE = 60;

/** What falling things strike beside each other, at one moment. */
export interface Around {
  /** By id; those that move have the same faces at every moment. */
  surfaces: ReadonlyMap<string, TriMesh>;
  /** Props of other arrangements, by its id. */
  placed: ReadonlyMap<string, Placements>;
}

/** What a fall is worked out from. */
export interface FallSpec {
  physics: Physics;
  release: Release;
  seed: number;
  /** Where they would stand if nobody had let them go. @param frame from the release on */
  held(frame: number): Placements;
  around(frame: number): Around;
  /** Ids of the surfaces and arrangements that move. */
  moving: ReadonlySet<string>;
  /** Whether what is held moves. */
  heldMoves: boolean;
  /** The convex parts of a prop; undefined where its mesh is not at hand. */
  parts(prop: string): Parts | undefined;
  /** The mesh of a prop that others fall on. */
  mesh(prop: string): Sliced | undefined;
  /** Whether a place has come to where it is let go; for the causes that are places. */
  isLetGo?(row: number, now: Placements, before: Placements | null): boolean;
}

/** What becomes of a row. */
export const PHASE = { held: 0, falling: 1, rest: 2, gone: 3 } as const;

/** One moment of a fall: a row of the placements each. */
export interface FallFrame {
  /** xyz, metres from {@link Fall.origin}. */
  position: Float32Array;
  rotation: Float32Array;
  phase: Uint8Array;
}
