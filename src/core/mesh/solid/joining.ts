import type { Manifold } from 'manifold-3d';
import { lerp, type Vec3 } from '../../math/vec3';
import type { MeshMaterial } from '../material';
import { mergedMeshes, type PlacedMesh } from '../merged';
import { MOST_MARKS, type Mark } from '../mark';
import { meshBounds, type Mesh } from '../mesh';
import { through } from '../surface';
import { bodiesOf, faultsOf, type Bodies } from './bodies';
import type { Kernel } from './kernel';
import { mendedFaces } from './mended';
import { crossesItself } from './selfCrossing';
import type { SolidStep } from './solidSchema';
import { voxelled } from './voxels';

/** What one step takes: all that an arrangement has placed, or a surface. */
export interface StepInput extends Pick<SolidStep, 'how' | 'mend' | 'grain'> {
  /** Id of the node that it is of. */
  node: string;
  parts: readonly PlacedMesh[];
}

/** What of a node could not be taken as it is, or only with a word. */
export interface Refused {
  node: string;
  /** Why its meshes are left out; those that cross themselves are taken all the same. */
  why: 'open' | 'unsound' | 'inside-out' | 'many-cells' | 'crossing';
  count: number;
  /** Edges of those that are at fault. */
  edges: number;
  /** Some of those edges, or the middles of meshes that are at fault as a whole. */
  marks: Mark[];
}

export interface Joined {
  /** Closed; in the space that the parts' matrices lead to. Without faces where nothing is left. */
  mesh: Mesh;
  refused: Refused[];
}

/** So many meshes are joined between two looks at the clock. */
const TOGETHER = 48;

/** What goes into the properties of a vertex beside its place: normal, colour, texture. */
interface Layout {
  width: number;
  colors: boolean;
  uvs: boolean;
}

/**
 * Joins and cuts, step after step, from nothing on. Triangles keep their looks, normals, colours and, where all have some,
 * texture coordinates. A mesh of several bodies is taken as what they hold together; bodies that look inward are hollows.
 * @returns yields the share that is done, 0–1; given up midway it gives back all that it holds
 */
export function* joining(kernel: Kernel, steps: readonly StepInput[]): Generator<number, Joined> {
  const work = new Work(kernel, steps);
  try {
    let done = 0;
    const all = steps.reduce((n, s) => n + s.parts.length + 1, 0) || 1;
    for (const step of steps) {
      const pieces: Manifold[] = [];
      let waiting: Manifold[] = [];
      for (const part of step.parts) {
        waiting.push(...work.taken(part, step));
        done++;
        if (waiting.length < TOGETHER) continue;
        pieces.push(work.union(waiting)!);
        waiting = [];
        yield done / all;
      }
      work.step(step, work.union([...pieces, ...waiting]));
      yield ++done / all;
    }
    return { mesh: work.mesh(), refused: [...work.refused.values()] };
  } finally {
    work.free();
  }
}

class Work {
  private held = new Set<Manifold>();
  private layout: Layout;
  private current: Manifold | null = null;
  readonly refused = new Map<string, Refused>();
  /** Looks of the result, and which one each run of triangles wears, by its number in the library; cut out: turned over. */
  private materials: MeshMaterial[] = [];
  private numbers = new Map<string, number>();
  private runs = new Map<number, { material: number; turned: boolean }>();

  constructor(
    private kernel: Kernel,
    steps: readonly StepInput[],
  ) {
    const all = steps.flatMap((s) => s.parts);
    const colors = all.some(({ mesh, tint }) => mesh.colors || tint);
    const uvs = all.every(({ mesh }) => mesh.uvs) && steps.every((s) => s.mend !== 'voxels');
    this.layout = { colors, uvs, width: 6 + (colors ? 3 : 0) + (uvs ? 2 : 0) };
  }

  /** A placed mesh as closed bodies; none where it cannot be taken. */
  taken(part: PlacedMesh, step: StepInput): Manifold[] {
    const placed = mergedMeshes([part]);
    const bodies = bodiesOf(part.mesh);
    const { open, unsound, volumes } = bodies;
    const inward = volumes.every((v) => v <= 0);
    const sound = open === 0 && unsound === 0 && !inward;
    if (sound && step.mend !== 'voxels') {
      if (crossesItself(part.mesh)) this.refuse(step, 'crossing', part);
      return this.solids(placed, bodies, part, step);
    }
    if (step.mend === 'faces') {
      const mended = mendedFaces(placed, step.grain);
      const again = bodiesOf(mended);
      if (again.open === 0 && again.unsound === 0) return this.solids(mended, again, part, step);
      return this.refuse(step, again.open > 0 ? 'open' : 'unsound', { mesh: mended }, again);
    }
    if (step.mend === 'voxels') {
      const cells = voxelled(this.kernel, placed, step.grain);
      return cells ? this.solids(cells, bodiesOf(cells), part, step) : this.refuse(step, 'many-cells', part);
    }
    const why = open > 0 ? 'open' : unsound > 0 ? 'unsound' : 'inside-out';
    return this.refuse(step, why, part, bodies);
  }

