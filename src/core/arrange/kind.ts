import type { z } from 'zod';
import type { baseFields } from './base';
import type { Stroke } from '../curve/compile';
import type { ArrangeContext } from './context';
import type { Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { LaidStrokes } from '../mesh/lines/pinned';
import type { TriMesh } from '../mesh/triMesh';
import type { ArrangementResult, SpacingFacts } from './result';

/** What an arrangement is worked out from, ids in the order of first use. */
export interface Needs {
  paths: string[];
  props: string[];
  arrangements: string[];
  /** Surfaces it stands on; "all" are those that are shown. */
  surfaces: string[] | 'all';
  /** Surfaces that a hand has locked some of it to, shown or not: whatever the kind, {@link needsOf} finds them. */
  locks?: string[];
  /** Masks that it reads; whatever the kind, {@link needsOf} finds those of the steps that kinds share. */
  masks?: string[];
}

/** Lines that an arrangement lays on a surface, and that surface as it stands now: they go with it. */
export interface LaidLines {
  surface: string;
  now: TriMesh;
  /** From the surface's own frame to the scene, column-major 4×4. */
  place: Float64Array;
  strokes: LaidStrokes;
}

/** What the rows of an arrangement touch as they should. */
interface Touching {
  /** The arrangements that they stand on. */
  on: string[];
  /** Whether the row of a slot stands on that of another one: of those, or of its own arrangement. */
  may(slot: number, other: string, of: number): boolean;
  /** The rows beside them too. */
  neighbours: boolean;
}

/** A field that names a snap point. */
interface SnapName {
  /** The arrangement whose placed props have it. */
  on: string;
  snap: string | null;
  /** Where the field is in the arrangement that names it. */
  path: (string | number)[];
}

/**
 * What of an arrangement has to be another number so that after a time it is as it was.
 * @returns the number; "leaves" where there is none; null where nothing of it moves by itself
 */
export type Loops<A> = (
  arrangement: A,
  over: {
    /** Seconds. */
    span: number;
    facts: SpacingFacts | undefined;
    isClosed(path: string): boolean;
  },
) => { field: string[]; now: number; value: number } | 'leaves' | null;

type BaseSchema = z.ZodObject<ReturnType<typeof baseFields<string>>>;

/**
 * All that there is to say about one kind of arrangement. What a kind *can* is seen from the blocks of settings that
 * it has ({@link has}); what it *does* stands here. Nothing else names a kind.
 *
 * @example
 * export const ringsKind = defineKind({
 *   schema: z.object({ ...baseFields('rings'), props: weightedSchema }),
 *   noun: 'ring',
 *   needs: (rings) => ({ paths: [], props: rings.props.map((p) => p.prop), arrangements: [], surfaces: [] }),
 *   moves: () => false,
 *   evaluate: evaluateRings,
 *   withoutProp: ({ props }, prop) => ({ props: weightedWithout(props, prop) }),
 * });
 */
export interface Kind<S extends BaseSchema = BaseSchema> {
  /** Its fields; the first are {@link baseFields}. Everything else has a default. */
  schema: S;
  /** What one of its rows is called in a sentence. */
  noun: string;
  /** @param before the arrangement as it was, with what it needed: what comes to the same may be the same object */
  needs(arrangement: z.output<S>, before?: { node: z.output<S>; needs: Needs }): Needs;
  /** What its rows touch as they should, so that no check minds. Absent: nothing. */
  touches?(arrangement: z.output<S>): Touching;
  /**
   * The arrangement that its rows land with as one, each with the row of its slot: their meshes are then part of what
   * touches the ground there. Null or absent: none.
   */
  goesWith?(arrangement: z.output<S>): string | null;
  /** Whether it changes by itself with time. */
  moves(arrangement: z.output<S>): boolean;
  /** How it comes back to itself, for kinds that move by themselves. */
  loops?: Loops<z.output<S>>;
  /**
   * @param before the arrangement as it was, and what it came to, where all that it stands on is the same since: a
   * kind may work out just what changed, and says in `rows` what that is. It may take the arrays of that result over
   * and write into them: nobody looks at them again
   */
  evaluate(
    arrangement: z.output<S>,
    context: ArrangeContext,
    before?: { node: z.output<S>; result: ArrangementResult },
  ): ArrangementResult;
  /**
   * The lines that it lays, for paths made from them; absent where it lays none.
   * @param line id of one of them; null: all @returns undefined where what they lie on is not at hand
   */
  lines?(arrangement: z.output<S>, context: ArrangeContext, line: string | null): LaidLines | undefined;
  /**
   * The lines that it hangs, as strokes of a path; absent where it hangs none. @param before what that was last: one that
   * hangs just as it did is the same object
   */
  hung?(arrangement: z.output<S>, context: ArrangeContext, before?: readonly Stroke[]): Stroke[];
  /** The fields that change when a prop leaves the scene. Those that do not name it keep their identity. */
  withoutProp(arrangement: z.output<S>, prop: string): Partial<z.output<S>>;
  /** The fields that change when slots are taken out by hand, or brought back; absent where neither can be done. */
  removeSlots?(arrangement: z.output<S>, slots: readonly number[], removed: boolean): Partial<z.output<S>>;
  /**
   * The fields that change when slots are put where they are told to be, by their names; for kinds whose slots no hand
   * corrects.
   */
  putAt?(
    arrangement: z.output<S>,
    places: ReadonlyMap<string, { position: Vec3; rotation: Quat; scale: Vec3 }>,
  ): Partial<z.output<S>>;
  /**
   * The fields that change when a surface that it fills becomes a placed prop; null where it does not fill that one.
   * Absent: it fills none.
   */
  ontoPlaced?(
    arrangement: z.output<S>,
    surface: string,
    placed: { arrangement: string; slot: string },
  ): Partial<z.output<S>> | null;
  /** Fields that say where it stands, and what belongs to places there: a shared recipe has none of them. */
  places?: readonly string[];
  /** Its rows are members: each has an axis, along its front, with two ends to meet it at. */
  hasAxes?: true;
  /** For kinds whose slots are the numbers of ids of the document: the id of a slot. */
  idOfSlot?(slot: string): string;
  /** Where it names snap points of what arrangements have placed; absent: nowhere. */
  snapNames?(arrangement: z.output<S>): SnapName[];
  /** Gives what a fresh copy holds ids of its own. @param take the next id of that sort: "entry", "peg" … */
  renew?(copy: z.output<S>, take: (sort: string) => string): void;
  /** Moves a fresh copy so far to the side that it is seen beside what it was copied from, metres; absent: it cannot. */
  putAside?(copy: z.output<S>, by: number): void;
  /** Puts a fresh copy onto another path instead of its own. What belongs to places of the old path is left behind. */
  moveToPath?(copy: z.output<S>, path: string): void;
  /** The same onto another surface. */
  moveToSurface?(copy: z.output<S>, surface: string): void;
}

/** Gives a kind the types of its schema. */
export const defineKind = <S extends BaseSchema>(kind: Kind<S>): Kind<S> => kind;
