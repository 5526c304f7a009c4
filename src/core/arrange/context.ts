import type { MaskField } from '../mesh/mask/field';
import type { MaskGround } from '../mesh/mask/places';
import type { CompileResult } from '../curve/compile';
import type { PartRange, Placements } from './result';
import type { Bounds } from '../mesh/mesh';
import type { Vec3 } from '../math/vec3';
import type { TriMesh } from '../mesh/triMesh';
import type { Sliced } from '../mesh/slice';
import type { RestJob } from '../mesh/contact/rests';
import type { PropShape } from '../mesh/contact/support';
import type { Posable } from './poses/posable';
import type { Fineness } from './fineness';

/** What is known of a prop when placements are worked out. */
export type PropFacts =
  | {
      state: 'ready';
      bounds: Bounds;
      /** Its named points, in its own space. */
      snapPoints?: { name: string; position: Vec3; direction?: Vec3 }[];
      /** What of it may touch; made when it is first asked for. */
      shape?: () => PropShape;
      /** Its mesh in its own space, to be sliced and bent; made when it is first asked for. */
      mesh?: () => Sliced;
      /** How it becomes as long as a line, where it is made for lines. */
      fit?: 'stretch' | 'repeat';
      /** Its poses, where it brings animations or wheels along; null where its wheels are only named. */
      posable?: () => Posable | null;
    }
  /** Its mesh is not at hand, or has no faces: its slots are worked out with a size of nothing. */
  | { state: 'mesh-missing' | 'mesh-empty' };

/** What of a prop may touch; undefined where its mesh is not at hand. */
export const shapeOf = (context: ArrangeContext, id: string): PropShape | undefined => {
  const facts = context.prop(id);
  return facts?.state === 'ready' ? facts.shape?.() : undefined;
};

/** A surface as a sheet needs it. */
export interface SurfaceStates {
  now: TriMesh;
  /** The surface before it is deformed, in its own frame. */
  rest: TriMesh;
  /** Metres in the scene for a metre of its own frame. */
  size: number;
  /** From its own frame to the scene, column-major 4×4. */
  place: Float64Array;
}

/** The box of a prop in its own space; undefined where its mesh is not at hand. */
export function boxOf(context: ArrangeContext, id: string): Bounds | undefined {
  const facts = context.prop(id);
  return facts?.state === 'ready' ? facts.bounds : undefined;
}

/** What an arrangement may ask for. Undefined means that the scene has no such id. */
export interface ArrangeContext {
  path(id: string): CompileResult | undefined;
  prop(id: string): PropFacts | undefined;
  /** Placements of another arrangement, worked out before; only of those that `dependsOn` names. */
  arrangement?(id: string): Placements | undefined;
  /** The paths of another arrangement and what of it lies on them. */
  parts?(id: string): PartRange[] | undefined;
  /** Whether the rows of another arrangement come in no order. */
  unordered?(id: string): boolean;
  /** What lands as one with rows of the arrangement `id`, as it sits on them where they are given; absent: nothing does. */
  sitting?(id: string): ((leaders: Placements) => Placements[]) | null;
  /** A surface as it stands now; undefined where it is missing or broken. */
  surface?(id: string): TriMesh | undefined;
  /** A surface as it stands now and as it was at rest. */
  surfaceStates?(id: string): SurfaceStates | undefined;
  /** Ids of the surfaces that things land on unless they name some. */
  grounds?(): string[];
  /** A mask, ready to be read. */
  mask?(id: string): MaskField | undefined;
  /** The surfaces that places of an arrangement are read on by masks. */
  maskGrounds?(id: string): MaskGround[];
  /** Seconds. */
  time?: number;
  /** Where all times of a stretch are worked out for one animation. */
  fine?: Fineness;
  /** Finds how many things come to rest, with others' help; absent: it is done here alone. */
  restAll?: ((job: RestJob) => void) | undefined;
}
