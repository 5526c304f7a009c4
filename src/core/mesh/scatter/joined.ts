import { DEEPEST, type Bvh } from '../bvh';
import { acrossSide, topologyOf, type Topology, type Triangles } from '../lines/topology';

/**
 * Whether places on a mesh are joined over its faces near by: two sides of a fold that only touch are not, the two
 * sides of an edge are. Where no other part of the mesh comes near a face that is known without a look at its places.
 */
export class Joined {
  private t: Topology;
  private seen: Int32Array;
  private turn = 0;
  private queue: number[] = [];
  /** For each face whether only what is joined to it comes near: 0 not known yet, 1 it does, 2 others do too. */
  private alone: Uint8Array;
  private middle: Float64Array;
  /** How far a face's corners are from its middle at most. */
  private reach: Float64Array;

  /** @param within metres that are near */
  constructor(
    private mesh: Triangles & { tree(): Bvh },
    private within: number,
  ) {
    this.t = topologyOf(mesh);
    const faces = mesh.indices.length / 3;
    this.seen = new Int32Array(faces);
    this.alone = new Uint8Array(faces);
    this.middle = new Float64Array(faces * 3);
    this.reach = new Float64Array(faces);
    const { positions: p, indices } = mesh;
    for (let f = 0; f < faces; f++) {
      const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
      for (let k = 0; k < 3; k++) this.middle[f * 3 + k] = (p[a + k] + p[b + k] + p[c + k]) / 3;
      let most = 0;
      for (const v of [a, b, c]) {
        const [x, y, z] = [0, 1, 2].map((k) => p[v + k] - this.middle[f * 3 + k]);
        most = Math.max(most, x * x + y * y + z * z);
      }
      this.reach[f] = Math.sqrt(most);
    }
  }

  /** Whether a place x, y, z of a face is joined to a near one of another face. */
  joins(face: number, x: number, y: number, z: number, other: number): boolean {
    if (face === other || this.touch(face, other)) return true;
    this.alone[face] ||= this.isAlone(face) ? 1 : 2;
    if (this.alone[face] === 1) return true;
    return this.flood(face, x, y, z, this.within, other);
  }

  /** Whether two faces have a corner in common: of coarse meshes most that are near do. */
  private touch(f: number, g: number): boolean {
    const { indices } = this.mesh;
    const { weld } = this.t;
    for (let i = f * 3; i < f * 3 + 3; i++)
      for (let k = g * 3; k < g * 3 + 3; k++) if (weld[indices[i]] === weld[indices[k]]) return true;
    return false;
  }

  /** Goes over the faces joined to one as far as edges come near. @returns whether `wanted` is among them */
  private flood(face: number, x: number, y: number, z: number, within: number, wanted: number): boolean {
    const { seen, queue, t } = this;
    const turn = ++this.turn;
    queue.length = 0;
    queue.push(face);
    seen[face] = turn;
    for (let n = 0; n < queue.length; n++)
      for (let side = 0; side < 3; side++) {
        const next = acrossSide(t, queue[n], side);
        if (next < 0 || seen[next] === turn) continue;
        const e = t.sides[queue[n] * 3 + side] * 2;
        if (!edgeNear(t.position, t.edges[e] * 3, t.edges[e + 1] * 3, x, y, z, within)) continue;
        if (next === wanted) return true;
        seen[next] = turn;
        queue.push(next);
      }
    return false;
  }

  /** Whether all faces that come near to any place of a face are joined to it there. */
  private isAlone(face: number): boolean {
    const { middle, reach, within } = this;
    const [x, y, z] = [middle[face * 3], middle[face * 3 + 1], middle[face * 3 + 2]];
    const far = within + reach[face];
    this.flood(face, x, y, z, far, -1);
    const { seen, turn } = this;
    return !someNear(this.mesh.tree(), x, y, z, far, (f) => {
      if (seen[f] === turn) return false;
      const [dx, dy, dz] = [middle[f * 3] - x, middle[f * 3 + 1] - y, middle[f * 3 + 2] - z];
      const most = far + reach[f];
      return dx * dx + dy * dy + dz * dz < most * most && this.comesNear(f, x, y, z, far);
    });
  }

  /** Whether a corner or a side of a face comes near; of a larger one, with none of them near, it is taken to. */
  private comesNear(f: number, x: number, y: number, z: number, far: number): boolean {
    const { t, reach } = this;
    if (reach[f] > far) return true;
    for (let side = 0; side < 3; side++) {
      const e = t.sides[f * 3 + side] * 2;
      if (e >= 0 && edgeNear(t.position, t.edges[e] * 3, t.edges[e + 1] * 3, x, y, z, far)) return true;
    }
    return false;
  }
}

const stack = new Int32Array(DEEPEST * 2 + 8);

/** Whether something holds for one of the faces in the leaves that a box of that size about a place meets. */
function someNear(
  { bounds, start, count, order, nodes }: Bvh,
  x: number,
  y: number,
  z: number,
  within: number,
  holds: (f: number) => boolean,
): boolean {
  if (nodes === 0) return false;
  let top = 0;
  stack[top++] = 0;
  while (top > 0) {
    const node = stack[--top];
    const o = node * 6;
    if (bounds[o] > x + within || bounds[o + 3] < x - within) continue;
    if (bounds[o + 1] > y + within || bounds[o + 4] < y - within) continue;
    if (bounds[o + 2] > z + within || bounds[o + 5] < z - within) continue;
    if (count[node] === 0) {
      stack[top++] = node + 1;
      stack[top++] = start[node];
      continue;
    }
    for (let i = start[node]; i < start[node] + count[node]; i++) if (holds(order[i])) return true;
  }
  return false;
}

/** Whether the straight piece from a to b comes within a distance of x, y, z. */
function edgeNear(
  p: Float64Array,
  a: number,
  b: number,
  x: number,
  y: number,
  z: number,
  within: number,
): boolean {
  const ex = p[b] - p[a];
  const ey = p[b + 1] - p[a + 1];
  const ez = p[b + 2] - p[a + 2];
  const dx = x - p[a];
  const dy = y - p[a + 1];
  const dz = z - p[a + 2];
  const long = ex * ex + ey * ey + ez * ez;
  const k = long > 0 ? Math.min(1, Math.max(0, (dx * ex + dy * ey + dz * ez) / long)) : 0;
  const rx = dx - ex * k;
  const ry = dy - ey * k;
  const rz = dz - ez * k;
  return rx * rx + ry * ry + rz * rz <= within * within;
}
