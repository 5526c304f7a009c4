import type { CompileResult } from '../curve/compile';
import { deform, deformersMove } from '../mesh/deform/deform';
import { topologyOf } from '../mesh/lines/topology';
import { makeMesh, shapePaths, type MakeProblem } from '../mesh/make';
import type { Mesh } from '../mesh/mesh';
import { faceNormals, sharedNormals } from '../mesh/normals';
import { makeSolid, type Solid } from '../mesh/solid';
import { ownMatrix, placeMatrix, times } from '../mesh/surface';
import type { MeshRef, Surface } from '../scene/schema';
import type { Finding, FindingKind } from './result';

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
  /** xyz a vertex in its own frame before deformers, where it is not plain. */
  undeformed?: Float32Array;
  /** From the mesh to the scene, column-major. */
  matrix: Float64Array;
  findings: Finding[];
}

/** What surfaces are worked out from. */
export interface SurfaceContext {
  mesh(ref: MeshRef): Mesh | undefined;
  path(id: string): CompileResult | undefined;
}

/** Ids of the paths that a surface is made from. */
export const surfaceNeeds = (surface: Surface): string[] =>
  surface.mesh.source === 'made' ? shapePaths(surface.mesh.shape) : [];

/** Whether a surface changes by itself with time. */
export const surfaceMoves = (surface: Surface): boolean => deformersMove(surface.deformers);

/** A surface before it is deformed and put in its place. */
interface Rest {
  key: string;
  mesh: Mesh;
  plain: boolean;
  /** Positions and normals in the surface's own frame. */
  positions: Float64Array;
  normals: Float64Array;
  shared?: Uint32Array;
  undeformed?: Float32Array;
  /** What paths are laid onto; made when it is first asked for. */
  solid?: Solid;
}

/** Works one surface out at one time after the other; keeps what does not change in between. */
export class SurfaceWork {
  private rest: Rest | null = null;
  result: SurfaceResult | null = null;
  /** What rays meet; undefined where the surface is broken. */
  solid: Solid | undefined;

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
    if (this.rest?.key !== restKey) {
      const rest = restOf(surface, context, restKey);
      if (typeof rest === 'string') return this.broken(surface, key, rest, {});
      this.rest = rest;
    }
    const { rest } = this;
    const place = placeMatrix(surface);
    const deformed = surface.deformers.some((d) => d.on);
    let { positions, normals } = rest!;
    if (deformed) {
      positions = positions.slice();
      deform(positions, rest!.normals, surface.deformers, time);
      rest!.shared ??=
        surface.normals === 'flat'
          ? Uint32Array.from({ length: positions.length / 3 }, (_, i) => i)
          : sharedNormals(rest!.positions, rest!.normals);
      normals = faceNormals(positions, rest!.mesh.indices, rest!.shared, rest!.normals);
    }
    const plain = rest!.plain && !deformed;
    const { mesh } = rest!;
    const { indices, uvs } = mesh;
    this.result = {
      id: surface.id,
      key,
      facesKey: restKey,
      plain,
      mesh: plain
        ? rest!.mesh
        : { ...rest!.mesh, positions: Float32Array.from(positions), normals: Float32Array.from(normals) },
      ...(!plain && { undeformed: (rest!.undeformed ??= Float32Array.from(rest!.positions)) }),
      matrix: plain ? times(place, ownMatrix(surface)) : place,
      findings: indices.length < 3 ? [finding(surface, 'surface-empty', {})] : [],
    };
    this.solid = makeSolid(
      {
        positions: carried(positions, place, true),
        normals: carried(normals, place, false),
        indices,
        uvs,
        topology: () => topologyOf(mesh),
      },
      this.solid,
      progress,
    );
    return this.result;
  }

  /** The surface in its own frame, before anything deforms it; undefined where it is broken. */
  restSolid(): { key: string; solid: Solid } | undefined {
    const { rest } = this;
    if (!rest || rest.mesh.indices.length < 3) return undefined;
    const { positions, normals, mesh } = rest;
    const topology = () => topologyOf(mesh);
    rest.solid ??= makeSolid({ positions, normals, indices: mesh.indices, uvs: mesh.uvs, topology });
    return { key: rest.key, solid: rest.solid };
  }

  private broken(surface: Surface, key: string, kind: FindingKind, detail: Finding['detail']): SurfaceResult {
    this.rest = null;
    this.solid = undefined;
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

const finding = (surface: Surface, kind: FindingKind, detail: Finding['detail']): Finding => ({
  kind,
  severity: 'error',
  node: surface.id,
  detail: { surface: surface.id, ...detail },
});

function restOf(
  surface: Surface,
  context: SurfaceContext,
  key: string,
): Rest | MakeProblem | 'surface-mesh-missing' {
  const { mesh: from } = surface;
  const mesh =
    from.source === 'made'
      ? makeMesh(from.shape, from.color, {
          path: (id) => {
            const compiled = context.path(id);
            return compiled?.ok ? compiled.path : undefined;
          },
        })
      : context.mesh(from);
  if (!mesh) return 'surface-mesh-missing';
  if (typeof mesh === 'string') return mesh;
  const turned = surface.flipped ? turnedMesh(mesh) : mesh;
  const faceted = surface.normals === 'flat' ? facetedMesh(turned) : turned;
  const own = ownMatrix(surface);
  return {
    key,
    mesh: faceted,
    plain: from.source !== 'made' && faceted === mesh,
    positions: carried(faceted.positions, own, true),
    normals: carried(faceted.normals, own, false),
  };
}

/** Places (or unit directions) carried by a column-major 4×4 that turns, moves and scales evenly. */
function carried(from: ArrayLike<number>, m: ArrayLike<number>, places: boolean): Float64Array {
  const out = new Float64Array(from.length);
  const k = places ? 1 : 1 / Math.sqrt(m[0] * m[0] + m[1] * m[1] + m[2] * m[2]);
  const w = places ? 1 : 0;
  for (let o = 0; o < from.length; o += 3) {
    const x = from[o];
    const y = from[o + 1];
    const z = from[o + 2];
    for (let r = 0; r < 3; r++) out[o + r] = (m[r] * x + m[4 + r] * y + m[8 + r] * z) * k + m[12 + r] * w;
  }
  return out;
}

/** Inside out: normals the other way, corners of the faces round the other way. Faces keep their numbers. */
function turnedMesh(mesh: Mesh): Mesh {
  const indices = mesh.indices.slice();
  for (let i = 0; i < indices.length; i += 3)
    [indices[i + 1], indices[i + 2]] = [indices[i + 2], indices[i + 1]];
  return { ...mesh, indices, normals: mesh.normals.map((v) => -v) };
}

/** Every face with three corners and a normal of its own. Faces keep their numbers. */
function facetedMesh(mesh: Mesh): Mesh {
  const n = mesh.indices.length;
  const spread = <T extends Float32Array>(from: T, width: number) => {
    const out = new Float32Array(n * width);
    mesh.indices.forEach((v, i) => out.set(from.subarray(v * width, v * width + width), i * width));
    return out;
  };
  const positions = spread(mesh.positions, 3);
  const indices = Uint32Array.from({ length: n }, (_, i) => i);
  const normals = faceNormals(Float64Array.from(positions), indices, indices, spread(mesh.normals, 3));
  return {
    ...mesh,
    positions,
    indices,
    normals: Float32Array.from(normals),
    ...(mesh.uvs && { uvs: spread(mesh.uvs, 2) }),
    ...(mesh.colors && { colors: spread(mesh.colors, 3) }),
  };
}
