import type { CompileResult } from '../curve/compile';
import { makeMesh, type MakeProblem } from '../mesh/make';
import type { GreyPicture } from '../mesh/make/picture';
import type { Mesh } from '../mesh/mesh';
import { faceNormals } from '../mesh/normals';
import { withUv, type UvKind } from '../mesh/makeUv';
import type { Motion } from '../mesh/motion';
import type { MaskField } from '../mesh/mask/field';
import type { TriMesh } from '../mesh/triMesh';
import { ownMatrix } from '../mesh/surface';
import { isOwnMesh, type MeshRef } from '../mesh/meshRef';
import type { Gathered } from './gathered/gathered';
import type { Surface } from '../mesh/surfaceSchema';
import type { Moment } from '../scene/timedSchema';

/** Surfaces before anything deforms them or puts them in their place. */

/** What surfaces are worked out from. */
export interface SurfaceContext {
  mesh(ref: MeshRef): Mesh | undefined;
  path(id: string): CompileResult | undefined;
  /** What a surface that is made from others has come to. */
  gathered?(id: string): Gathered | undefined;
  picture?(hash: string): GreyPicture | undefined;
  motion?(ref: MeshRef): Motion | undefined;
  /** Another surface as it stands at time 0, with a key that changes when that does. */
  still?(id: string): { key: string; triMesh: TriMesh } | undefined;
  /** A mask, ready to be read. */
  mask?(id: string): MaskField | undefined;
  /** What a number of a node is at moments; undefined where it does not change with time. */
  moments?(node: string, field: readonly string[]): readonly Moment[] | undefined;
  /** What a surface hangs on and falls on, at any time; null where none of it moves. */
  around?(surface: Surface): Around | null;
}

/** Surfaces and paths as they stand at any time. */
export interface Around {
  /** Changes whenever any of it would move otherwise. */
  key: string;
  /** What is told holds until the next time is asked for. @param time seconds */
  at(time: number): { surface(id: string): TriMesh | undefined; path(id: string): CompileResult | undefined };
}

/** A surface before it is deformed and put in its place. */
export interface Rest {
  key: string;
  mesh: Mesh;
  plain: boolean;
  /** Positions and normals in the surface's own frame. */
  positions: Float64Array;
  normals: Float64Array;
  /** Faceted: the mesh whose faces were parted, in the same frame, and which of its vertices each vertex is. */
  whole?: { mesh: Mesh; positions: Float64Array; normals: Float64Array; vertex: Uint32Array };
  shared?: Uint32Array;
  undeformed?: Float32Array;
  /** How it moves by itself, and which of the mesh's vertices each of its own is; absent where it has no clips. */
  motion?: { motion: Motion; vertex: Uint32Array | null; own: Float64Array };
  /** What paths are laid onto; made when it is first asked for. */
  triMesh?: TriMesh;
}

/** A surface's own mesh, turned and faceted as it is set; or why there is none. */
export function restOf(
  surface: Surface,
  context: SurfaceContext,
  key: string,
): Rest | MakeProblem | 'surface-mesh-missing' | 'gathered-none' {
  const { mesh: from } = surface;
  const mesh =
    from.source === 'made'
      ? makeMesh(from.shape, from.color, {
          picture: (hash) => context.picture?.(hash),
          strokes: (id) => {
            const compiled = context.path(id);
            return compiled?.ok ? compiled.strokes : undefined;
          },
          path: (id) => {
            const compiled = context.path(id);
            return compiled?.ok ? compiled.path : undefined;
          },
        })
      : isOwnMesh(from)
        ? context.mesh(from)
        : context.gathered?.(surface.id)?.mesh;
  if (!mesh) return isOwnMesh(from) ? 'surface-mesh-missing' : 'gathered-none';
  if (typeof mesh === 'string') return mesh;
  const turned = surface.flipped ? turnedMesh(mesh) : mesh;
  const faceted = surface.normals === 'flat' ? facetedMesh(turned) : turned;
  const own = ownMatrix(surface);
  if (surface.uv !== 'own') return laidOut(surface.uv, faceted, own, key);
  const motion = from.source === 'file' ? context.motion?.(from) : undefined;
  const whole = faceted !== turned && {
    mesh: turned,
    positions: carried(turned.positions, own, true),
    normals: carried(turned.normals, own, false),
    vertex: turned.indices,
  };
  return {
    ...(whole && { whole }),
    ...(motion && { motion: { motion, vertex: faceted === turned ? null : turned.indices, own } }),
    key,
    mesh: faceted,
    plain: isOwnMesh(from) && faceted === mesh,
    positions: carried(faceted.positions, own, true),
    normals: carried(faceted.normals, own, false),
  };
}

/** A surface with texture coordinates made for it. Its vertices are others than its file's: it plays no clip. */
function laidOut(kind: UvKind, mesh: Mesh, own: Float64Array, key: string): Rest {
  const { positions, normals, uvs, colors, indices, groups } = withUv(
    {
      positions: carried(mesh.positions, own, true),
      normals: carried(mesh.normals, own, false),
      ...(mesh.colors && { colors: mesh.colors }),
      indices: mesh.indices,
      groups: mesh.groups,
    },
    kind,
  );
  const made: Mesh = {
    ...mesh,
    positions: Float32Array.from(positions),
    normals: Float32Array.from(normals),
    uvs,
    ...(colors && { colors }),
    indices,
    groups,
  };
  return { key, mesh: made, plain: false, positions, normals };
}

/** Writes the places of a surface that plays a clip to `positions`, in its own frame. */
export function playClip(surface: Surface, rest: Rest, time: number, positions: Float64Array): boolean {
  const { plays } = surface;
  const clip = plays && rest.motion?.motion.clips.find((c) => c.name === plays.clip);
  if (!plays || !clip || !rest.motion) return false;
  const { motion, vertex, own } = rest.motion;
  let t = time * plays.speed;
  if (plays.loop && clip.duration > 0) t -= Math.floor(t / clip.duration) * clip.duration;
  const mesh = new Float64Array(vertex ? motion.vertexCount * 3 : positions.length);
  motion.sample(plays.clip, t, mesh);
  const all = vertex
    ? Float64Array.from({ length: positions.length }, (_, i) => mesh[vertex[(i / 3) | 0] * 3 + (i % 3)])
    : mesh;
  positions.set(carried(all, own, true));
  return true;
}

/** Places (or unit directions) carried by a column-major 4×4 that turns, moves and scales evenly. */
export function carried(from: ArrayLike<number>, m: ArrayLike<number>, places: boolean): Float64Array {
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
