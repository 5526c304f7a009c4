import { chain, topologyOf } from '../lines/topology';
import type { Mesh } from '../mesh';
import { bodiesOf } from './bodies';

/**
 * A mesh with its small holes closed and its faces turned so that each body looks outward.
 * @param widest metres across the widest hole that is closed
 * @returns as many edges may be open as before: holes that are wider, and edges with more than two faces, stay
 */
export function mendedFaces(mesh: Mesh, widest: number): Mesh {
  const turned = agreeing(mesh);
  const closed = filled(turned, widest);
  const { volumes, body } = bodiesOf(closed);
  const inward = Uint8Array.from(body, (b) => (b >= 0 && volumes[b] < 0 ? 1 : 0));
  return inward.includes(1) ? flipped(closed, inward) : closed;
}

/** All faces of a body the same way out as its first: each turned to agree with the one that it was reached from. */
function agreeing(mesh: Mesh): Mesh {
  const { indices } = mesh;
  const { sides, faces, weld } = topologyOf(mesh);
  const flip = new Uint8Array(indices.length / 3);
  const seen = new Uint8Array(flip.length);
  const way = (f: number, k: number) =>
    weld[indices[f * 3 + k]] < weld[indices[f * 3 + ((k + 1) % 3)]] ? 1 : 0;
  for (let seed = 0; seed < seen.length; seed++) {
    if (seen[seed]) continue;
    seen[seed] = 1;
    const stack = [seed];
    while (stack.length > 0) {
      const f = stack.pop()!;
      for (let k = 0; k < 3; k++) {
        const e = sides[f * 3 + k];
        const other = e < 0 ? -1 : faces[e * 2] === f ? faces[e * 2 + 1] : faces[e * 2];
        if (other < 0 || seen[other]) continue;
        const at = [0, 1, 2].find((n) => sides[other * 3 + n] === e)!;
        seen[other] = 1;
        // Neighbours that agree run along the edge between them in opposite ways.
        flip[other] = way(f, k) === way(other, at) ? 1 - flip[f] : flip[f];
        stack.push(other);
      }
    }
  }
  return flip.includes(1) ? flipped(mesh, flip) : mesh;
}

/** Some faces the other way round. Corners that they share with others that stay get a vertex of their own. */
function flipped(mesh: Mesh, flip: Uint8Array): Mesh {
  const indices = mesh.indices.slice();
  const stays = new Uint8Array(mesh.positions.length / 3);
  const turns = new Uint8Array(stays.length);
  for (let i = 0; i < indices.length; i++) (flip[(i / 3) | 0] ? turns : stays)[indices[i]] = 1;
  const own = new Map<number, number>();
  const from: number[] = Array.from(stays, (_, v) => v);
  for (let f = 0; f < flip.length; f++) {
    if (!flip[f]) continue;
    [indices[f * 3 + 1], indices[f * 3 + 2]] = [indices[f * 3 + 2], indices[f * 3 + 1]];
    for (let k = 0; k < 3; k++) {
      const v = indices[f * 3 + k];
      if (!stays[v]) continue;
      if (!own.has(v)) own.set(v, from.push(v) - 1);
      indices[f * 3 + k] = own.get(v)!;
    }
  }
  const picked = pick(mesh, from);
  const isTurned = from.map((v, i) => (i < stays.length ? turns[v] && !stays[v] : true));
  return {
    ...picked,
    indices,
    normals: picked.normals.map((v, i) => (isTurned[Math.floor(i / 3)] ? -v : v)),
  };
}

/** A mesh of vertices by their numbers. */
function pick(mesh: Mesh, from: readonly number[]): Mesh {
  const of = (values: Float32Array, width: number): Float32Array => {
    const out = new Float32Array(from.length * width);
    from.forEach((v, i) => out.set(values.subarray(v * width, v * width + width), i * width));
    return out;
  };
  return {
    ...mesh,
    positions: of(mesh.positions, 3),
    normals: of(mesh.normals, 3),
    ...(mesh.uvs && { uvs: of(mesh.uvs, 2) }),
    ...(mesh.colors && { colors: of(mesh.colors, 3) }),
  };
}

/** Holes that are not wider than so closed by fans from their middles, in the look of the first face at each. */
function filled(mesh: Mesh, widest: number): Mesh {
  const { edges, faces, first, position } = topologyOf(mesh);
  const open: [number, number][] = [];
  for (let e = 0; e * 2 < edges.length; e++)
    if (faces[e * 2 + 1] === -1) open.push([edges[e * 2], edges[e * 2 + 1]]);
  const rings = chain(open).filter(({ ids }) => ids.length > 2 && widthOf(ids, position) <= widest);
  if (rings.length === 0) return mesh;
  const from = Array.from({ length: mesh.positions.length / 3 }, (_, v) => v);
  const added: number[] = [];
  const middles: { at: number; place: number[]; normal: number[] }[] = [];
  for (const { ids } of rings) {
    const at = from.push(first[ids[0]]) - 1;
    const place = [0, 1, 2].map((a) => ids.reduce((s, v) => s + position[v * 3 + a], 0) / ids.length);
    const rim = ids.map((v) => from.push(first[v]) - 1);
    const normal = [0, 0, 0];
    ids.forEach((_, i) => {
      const [a, b] = [ids[i], ids[(i + 1) % ids.length]].map((v) =>
        [0, 1, 2].map((k) => position[v * 3 + k] - place[k]),
      );
      // Borders run with their face on the left: what closes them runs the other way.
      added.push(rim[(i + 1) % ids.length], rim[i], at);
      for (let k = 0; k < 3; k++)
        normal[k] += b[(k + 1) % 3] * a[(k + 2) % 3] - b[(k + 2) % 3] * a[(k + 1) % 3];
    });
    const long = Math.sqrt(normal.reduce((s, v) => s + v * v, 0)) || 1;
    middles.push({ at, place, normal: normal.map((v) => v / long) });
  }
  const out = pick(mesh, from);
  middles.forEach(({ at, place, normal }, i) => {
    out.positions.set(place, at * 3);
    const end = middles[i + 1]?.at ?? from.length;
    for (let v = at; v < end; v++) out.normals.set(normal, v * 3);
  });
  const indices = new Uint32Array(mesh.indices.length + added.length);
  indices.set(mesh.indices);
  indices.set(added, mesh.indices.length);
  const group = { start: mesh.indices.length, count: added.length, material: mesh.groups[0]?.material ?? 0 };
  return { ...out, indices, groups: [...mesh.groups, group] };
}

/** Metres across a ring: the diagonal of the box about it. */
function widthOf(ids: readonly number[], position: Float64Array): number {
  let square = 0;
  for (let a = 0; a < 3; a++) {
    const all = ids.map((v) => position[v * 3 + a]);
    const reach = Math.max(...all) - Math.min(...all);
    square += reach * reach;
  }
  return Math.sqrt(square);
}
