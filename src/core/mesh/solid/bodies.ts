import type { Vec3 } from '../../math/vec3';
import { exactTopologyOf, topologyOf, type Topology, type Triangles } from '../lines/topology';
import type { Mark } from '../mark';

/** A mesh as the bodies that it is made of: what hangs together by edges. */
export interface Bodies {
  /** Edges with one face, and edges with more than two or whose faces disagree: none where it is closed. */
  open: number;
  unsound: number;
  /** For each vertex the first one in the same place. */
  first: Uint32Array;
  /** For each face the body that it is of; -1 where it has no area. */
  body: Int32Array;
  /** For each body how much it holds, in cubic units; below 0 where its faces look inward. */
  volumes: Float64Array;
}

const kept = new WeakMap<Triangles, Bodies>();

/** Works it out once a mesh: moving, turning and sizing it changes none of it but the sizes of volumes. */
export function bodiesOf(mesh: Triangles): Bodies {
  let have = kept.get(mesh);
  if (!have) kept.set(mesh, (have = worked(mesh)));
  return have;
}

function worked(mesh: Triangles): Bodies {
  const { positions: p, indices } = mesh;
  const topology = bodyTopology(mesh);
  const { weld, faces } = topology;
  const body = new Int32Array(indices.length / 3).fill(-1);
  const volumes: number[] = [];
  for (let seed = 0; seed < body.length; seed++) {
    if (body[seed] >= 0 || topology.sides[seed * 3] < 0) continue;
    const stack = [seed];
    body[seed] = volumes.length;
    let six = 0;
    while (stack.length > 0) {
      const f = stack.pop()!;
      six += sixTimes(p, indices, f);
      for (let k = 0; k < 3; k++) {
        const e = topology.sides[f * 3 + k];
        const other = e < 0 ? -1 : faces[e * 2] === f ? faces[e * 2 + 1] : faces[e * 2];
        if (other < 0 || body[other] >= 0) continue;
        body[other] = volumes.length;
        stack.push(other);
      }
    }
    volumes.push(six / 6);
  }
  const { open, unsound } = unclosed(topology, indices);
  return {
    open,
    unsound,
    first: weld.map((w) => topology.first[w]),
    body,
    volumes: Float64Array.from(volumes),
  };
}

/** Six times what is between a face and the origin. */
function sixTimes(p: ArrayLike<number>, indices: Uint32Array, f: number): number {
  const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
  return (
    p[a] * (p[b + 1] * p[c + 2] - p[b + 2] * p[c + 1]) +
    p[a + 1] * (p[b + 2] * p[c] - p[b] * p[c + 2]) +
    p[a + 2] * (p[b] * p[c + 1] - p[b + 1] * p[c])
  );
}

/**
 * The topology in which a mesh is closed, if it is in any: with near places as one, or, where that joins what is finer,
 * with those alone that are the same.
 */
export function bodyTopology(mesh: Triangles): Topology {
  const near = topologyOf(mesh);
  const { open, unsound } = unclosed(near, mesh.indices);
  if (open + unsound === 0) return near;
  const exact = exactTopologyOf(mesh);
  const other = unclosed(exact, mesh.indices);
  return other.open + other.unsound === 0 ? exact : near;
}

/** Edges that are not shared by two faces which agree on which side is out. */
export function unclosed(topology: Topology, indices: Uint32Array): { open: number; unsound: number } {
  let [open, unsound] = [0, 0];
  eachUnclosed(topology, indices, (_, isOpen) => (isOpen ? open++ : unsound++));
  return { open, unsound };
}

/** A line for each edge that keeps a mesh from being closed, as far as so many. */
export function faultsOf(mesh: Triangles, most: number): Mark[] {
  const topology = bodyTopology(mesh);
  const { edges, position: p } = topology;
  const place = (v: number): Vec3 => [p[v * 3], p[v * 3 + 1], p[v * 3 + 2]];
  const found: Mark[] = [];
  eachUnclosed(topology, mesh.indices, (e) => {
    if (found.length < most) found.push([place(edges[e * 2]), place(edges[e * 2 + 1])]);
  });
  return found;
}

/** @param tell gets the number of an edge, and whether it has one face alone */
function eachUnclosed(
  { edges, faces, sides, weld }: Topology,
  indices: Uint32Array,
  tell: (edge: number, isOpen: boolean) => void,
): void {
  // How often each edge is run along in its own direction, less how often against it: 0 where two faces agree.
  const runs = new Int32Array(edges.length / 2);
  for (let i = 0; i < sides.length; i++)
    if (sides[i] >= 0) runs[sides[i]] += weld[indices[i]] === edges[sides[i] * 2] ? 1 : -1;
  for (let e = 0; e < runs.length; e++) {
    if (faces[e * 2 + 1] === -1) tell(e, true);
    else if (faces[e * 2 + 1] === -2 || runs[e] !== 0) tell(e, false);
  }
}
