import { faceCross } from '../face';
import type { Topology } from '../lines/topology';
import type { Mesh } from '../mesh';
import { mitred } from './mitred';
import { rimOf, type Rim } from './rim';
import type { Thickness } from './thicknessSchema';

/** Parts of the half turn of a rim that is round. */
const ROUND = 8;

export interface Shell {
  /** The outer skin first, vertex by vertex and face by face as the surface has them; then the inner one; then the rim. */
  mesh: Mesh;
  /** The surface's own vertices where the outer skin is: what things stand on. */
  skin: Float64Array;
  /** For each vertex of the shell that of the surface which it came from. */
  from: Uint32Array;
  /** Faces of the skins that were turned over, since the surface is bent more tightly there than it is thick. */
  turned: number;
}

/**
 * A surface given thickness: a shell that is closed wherever each edge of the surface has one face or two. Faces move
 * along their own normals ({@link mitred}), so that flat parts are just as thick as was asked.
 * @param surface faces, looks and materials; where its vertices are is told by the next two
 * @param positions, normals xyz a vertex, as the surface is now @param topology that of its faces
 * @param thickness lengths in the units of the positions
 */
export function shellOf(
  surface: Mesh,
  positions: Float64Array,
  normals: Float64Array,
  topology: Topology,
  { outwards, inwards, rim }: Thickness,
): Shell {
  const { indices } = surface;
  const now = { positions, indices };
  const way = mitred(now, topology);
  const skin = moved(positions, way, topology, outwards);
  const back = moved(positions, way, topology, -inwards);
  const band = rimOf(now, topology, skin, back, rim === 'round' ? ROUND : 1);
  const count = positions.length / 3;
  const from = new Uint32Array(2 * count + band.from.length);
  for (let i = 0; i < count; i++) from[i] = from[count + i] = i;
  from.set(band.from, 2 * count);
  return {
    mesh: assembled(surface, [skin, back], normals, band, from),
    skin: outwards > 0 ? skin : positions,
    from,
    turned: turnedFaces(indices, positions, skin) + turnedFaces(indices, positions, back),
  };
}

/** Every vertex moved along its way; those that are one come to the same place, to the last bit, so that it is closed. */
function moved(
  positions: Float64Array,
  way: Float64Array,
  { weld, first }: Topology,
  by: number,
): Float64Array {
  const out = new Float64Array(positions.length);
  for (let i = 0; i < weld.length; i++)
    for (let k = 0; k < 3; k++)
      out[i * 3 + k] = positions[first[weld[i]] * 3 + k] + way[weld[i] * 3 + k] * by;
  return out;
}

function turnedFaces(indices: Uint32Array, before: Float64Array, after: Float64Array): number {
  const [a, b] = [new Float64Array(3), new Float64Array(3)];
  let turned = 0;
  for (let f = 0; f * 3 < indices.length; f++) {
    faceCross(before, indices, f, a);
    faceCross(after, indices, f, b);
    if (a[0] * b[0] + a[1] * b[1] + a[2] * b[2] < 0) turned++;
  }
  return turned;
}

/** Both skins and the band between them as one mesh. */
function assembled(
  surface: Mesh,
  [skin, back]: [Float64Array, Float64Array],
  normals: Float64Array,
  band: Rim,
  from: Uint32Array,
): Mesh {
  const { indices, groups, uvs, colors } = surface;
  const [size, faces, count] = [from.length * 3, indices.length, skin.length / 3];
  const positions = new Float32Array(size);
  positions.set(skin);
  positions.set(back, skin.length);
  positions.set(band.positions, 2 * skin.length);
  const around = new Float32Array(size);
  around.set(normals);
  around.set(
    normals.map((v) => -v),
    normals.length,
  );
  around.set(band.normals, 2 * normals.length);
  const all = new Uint32Array(2 * faces + band.indices.length);
  all.set(indices);
  for (let i = 0; i < faces; i += 3) {
    all[faces + i] = indices[i] + count;
    all[faces + i + 1] = indices[i + 2] + count;
    all[faces + i + 2] = indices[i + 1] + count;
  }
  const bandGroups = writeBand(all, 2 * faces, band, 2 * count, groups);
  return {
    ...surface,
    positions,
    normals: around,
    indices: all,
    groups: [...groups, ...groups.map((g) => ({ ...g, start: g.start + faces })), ...bandGroups],
    ...(uvs && { uvs: taken(uvs, from, 2) }),
    ...(colors && { colors: taken(colors, from, 3) }),
  };
}

/** Writes the triangles of the band, those of one material after the other. */
function writeBand(
  all: Uint32Array,
  at: number,
  { indices, face }: Rim,
  firstVertex: number,
  groups: Mesh['groups'],
): Mesh['groups'] {
  let o = at;
  return groups.flatMap(({ start, count, material }) => {
    const first = o;
    for (let t = 0; t < face.length; t++) {
      if (face[t] * 3 < start || face[t] * 3 >= start + count) continue;
      for (let k = 0; k < 3; k++) all[o++] = firstVertex + indices[t * 3 + k];
    }
    return o > first ? [{ start: first, count: o - first, material }] : [];
  });
}

function taken(values: Float32Array, from: Uint32Array, width: number): Float32Array {
  const out = new Float32Array(from.length * width);
  for (let i = 0; i < from.length; i++)
    for (let k = 0; k < width; k++) out[i * width + k] = values[from[i] * width + k];
  return out;
}
