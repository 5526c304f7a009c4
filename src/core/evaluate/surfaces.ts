import { deformersMove } from '../mesh/deform/deform';
import { simulatedOf, type Deforming } from './simulated/simulation';
import { DeformWork } from './simulated/work';
import { strengthsOf } from './strengths';
import { carried, playClip, restOf, type Rest, type SurfaceContext } from './surfaceRest';
import { topologyOf } from '../mesh/lines/topology';
import { shapePaths } from '../mesh/make';
import type { Mesh } from '../mesh/mesh';
import { faceNormals, sharedNormals } from '../mesh/normals';
import { shellOf, type Shell } from '../mesh/solid/shell';
import { makeTriMesh, type TriMesh } from '../mesh/triMesh';
import { ownMatrix, placeMatrix, times } from '../mesh/surface';
import type { Surface } from '../mesh/surfaceSchema';
import type { Finding, FindingKind } from '../arrange/result';

export type { SurfaceContext } from './surfaceRest';

/** A surface as it stands at one time. */
export interface SurfaceResult {
  id: string;
  /** Changes whenever anything that it depends on does. */
  key: string;
  /** Changes when its faces do: the same while it only moves or is deformed. */
  facesKey: string;
  /** Its mesh is drawn just as it was brought in; else `mesh` is what came of it, in the surface's own frame. */
  plain: boolean;
  mesh?: Mesh;
  /** Where it is thick: its outer side alone, which things stand on; `mesh` is the whole shell, that side first. */
  skin?: Mesh;
  /** xyz a vertex in its own frame before deformers, where it is not plain. */
  undeformed?: Float32Array;
  /** From the mesh to the scene, column-major. */
  matrix: Float64Array;
  findings: Finding[];
}

/** Ids of the paths that a surface is made from. */
export const surfacePaths = (surface: Surface): string[] =>
  surface.mesh.source === 'made' ? shapePaths(surface.mesh.shape) : [];

/** Ids of the paths that its cloth hangs on. */
export const surfaceLines = (surface: Surface): string[] =>
  simulatedOf(surface).flatMap((d) => (d.kind === 'cloth' && d.line ? [d.line] : []));

/** Ids of the surfaces that it falls on. */
export const surfaceColliders = (surface: Surface): string[] =>
  simulatedOf(surface).flatMap((d) => (d.kind === 'sag' ? d.onto : d.collider ? [d.collider] : []));

/** Ids of the masks that its deformers go by. */
export const surfaceMasks = ({ deformers }: Surface): string[] => [
  ...new Set(deformers.flatMap((d) => (d.on && 'mask' in d && d.mask !== null ? [d.mask] : []))),
];

/** Whether a surface changes by itself with time. */
export const surfaceMoves = (surface: Surface): boolean =>
  surface.plays !== null || deformersMove(surface.deformers);

/** Works one surface out at one time after the other; keeps what does not change in between. */
export class SurfaceWork {
  private rest: Rest | null = null;
  private deformWork = new DeformWork();
  private shellAtRest: { facesKey: string; positions: Float32Array } | null = null;
  private stillKey = '';
  private stillTriMesh: TriMesh | undefined;
  result: SurfaceResult | null = null;
  /** What rays meet; undefined where the surface is broken. */
  triMesh: TriMesh | undefined;

  /**
   * @param key everything that the result depends on, as text @param restKey the same without time, place and deformers
   * @param ring names of the nodes that wait for each other, where this is one of them
   */
  evaluate(
    surface: Surface,
    context: SurfaceContext,
    key: string,
    restKey: string,
    time: number,
    ring: string[] | undefined,
    progress?: (done: number) => void,
  ): SurfaceResult {
    if (this.result?.key === key) return this.result;
    if (ring) return this.broken(surface, key, 'cycle', { ring: ring.join(' → ') });
    try {
      return this.worked(surface, context, key, restKey, time, progress);
    } catch (error) {
      // A broken node does not stop the others.
      const message = error instanceof Error ? error.message : String(error);
      return this.broken(surface, key, 'failed', { message });
    }
  }

  private worked(
    surface: Surface,
    context: SurfaceContext,
    key: string,
    restKey: string,
    time: number,
    progress?: (done: number) => void,
  ): SurfaceResult {
    const gathered = context.gathered?.(surface.id)?.findings ?? [];
    if (this.rest?.key !== restKey) {
      const rest = restOf(surface, context, restKey);
      if (rest === 'gathered-none')
        return (this.result = { ...this.broken(surface, key, 'failed', {}), findings: gathered });
      if (typeof rest === 'string') return this.broken(surface, key, rest, {});
      this.rest = rest;
    }
    const { rest } = this;
    const place = placeMatrix(surface);
    const deformed = surface.deformers.some((d) => d.on) || surface.plays !== null;
    let { positions, normals } = rest!;
    if (deformed) {
      positions = positions.slice();
      playClip(surface, rest!, time, positions);
      this.deformWork.deform(positions, this.deforming(surface, context, place), time, progress);
      normals = normalsOf(surface, rest!, positions);
    }
    const { mesh } = rest!;
    const shell = thickened(surface, mesh, positions, normals);
    const plain = rest!.plain && !deformed && !shell;
    const { indices, uvs } = mesh;
    const facesKey = shell ? `${restKey} ${surface.thickness!.rim}` : restKey;
    const one = (at: Float64Array): Mesh => ({
      ...mesh,
      positions: Float32Array.from(at),
      normals: Float32Array.from(normals),
    });
    this.result = {
      id: surface.id,
      key,
      facesKey,
      plain,
      mesh: plain ? mesh : (shell?.mesh ?? one(positions)),
      ...(shell && { skin: one(shell.skin) }),
      ...(!plain && { undeformed: this.undeformed(rest!, shell, facesKey) }),
      matrix: plain ? times(place, ownMatrix(surface)) : place,
      findings: [
        ...gathered,
        ...(indices.length < 3 && gathered.length === 0 ? [finding(surface, 'surface-empty', {})] : []),
        ...(deformed ? this.deformWork.findings(surface) : []),
        ...(surface.thickness && surface.thickness.outwards + surface.thickness.inwards <= 0
          ? [finding(surface, 'thickness-none', {})]
          : []),
        ...(shell && shell.turned > 0
          ? [{ ...finding(surface, 'too-thick', { count: shell.turned }), severity: 'warning' as const }]
          : []),
        ...(surface.plays && !rest!.motion?.motion.clips.some((c) => c.name === surface.plays!.clip)
          ? [finding(surface, 'clip-missing', { clip: surface.plays.clip })]
          : []),
        ...surfaceMasks(surface)
          .filter((id) => !context.mask?.(id))
          .map((mask) => finding(surface, 'mask-missing', { mask })),
      ],
    };
    this.triMesh = makeTriMesh(
      {
        positions: carried(shell?.skin ?? positions, place, true),
        normals: carried(normals, place, false),
        indices,
        uvs,
        topology: () => topologyOf(mesh),
      },
      this.triMesh,
      progress,
    );
    return this.result;
  }

