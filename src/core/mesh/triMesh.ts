import type { Vec3 } from '../math/vec3';
import { buildBvh, refit, type Bvh } from './bvh';
import { faceCross } from './face';
import { topologyOf, type Topology } from './lines/topology';
import type { Bounds } from './mesh';

/** A surface as it stands in the scene at one time: what rays meet and props are pinned to. */
export interface TriMesh {
  /** xyz a vertex, metres in the scene. */
  positions: Float64Array;
  /** Unit xyz a vertex. */
  normals: Float64Array;
  indices: Uint32Array;
  uvs?: Float32Array;
  /** Its tree, made when it is first asked for. */
  tree(): Bvh;
  /** Which faces lie side by side: that of the surface at rest, however it is deformed. */
  topology(): Topology;
  /** A tree over the same triangles that is there already, perhaps of another time. */
  built(): Bvh | null;
}

/**
 * @param before the same surface at another time: its tree is taken over and refitted where the triangles are the same
 */
export function makeTriMesh(
  shape: Omit<TriMesh, 'tree' | 'built' | 'topology'> & { topology?: () => Topology },
  before?: TriMesh,
  progress?: (done: number) => void,
): TriMesh {
  let old = before?.built() ?? null;
  let built: Bvh | null = null;
  return {
    ...shape,
    topology: shape.topology ?? (() => topologyOf(shape)),
    built: () => built ?? old,
    tree() {
      if (built) return built;
      if (old && old.indices === shape.indices && old.positions.length === shape.positions.length) {
        built = { ...old, positions: shape.positions };
        refit(built);
      } else built = buildBvh(shape.positions, shape.indices, progress);
      old = null;
      return built;
    },
  };
}

/** The place on a face by the weights of its second and third corner. */
export function placeOn(triMesh: TriMesh, face: number, u: number, v: number): Vec3 {
  const { positions: p, indices } = triMesh;
  const a = indices[face * 3] * 3;
  const b = indices[face * 3 + 1] * 3;
  const c = indices[face * 3 + 2] * 3;
  const w = 1 - u - v;
  return [
    p[a] * w + p[b] * u + p[c] * v,
    p[a + 1] * w + p[b + 1] * u + p[c + 1] * v,
    p[a + 2] * w + p[b + 2] * u + p[c + 2] * v,
  ];
}

/** The weights (second, third corner) of the place on a face's plane that is nearest to a point of space. */
export function weightsOn(
  { positions: p, indices }: Pick<TriMesh, 'positions' | 'indices'>,
  face: number,
  x: number,
  y: number,
  z: number,
): [u: number, v: number] {
  const a = indices[face * 3] * 3;
  const b = indices[face * 3 + 1] * 3;
  const c = indices[face * 3 + 2] * 3;
  const ex = p[b] - p[a];
  const ey = p[b + 1] - p[a + 1];
  const ez = p[b + 2] - p[a + 2];
  const fx = p[c] - p[a];
  const fy = p[c + 1] - p[a + 1];
  const fz = p[c + 2] - p[a + 2];
  const dx = x - p[a];
  const dy = y - p[a + 1];
  const dz = z - p[a + 2];
  const ee = ex * ex + ey * ey + ez * ez;
  const ef = ex * fx + ey * fy + ez * fz;
  const ff = fx * fx + fy * fy + fz * fz;
  const de = dx * ex + dy * ey + dz * ez;
  const df = dx * fx + dy * fy + dz * fz;
  const det = ee * ff - ef * ef;
  if (!(det > 1e-300)) return [0, 0];
  return [(de * ff - df * ef) / det, (df * ee - de * ef) / det];
}

/** Unit normal of the face itself, its corners running counter-clockwise outside. */
export function faceNormal({ positions, indices }: TriMesh, face: number): Vec3 {
  faceCross(positions, indices, face, across);
  const x = across[0];
  const y = across[1];
  const z = across[2];
  const l = Math.sqrt(x * x + y * y + z * z);
  return l > 0 ? [x / l, y / l, z / l] : [0, 1, 0];
}

const across = new Float64Array(3);

/** Unit normal at a place: that between its corners'. On a surface with flat faces these are the face's own. */
export function normalOn(triMesh: TriMesh, face: number, u: number, v: number): Vec3 {
  const { normals: n, indices } = triMesh;
  const a = indices[face * 3] * 3;
  const b = indices[face * 3 + 1] * 3;
  const c = indices[face * 3 + 2] * 3;
  const w = 1 - u - v;
  const x = n[a] * w + n[b] * u + n[c] * v;
  const y = n[a + 1] * w + n[b + 1] * u + n[c + 1] * v;
  const z = n[a + 2] * w + n[b + 2] * u + n[c + 2] * v;
  const l = Math.sqrt(x * x + y * y + z * z);
  return l > 1e-9 ? [x / l, y / l, z / l] : faceNormal(triMesh, face);
}

/** Texture coordinates at a place; undefined where the surface has none. */
export function uvOn(triMesh: TriMesh, face: number, u: number, v: number): [number, number] | undefined {
  const { uvs, indices } = triMesh;
  if (!uvs) return undefined;
  const [a, b, c] = [0, 1, 2].map((k) => indices[face * 3 + k] * 2);
  const w = 1 - u - v;
  return [uvs[a] * w + uvs[b] * u + uvs[c] * v, uvs[a + 1] * w + uvs[b + 1] * u + uvs[c + 1] * v];
}

/** Bounds of a triangle mesh; null for one without vertices. */
export function triMeshBounds({ positions: p }: Pick<TriMesh, 'positions'>): Bounds | null {
  if (p.length === 0) return null;
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i++) {
    const a = i % 3;
    if (p[i] < min[a]) min[a] = p[i];
    if (p[i] > max[a]) max[a] = p[i];
  }
  return { min, max };
}
