import type { ArrangementResult, PathResult, SceneResult, SurfaceResult } from '@/core/evaluate/scene';
import { countStates, type Finding, type GapReason } from '@/core/evaluate/result';
import type { Bounds, Mesh } from '@/core/mesh/mesh';
import { drawBatches, type DrawBatch } from './drawing';

/** Results on their way to the side that shows them: only what that does not have yet. */

/** An arrangement's result with what the view draws from it. */
export interface ServedArrangement extends ArrangementResult {
  batches: DrawBatch[];
  counts: Record<GapReason, number>;
}

/** A surface as the view draws it; big arrays only where the client does not have them yet. */
export interface ServedSurface {
  id: string;
  key: string;
  facesKey: string;
  /** Drawn from the mesh it was brought in with. */
  plain: boolean;
  matrix: Float64Array;
  faces: number;
  /** What came of it, in its own frame: vertices, and faces with their looks. Absent where it is plain. */
  positions?: Float32Array;
  normals?: Float32Array;
  rest?: Omit<Mesh, 'positions' | 'normals'> & { undeformed: Float32Array };
  findings: Finding[];
}

/** Nodes whose results are others than before, and the ids of those that are no more. */
export interface Served {
  surfaces: ServedSurface[];
  paths: PathResult[];
  arrangements: ServedArrangement[];
  gone: string[];
  /** Bounds in each prop's own space, metres; absent where they are the same as before. */
  propBounds?: Record<string, Bounds>;
  /** Milliseconds that the work took. */
  ms: number;
}

/** What the other side has been told: keys of results, by node. */
export class Told {
  private keys = new Map<string, string>();
  private faces = new Map<string, string>();
  private propBounds: Record<string, Bounds> | undefined;

  /** What there is to tell of a result; afterwards it has been told. */
  tell({ surfaces, paths, arrangements, propBounds }: SceneResult): Omit<Served, 'ms'> {
    const isNew = ({ id, key }: { id: string; key: string }) => {
      if (this.keys.get(id) === key) return false;
      this.keys.set(id, key);
      return true;
    };
    const served = {
      surfaces: surfaces.filter(isNew).map((r) => this.surface(r)),
      paths: paths.filter(isNew),
      arrangements: arrangements
        .filter(isNew)
        .map((r) => ({ ...r, batches: drawBatches(r.placements), counts: countStates(r.placements) })),
    };
    const here = surfaces.length + paths.length + arrangements.length;
    const gone = here === this.keys.size ? [] : this.forget([surfaces, paths, arrangements].flat());
    if (propBounds === this.propBounds) return { ...served, gone };
    this.propBounds = propBounds;
    return { ...served, gone, propBounds };
  }

  /** @returns ids of those that were told and are not there any more */
  private forget(results: { id: string }[]): string[] {
    const here = new Set(results.map((r) => r.id));
    const gone = [...this.keys.keys()].filter((id) => !here.has(id));
    for (const id of gone) {
      this.keys.delete(id);
      this.faces.delete(id);
    }
    return gone;
  }

  private surface({
    id,
    key,
    facesKey,
    plain,
    matrix,
    findings,
    mesh,
    undeformed,
  }: SurfaceResult): ServedSurface {
    const faces = (mesh?.indices.length ?? 0) / 3;
    const out: ServedSurface = { id, key, facesKey, plain, matrix, findings, faces };
    if (plain || !mesh || !undeformed) {
      this.faces.delete(id);
      return out;
    }
    const has = this.faces.get(id) === facesKey;
    this.faces.set(id, facesKey);
    const { positions, normals, ...rest } = mesh;
    return { ...out, positions, normals, ...(!has && { rest: { ...rest, undeformed } }) };
  }
}
