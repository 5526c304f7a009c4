import type { Deformer } from '../../mesh/deform/schema';
import type { Strength } from '../../mesh/deform/deform';
import type { Topology } from '../../mesh/lines/topology';
import type { Surface } from '../../mesh/surfaceSchema';
import type { Finding } from '../../arrange/result';
import { indexIn } from '../indexIn';
import type { Around, Rest, SurfaceContext } from '../surfaceRest';

/** What a surface is that has a history: worked out frame by frame, from time 0 on. */

type Kind = 'cloth' | 'sag';
export type Of<K extends Deformer['kind']> = Extract<Deformer, { kind: K }>;
export type Simulated = Of<Kind>;

/** Whether a deformer has a history: what it comes to at a moment follows from the moments before. */
export const isSimulated = (d: Deformer): d is Simulated => d.kind === 'cloth' || d.kind === 'sag';

/** The deformers of a surface that have a history. The first of them counts. */
export const simulatedOf = (surface: Surface): Simulated[] =>
  surface.deformers.filter((d): d is Simulated => d.on && isSimulated(d));

/** Numbers of a cloth that are read anew at every frame: they may change with time while it is simulated. */
export const AT_EVERY_FRAME = ['wind', 'windDeg', 'gusts'] as const;

/** Whether a number is one that a simulation of this surface reads at every frame. */
export function isReadWithin(surface: Surface, field: readonly string[]): boolean {
  const [d] = simulatedOf(surface);
  const [where, which, name] = field;
  if (d?.kind !== 'cloth' || where !== 'deformers') return false;
  return (
    surface.deformers[indexIn(surface.deformers, which)] === d &&
    (AT_EVERY_FRAME as readonly string[]).includes(name)
  );
}

/** Frames that follow from each other and are kept. */
export interface Simulation {
  /** Seconds that are simulated. */
  readonly seconds: number;
  /** @param out xyz a welded vertex, in the scene @param progress called with the share done */
  at(time: number, out: Float64Array, progress?: (done: number) => void): void;
}

/** What a surface is, for deforming it. */
export interface Deforming {
  surface: Surface;
  rest: Rest;
  /** From its own frame to the scene. */
  place: Float64Array;
  context: SurfaceContext;
  restKey: string;
  /** How much of each deformer counts at each vertex; absent: all of it. */
  strength?: Strength;
  /** Keys of the masks that say so. */
  masksKey: unknown[];
}

/** What is at hand when a simulation begins. */
export interface Begun {
  what: Deforming;
  around: Around | null;
  topology: Topology;
}

export type Problem = Pick<Finding, 'kind' | 'detail'>;

/** What one begins from. */
export interface Beginning<S extends Simulation> {
  /** Changes with all that it begins from beside the surface and its own numbers. */
  stands: unknown;
  problems: Problem[];
  /**
   * Much that is set of a surface moves nothing of it: then what was simulated stays, and goes on.
   * @param start xyz a welded vertex, in the scene @returns null where it cannot be simulated
   */
  make(start: Float64Array, was: Simulation | null): S | null;
}