  /** The surface as it stands at time 0, whatever the time is now; undefined where it is broken. */
  still(surface: Surface, context: SurfaceContext, key: string): TriMesh | undefined {
    if (!this.rest || !this.result) return undefined;
    if (!surfaceMoves(surface)) return this.triMesh;
    if (this.stillKey === key) return this.stillTriMesh;
    const { rest } = this;
    const place = placeMatrix(surface);
    const positions = rest.positions.slice();
    playClip(surface, rest, 0, positions);
    this.deformWork.deform(positions, this.deforming(surface, context, place), 0);
    this.stillKey = key;
    const { mesh } = rest;
    const normals = normalsOf(surface, rest, positions);
    const skin = surface.thickness?.outwards ? thickened(surface, mesh, positions, normals)!.skin : positions;
    this.stillTriMesh = makeTriMesh({
      positions: carried(skin, place, true),
      normals: carried(normals, place, false),
      indices: mesh.indices,
      uvs: mesh.uvs,
      topology: () => topologyOf(mesh),
    });
    return this.stillTriMesh;
  }

  /** xyz of every vertex that is drawn, before deformers: of a shell's those of the vertices that it came from. */
  private undeformed(rest: Rest, shell: Shell | null, facesKey: string): Float32Array {
    const own = (rest.undeformed ??= Float32Array.from(rest.positions));
    if (!shell) return own;
    if (this.shellAtRest?.facesKey === facesKey) return this.shellAtRest.positions;
    const out = new Float32Array(shell.from.length * 3);
    for (let i = 0; i < out.length; i++) out[i] = own[shell.from[(i / 3) | 0] * 3 + (i % 3)];
    this.shellAtRest = { facesKey, positions: out };
    return out;
  }

  /** What deforms it: by its masks where it is before that, in its place. */
  private deforming(surface: Surface, context: SurfaceContext, place: Float64Array): Deforming {
    const rest = this.rest!;
    const masks = surfaceMasks(surface);
    const own = masks.length > 0 ? this.restTriMesh() : undefined;
    const strength = own && strengthsOf(surface, own.triMesh, place, context);
    return {
      surface,
      rest,
      place,
      context,
      restKey: rest.key,
      strength,
      masksKey: masks.map((id) => context.mask?.(id)?.key),
    };
  }

  /** The surface in its own frame, before anything deforms it; undefined where it is broken. */
  restTriMesh(): { key: string; triMesh: TriMesh } | undefined {
    const { rest } = this;
    if (!rest || rest.mesh.indices.length < 3) return undefined;
    const { positions, normals, mesh } = rest;
    const topology = () => topologyOf(mesh);
    rest.triMesh ??= makeTriMesh({ positions, normals, indices: mesh.indices, uvs: mesh.uvs, topology });
    return { key: rest.key, triMesh: rest.triMesh };
  }

  private broken(surface: Surface, key: string, kind: FindingKind, detail: Finding['detail']): SurfaceResult {
    this.rest = null;
    this.triMesh = undefined;
    this.result = {
      id: surface.id,
      key,
      facesKey: key,
      plain: true,
      matrix: placeMatrix(surface),
      findings: [finding(surface, kind, detail)],
    };
    return this.result;
  }
}

/**
 * The shell about a surface as it is now, in its own frame; null where it has no thickness. One of nothing is a shell
 * too: thickness may change with time, and an animation has as many vertices in each frame.
 */
function thickened(
  { thickness, size }: Surface,
  mesh: Mesh,
  positions: Float64Array,
  normals: Float64Array,
): Shell | null {
  if (!thickness) return null;
  const [outwards, inwards] = [thickness.outwards / size, thickness.inwards / size];
  return shellOf(mesh, positions, normals, topologyOf(mesh), { ...thickness, outwards, inwards });
}

/** Normals of a surface whose vertices are elsewhere than at rest. */
function normalsOf({ normals }: Surface, rest: Rest, positions: Float64Array): Float64Array {
  rest.shared ??=
    normals === 'flat'
      ? Uint32Array.from({ length: positions.length / 3 }, (_, i) => i)
      : sharedNormals(rest.positions, rest.normals);
  return faceNormals(positions, rest.mesh.indices, rest.shared, rest.normals);
}

const finding = (surface: Surface, kind: FindingKind, detail: Finding['detail']): Finding => ({
  kind,
  severity: 'error',
  node: surface.id,
  detail: { surface: surface.id, ...detail },
});