  /** @param of a mesh, and to where it stands, if it is not there @param faults how many of its edges are at fault, where that is why */
  private refuse(
    { node }: StepInput,
    why: Refused['why'],
    { mesh, matrix }: Pick<PlacedMesh, 'mesh'> & Partial<PlacedMesh>,
    faults?: Pick<Bodies, 'open' | 'unsound'>,
  ): Manifold[] {
    const key = `${node} ${why}`;
    const have = this.refused.get(key) ?? { node, why, count: 0, edges: 0, marks: [] };
    const edges = faults ? faults.open + faults.unsound : 0;
    const room = MOST_MARKS - have.marks.length;
    const own = room === 0 ? [] : edges > 0 ? faultsOf(mesh, room) : [[middleOf(mesh)]];
    const marks = matrix ? own.map((mark) => mark.map((place) => through(matrix, place))) : own;
    this.refused.set(key, {
      ...have,
      count: have.count + 1,
      edges: have.edges + edges,
      marks: [...have.marks, ...marks],
    });
    return [];
  }

  /** The bodies of a mesh as one solid: outer ones added, hollows taken away, the largest first. */
  private solids(mesh: Mesh, bodies: Bodies, part: PlacedMesh, step: StepInput): Manifold[] {
    const order = [...bodies.volumes.keys()].sort(
      (a, b) => Math.abs(bodies.volumes[b]) - Math.abs(bodies.volumes[a]) || a - b,
    );
    let whole: Manifold | null = null;
    for (const body of order) {
      const volume = bodies.volumes[body];
      if (volume === 0) continue;
      const one = this.manifold(mesh, bodies, body, part, step.how === 'cut');
      if (!one) return this.refuse(step, 'unsound', { mesh });
      if (!whole) {
        whole = one;
        continue;
      }
      const both: Manifold = this.keep(volume < 0 ? whole.subtract(one) : whole.add(one));
      // What they are made of is the library's own from here on.
      this.drop(whole);
      this.drop(one);
      whole = both;
    }
    return whole ? [whole] : [];
  }

  /** One body of a mesh for the library; hollows with their faces turned out. @param turned its faces will be seen from within */
  private manifold(
    mesh: Mesh,
    { first, body, volumes }: Bodies,
    which: number,
    part: PlacedMesh,
    turned: boolean,
  ): Manifold | null {
    const { width, colors, uvs } = this.layout;
    const number = new Map<number, number>();
    const vertices: number[] = [];
    const corners: number[] = [];
    const runIndex: number[] = [];
    const runOriginalID: number[] = [];
    const inward = volumes[which] < 0;
    const numberOf = (v: number): number => {
      let n = number.get(v);
      if (n !== undefined) return n;
      number.set(v, (n = vertices.length / width));
      // Places that are one are so to the last bit.
      const at = first[v] * 3;
      vertices.push(mesh.positions[at], mesh.positions[at + 1], mesh.positions[at + 2]);
      for (let k = 0; k < 3; k++) vertices.push(mesh.normals[v * 3 + k]);
      if (colors) for (let k = 0; k < 3; k++) vertices.push(mesh.colors ? mesh.colors[v * 3 + k] : 1);
      if (uvs) vertices.push(mesh.uvs![v * 2], mesh.uvs![v * 2 + 1]);
      return n;
    };
    for (const { start, count, material } of mesh.groups) {
      const from = corners.length;
      for (let i = start; i < start + count; i += 3) {
        if (body[i / 3] !== which) continue;
        const [a, b, c] = [mesh.indices[i], mesh.indices[i + 1], mesh.indices[i + 2]];
        corners.push(numberOf(a), numberOf(inward ? c : b), numberOf(inward ? b : c));
      }
      if (corners.length === from) continue;
      runIndex.push(from);
      runOriginalID.push(this.runOf(mesh, material, part, turned));
    }
    const merged = mergesOf(number, first);
    const options = new this.kernel.Mesh({
      numProp: width,
      vertProperties: Float32Array.from(vertices),
      triVerts: Uint32Array.from(corners),
      ...merged,
      runIndex: Uint32Array.from([...runIndex, corners.length]),
      runOriginalID: Uint32Array.from(runOriginalID),
    });
    try {
      return this.keep(new this.kernel.Manifold(options));
    } catch {
      // It says no more than that it is none.
      return null;
    }
  }

