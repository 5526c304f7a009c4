import { lerp, type Vec3 } from '../../math/vec3';
import { sameRows } from '../sameRows';

/** What of a mesh its topology depends on. */
export interface Triangles {
  positions: ArrayLike<number>;
  indices: Uint32Array;
}

/** A mesh whose vertices in one place are one, with the faces on both sides of every edge. */
export interface Topology {
  /** The welded vertex of each vertex of the mesh, and the first vertex of each welded one. */
  weld: Uint32Array;
  first: Uint32Array;
  /** xyz a welded vertex. */
  position: Float64Array;
  /** Two welded vertices an edge, in the direction in which its first face runs. */
  edges: Uint32Array;
  /** Faces on both sides of an edge; -1 where there is none, -2 as the second where there are more than two. */
  faces: Int32Array;
  /** The edge of each side of each face, from its k-th corner to the next; -1 on a face without area. */
  sides: Int32Array;
  /** Edges at each welded vertex. */
  around: number[][];
}

const kept = new WeakMap<Triangles, Topology>();
const keptExact = new WeakMap<Triangles, Topology>();

/** Works the topology out once a mesh. Vertices within 1e-6 of the mesh's size are one. */
export function topologyOf(mesh: Triangles): Topology {
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = joinedAt(mesh, weldVertices(mesh))));
  return have;
}

/** The same where only vertices are one that are to the last bit of a float: what is printed is no nearer than that. */
export function exactTopologyOf(mesh: Triangles): Topology {
  let have = keptExact.get(mesh);
  if (!have) keptExact.set(mesh, (have = joinedAt(mesh, weldExactly(mesh))));
  return have;
}

function joinedAt(mesh: Triangles, welded: Pick<Topology, 'weld' | 'first' | 'position'>): Topology {
  const { weld, first, position } = welded;
  const byKey = new Map<number, number>();
  const edges: number[] = [];
  const faces: number[] = [];
  const count = position.length / 3;
  const { indices } = mesh;
  const sides = new Int32Array(indices.length).fill(-1);
  for (let f = 0; f * 3 < indices.length; f++) {
    const v = [0, 1, 2].map((k) => weld[indices[f * 3 + k]]);
    if (v[0] === v[1] || v[1] === v[2] || v[2] === v[0]) continue;
    for (let k = 0; k < 3; k++) {
      const [a, b] = [v[k], v[(k + 1) % 3]];
      const key = Math.min(a, b) * count + Math.max(a, b);
      let e = byKey.get(key);
      if (e === undefined) {
        byKey.set(key, (e = edges.length / 2));
        edges.push(a, b);
        faces.push(f, -1);
      } else faces[e * 2 + 1] = faces[e * 2 + 1] === -1 ? f : -2;
      sides[f * 3 + k] = e;
    }
  }
  const around: number[][] = Array.from({ length: count }, () => []);
  for (let e = 0; e * 2 < edges.length; e++) {
    around[edges[e * 2]].push(e);
    around[edges[e * 2 + 1]].push(e);
  }
  return {
    weld,
    first,
    position,
    edges: Uint32Array.from(edges),
    faces: Int32Array.from(faces),
    sides,
    around,
  };
}

function weldExactly({ positions }: Triangles): Pick<Topology, 'weld' | 'first' | 'position'> {
  // −0 is where 0 is.
  const floats = Float32Array.from(positions, (v) => v + 0);
  return welded(positions, sameRows(new Int32Array(floats.buffer), 3));
}

function weldVertices(mesh: Triangles): Pick<Topology, 'weld' | 'first' | 'position'> {
  const p = mesh.positions;
  let size = 0;
  for (let i = 0; i < p.length; i++) size = Math.max(size, Math.abs(p[i]));
  const grain = Math.max(1e-12, size * 1e-6);
  const rows = Int32Array.from({ length: p.length }, (_, i) => Math.round(p[i] / grain));
  return welded(p, sameRows(rows, 3));
}

/** @param same for each vertex the first one that is the same */
function welded(p: ArrayLike<number>, same: Uint32Array): Pick<Topology, 'weld' | 'first' | 'position'> {
  const weld = new Uint32Array(p.length / 3);
  const position: number[] = [];
  const own: number[] = [];
  for (let i = 0; i < weld.length; i++) {
    if (same[i] !== i) {
      weld[i] = weld[same[i]];
      continue;
    }
    weld[i] = own.length;
    own.push(i);
    position.push(p[i * 3], p[i * 3 + 1], p[i * 3 + 2]);
  }
  return { weld, first: Uint32Array.from(own), position: Float64Array.from(position) };
}

/** The place of a vertex of a topology, in the mesh’s own space. */
export const vertexAt = (t: Topology, v: number): Vec3 => [
  t.position[v * 3],
  t.position[v * 3 + 1],
  t.position[v * 3 + 2],
];

/** A line over a mesh, in the mesh's own space. */
export interface MeshLine {
  points: Vec3[];
  closed: boolean;
  /** A face that each piece from point to point lies on. */
  faces: Int32Array;
  /** Two vertices of the mesh for each point, and the weight of the second: it goes where they go. */
  vertices: Uint32Array;
  weights: Float64Array;
}

/** The points of a line on the same mesh with its vertices elsewhere. */
export const carriedPoints = (
  { vertices, weights }: Omit<MeshLine, 'points'>,
  p: ArrayLike<number>,
): Vec3[] =>
  Array.from(weights, (w, i): Vec3 => {
    const a = vertices[i * 2] * 3;
    const b = vertices[i * 2 + 1] * 3;
    return lerp([p[a], p[a + 1], p[a + 2]], [p[b], p[b + 1], p[b + 2]], w);
  });

/** The face across a side of a face; negative where there is none, or more than one. */
export function acrossSide(t: Topology, face: number, side: number): number {
  const e = t.sides[face * 3 + side];
  if (e < 0) return -1;
  return t.faces[e * 2] === face ? t.faces[e * 2 + 1] : t.faces[e * 2];
}

/**
 * Directed pieces (from, to) put together to lines as long as they go: at each vertex the next unused piece that
 * leaves it. Loops close. Starts that nothing leads to come first, in order; then whatever rings are left.
 */
export function chain(pieces: [number, number][]): { ids: number[]; closed: boolean }[] {
  const leaving = new Map<number, number[]>();
  const arriving = new Map<number, number>();
  pieces.forEach(([a, b], i) => {
    const list = leaving.get(a);
    if (list) list.push(i);
    else leaving.set(a, [i]);
    arriving.set(b, (arriving.get(b) ?? 0) + 1);
  });
  const used = new Uint8Array(pieces.length);
  const out: { ids: number[]; closed: boolean }[] = [];
  const walk = (first: number) => {
    const ids = [pieces[first][0]];
    let at = first;
    for (;;) {
      used[at] = 1;
      const to = pieces[at][1];
      if (to === ids[0]) return out.push({ ids, closed: true });
      ids.push(to);
      const next = leaving.get(to)?.find((i) => !used[i]);
      if (next === undefined) return out.push({ ids, closed: false });
      at = next;
    }
  };
  pieces.forEach(([a], i) => {
    if (!used[i] && (arriving.get(a) ?? 0) < leaving.get(a)!.length) walk(i);
  });
  pieces.forEach((_, i) => {
    if (!used[i]) walk(i);
  });
  return out;
}
