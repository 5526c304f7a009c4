import type { CompileResult } from '../curve/compile';
import type { Placements } from '../evaluate/result';
import type { Bounds } from '../mesh/mesh';

/** What is known of a prop when placements are worked out. */
export type PropFacts =
  | { state: 'ready'; bounds: Bounds }
  /** Its mesh is not at hand, or has no faces: its slots are worked out with a size of nothing. */
  | { state: 'mesh-missing' | 'mesh-empty' };

/** What an arrangement may ask for. Undefined means that the scene has no such id. */
export interface ArrangeContext {
  path(id: string): CompileResult | undefined;
  prop(id: string): PropFacts | undefined;
  /** Placements of another arrangement, worked out before; only of those that `dependsOn` names. */
  arrangement?(id: string): Placements | undefined;
  /** Seconds. */
  time?: number;
}