  /** A number for triangles of one look: a new one each time, since some are turned over. */
  private runOf(mesh: Mesh, material: number, { of }: PlacedMesh, turned: boolean): number {
    const key = `${of} ${material}`;
    let at = this.numbers.get(key);
    if (at === undefined) {
      this.numbers.set(key, (at = this.materials.length));
      this.materials.push(mesh.materials[material]);
    }
    const id = this.kernel.Manifold.reserveIDs(1);
    this.runs.set(id, { material: at, turned });
    return id;
  }

  private keep(one: Manifold): Manifold {
    this.held.add(one);
    return one;
  }

  /** All of them as one, worked out at once; what they were made of is given back. */
  union(list: readonly Manifold[]): Manifold | null {
    if (list.length === 0) return null;
    const whole = list.length === 1 ? list[0] : this.keep(this.kernel.Manifold.union(list as Manifold[]));
    whole.numTri();
    for (const one of list) if (one !== whole) this.drop(one);
    return whole;
  }

  step({ how }: StepInput, other: Manifold | null): void {
    const { current } = this;
    if (!other) {
      // Within nothing there is nothing.
      if (how === 'keep') this.current = null;
      return;
    }
    if (!current) {
      this.current = how === 'join' ? other : null;
      return;
    }
    this.current = this.keep(
      how === 'join'
        ? current.add(other)
        : how === 'cut'
          ? current.subtract(other)
          : current.intersect(other),
    );
    this.current.numTri();
    this.drop(current);
    this.drop(other);
  }

  private drop(one: Manifold): void {
    if (this.held.delete(one)) one.delete();
  }

  free(): void {
    for (const one of this.held) one.delete();
    this.held.clear();
  }

  /** What has come of it, its triangles gathered by their looks. */
  mesh(): Mesh {
    const { current, layout } = this;
    const from = current?.getMesh();
    const count = from ? from.vertProperties.length / from.numProp : 0;
    const out: Mesh = {
      positions: new Float32Array(count * 3),
      normals: new Float32Array(count * 3),
      ...(layout.colors && { colors: new Float32Array(count * 3) }),
      ...(layout.uvs && { uvs: new Float32Array(count * 2) }),
      indices: new Uint32Array(from?.triVerts.length ?? 0),
      groups: [],
      materials: [],
    };
    if (!from || count === 0) return out;
    const faces = new Map<number, number[]>();
    const turned = new Uint8Array(count);
    from.runOriginalID.forEach((id, r) => {
      const run = this.runs.get(id)!;
      let list = faces.get(run.material);
      if (!list) faces.set(run.material, (list = []));
      for (let i = from.runIndex[r]; i < from.runIndex[r + 1]; i++) {
        list.push(from.triVerts[i]);
        if (run.turned) turned[from.triVerts[i]] = 1;
      }
    });
    writeVertices(from.vertProperties, from.numProp, turned, layout, out);
    let start = 0;
    for (const material of [...faces.keys()].sort((a, b) => a - b)) {
      const list = faces.get(material)!;
      out.indices.set(list, start);
      out.groups.push({ start, count: list.length, material: out.materials.length });
      out.materials.push(this.materials[material]);
      start += list.length;
    }
    return out;
  }
}

function middleOf(mesh: Mesh): Vec3 {
  const { min, max } = meshBounds(mesh);
  return lerp(min, max, 0.5);
}

/** Which vertices of a body are one place: those that are there twice, by their numbers. */
function mergesOf(number: ReadonlyMap<number, number>, first: Uint32Array) {
  const [from, to]: number[][] = [[], []];
  const at = new Map<number, number>();
  for (const [v, n] of number) {
    const have = at.get(first[v]);
    if (have === undefined) at.set(first[v], n);
    else {
      from.push(n);
      to.push(have);
    }
  }
  return { mergeFromVert: Uint32Array.from(from), mergeToVert: Uint32Array.from(to) };
}

function writeVertices(
  from: Float32Array,
  width: number,
  turned: Uint8Array,
  { colors, uvs }: Layout,
  out: Mesh,
): void {
  for (let v = 0; v < turned.length; v++) {
    const o = v * width;
    const [x, y, z] = [from[o + 3], from[o + 4], from[o + 5]];
    const long = Math.sqrt(x * x + y * y + z * z) || 1;
    const by = (turned[v] ? -1 : 1) / long;
    for (let k = 0; k < 3; k++) {
      out.positions[v * 3 + k] = from[o + k];
      out.normals[v * 3 + k] = from[o + 3 + k] * by;
      if (colors) out.colors![v * 3 + k] = from[o + 6 + k];
    }
    if (uvs) for (let k = 0; k < 2; k++) out.uvs![v * 2 + k] = from[o + width - 2 + k];
  }
}
