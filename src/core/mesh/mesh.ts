import type { MeshMaterial } from './material';
import type { Axis } from './meshRef';
import type { Prop } from './propSchema';
import type { Vec3 } from '../math/vec3';

/** A triangle mesh in its own units and axes. Everything of one file is in one mesh, transforms applied. */
export interface Mesh {
  /** xyz a vertex. */
  positions: Float32Array;
  /** Unit xyz a vertex. */
  normals: Float32Array;
  uvs?: Float32Array;
  /** Linear red, green, blue a vertex, 0–1. */
  colors?: Float32Array;
  /** Three a triangle. */
  indices: Uint32Array;
  /** Ranges of indices that share a material. They cover all indices. */
  groups: { start: number; count: number; material: number }[];
  materials: MeshMaterial[];
  /** Named points the mesh brings, in its own space. */
  snapPoints?: { name: string; position: Vec3; direction?: Vec3 }[];
}

export interface Bounds {
  min: Vec3;
  max: Vec3;
}

/** Axis-aligned bounds of the mesh in its own space; all zero for a mesh without vertices. */
export function meshBounds(mesh: Pick<Mesh, 'positions'>): Bounds {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  const p = mesh.positions;
  for (let i = 0; i < p.length; i++) {
    const a = i % 3;
    if (p[i] < min[a]) min[a] = p[i];
    if (p[i] > max[a]) max[a] = p[i];
  }
  return p.length > 0 ? { min, max } : { min: [0, 0, 0], max: [0, 0, 0] };
}

const kept = new WeakMap<Mesh, Bounds>();

/** Bounds of a mesh that stays as it is, measured once. */
export function keptBounds(mesh: Mesh): Bounds {
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = meshBounds(mesh)));
  return have;
}

/** The unit vector of a named axis. */
function axisVector(axis: Axis): Vec3 {
  const sign = axis[0] === '-' ? -1 : 1;
  return [axis[1] === 'x' ? sign : 0, axis[1] === 'y' ? sign : 0, axis[1] === 'z' ? sign : 0];
}

/** Rows of the rotation that takes the mesh's axes to the prop's own: X left, Y up, Z front. */
export function ownAxes(front: Axis, up: Axis): [Vec3, Vec3, Vec3] {
  const u = axisVector(up);
  let f = axisVector(front);
  // A front along the up axis says nothing; the next axis stands in so that the prop is never collapsed.
  if (front[1] === up[1]) f = up[1] === 'z' ? [1, 0, 0] : [0, 0, 1];
  const x: Vec3 = [u[1] * f[2] - u[2] * f[1], u[2] * f[0] - u[0] * f[2], u[0] * f[1] - u[1] * f[0]];
  return [x, u, f];
}

/** The axis that a front comes to by a quarter turn to the left, about the up axis. */
export function quarterTurned(front: Axis, up: Axis): Axis {
  const [left] = ownAxes(front, up);
  const a = left.findIndex((c) => c !== 0);
  return `${left[a] < 0 ? '-' : '+'}${'xyz'[a]}` as Axis;
}

/**
 * The affine map from a prop's mesh to its own space (metres from the foot; X left, Y up, Z front), as the
 * column-major 4×4 that WebGL and glTF use.
 */
export function propMatrix(
  prop: Pick<Prop, 'unitScale' | 'foot' | 'front' | 'up'>,
  bounds: Bounds,
): Float64Array {
  const rows = ownAxes(prop.front, prop.up);
  const foot = footPoint(prop, bounds);
  const k = prop.unitScale;
  const m = new Float64Array(16);
  rows.forEach((row, r) => {
    for (let c = 0; c < 3; c++) m[c * 4 + r] = row[c] * k;
    m[12 + r] = -k * (row[0] * foot[0] + row[1] * foot[1] + row[2] * foot[2]) + 0;
  });
  m[15] = 1;
  return m;
}

/** The foot in the mesh's own space. */
function footPoint(prop: Pick<Prop, 'foot' | 'up'>, bounds: Bounds): Vec3 {
  const { min, max } = bounds;
  const centre: Vec3 = [(min[0] + max[0]) / 2, (min[1] + max[1]) / 2, (min[2] + max[2]) / 2];
  if (prop.foot.at === 'origin') return [0, 0, 0];
  if (prop.foot.at === 'point') return prop.foot.point ?? [0, 0, 0];
  if (prop.foot.at === 'centre') return centre;
  const u = axisVector(prop.up);
  const a = u.findIndex((c) => c !== 0);
  const base: Vec3 = [...centre];
  base[a] = u[a] > 0 ? min[a] : max[a];
  return base;
}

/** Bounds in the prop's own space, metres. */
export function propBounds(prop: Pick<Prop, 'unitScale' | 'foot' | 'front' | 'up'>, bounds: Bounds): Bounds {
  const m = propMatrix(prop, bounds);
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  for (let corner = 0; corner < 8; corner++) {
    const p = [0, 1, 2].map((a) => ((corner >> a) & 1 ? bounds.max[a] : bounds.min[a]));
    for (let r = 0; r < 3; r++) {
      const v = m[r] * p[0] + m[4 + r] * p[1] + m[8 + r] * p[2] + m[12 + r];
      min[r] = Math.min(min[r], v);
      max[r] = Math.max(max[r], v);
    }
  }
  return { min, max };
}
