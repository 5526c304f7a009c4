import type { LaidLines } from '../arrange/kind';
import type { CompileResult, Stroke } from '../curve/compile';
import type { Tie } from '../curve/hang/schema';
import type { PointsPath } from '../curve/schema';
import type { Vec3 } from '../math/vec3';
import type { LaidStrokes } from '../mesh/lines/pinned';
import type { Mesh } from '../mesh/mesh';
import type { TriMesh } from '../mesh/triMesh';
import type { TiedPlace } from '../arrange/tiedPlace';

/** What a path may stand on and hang from. Undefined: the scene has no such id, or its mesh is not at hand. */
export interface PathContext {
  path(id: string): CompileResult | undefined;
  /** The mesh with its map to the scene, column-major; and where its vertices are at rest, if it may be deformed. */
  surface(id: string): { mesh: Mesh; matrix: ArrayLike<number>; undeformed?: Float32Array } | undefined;
  /** For paths on a surface: it as it stands now, its own frame's map to the scene, and how the path lies on it at rest. */
  ground?(id: string): { now: TriMesh; place: Float64Array; laid(path: PointsPath): LaidStrokes } | undefined;
  /** Surfaces that a path may lie on unless it names some: those that are shown, but for what is made from it. */
  grounds?(path: string): string[];
  /** Where something that is connected is now; null where it is not there. @param last where it was before */
  tie?(tie: Tie, last: Vec3): TiedPlace | null;
  /** Lines that an arrangement hangs. */
  hung?(arrangement: string): Stroke[] | undefined;
  /** Seconds: wind blows in what hangs. */
  time?: number;
  /** For paths of lines that an arrangement lays: one of them by id, or all. */
  lines?(arrangement: string, line: string | null): LaidLines | undefined;
}
