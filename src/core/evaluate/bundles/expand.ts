import type { Inside } from '../../arrange/inside';
import { STATE, type Placements } from '../../arrange/result';
import { turnAndSizes, writeAffine, writeProduct } from '../../math/affine';
import { writeQuatProduct, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import type { PosedMesh } from '../../arrange/poses/posable';
import type { BentMesh } from '../../mesh/bend';
import type { Contents } from './contents';
import { CopiedLines } from './copiedLines';

/** The way from a bundle's mesh to the own space of its prop. */
interface ToOwn {
  matrix: Float64Array;
  rotation: Quat;
  size: number;
  origin: Vec3;
}

const IDENTITY: Vec3 = [0, 0, 0];

/** Gathers what copies of bundles hold, copy by copy, nested ones behind the row that stands for them. */
export class Expanding {
  private rows: Omit<Inside, 'count' | 'of' | 'props'> = empty(256);
  private of = new Map<string, number>();
  private props = new Map<string, number>();
  private bent: BentMesh[] = [];
  private bentAt = new Map<BentMesh, number>();
  private posed: PosedMesh[] = [];
  private posedAt = new Map<PosedMesh, number>();
  private tinted = false;
  private ways = new Map<string, ToOwn>();
  private lines = new CopiedLines();
  /** Of the copy that is put in. */
  private slot = 0;
  count = 0;

  /** @param matrixOf from the mesh of a bundle to the own space of its prop */
  constructor(
    private matrixOf: (prop: string) => Float64Array,
    private isBundle: (prop: string) => boolean,
  ) {}

  /** Puts in what the copy in a row holds. */
  copy(
    p: Placements,
    row: number,
    prop: string,
    origin: Vec3 | undefined,
    originOf: (prop: string) => Vec3 | undefined,
    contents: Contents,
  ): void {
    const m = new Float64Array(16);
    writeAffine(m, 0, p.position, row * 3, p.rotation, row * 4, p.scale, row * 3);
    const tint = p.tint?.subarray(row * 3, row * 3 + 3);
    this.slot = p.slot[row];
    this.fill(row, -1, m, this.way(prop, origin), originOf, contents, tint);
  }

  private way(prop: string, origin: Vec3 = IDENTITY): ToOwn {
    let way = this.ways.get(prop);
    if (!way) {
      const matrix = this.matrixOf(prop);
      const { rotation, scale } = turnAndSizes(matrix, 0);
      this.ways.set(prop, (way = { matrix, rotation, size: scale[1], origin }));
    }
    return way;
  }

  private fill(
    copy: number,
    parent: number,
    m: Float64Array,
    way: ToOwn,
    originOf: (prop: string) => Vec3 | undefined,
    { members }: Contents,
    tint: ArrayLike<number> | undefined,
  ): void {
    for (const { id, placements: p, lines, contents } of members) {
      if (lines) this.lines.put(lines, m, way.matrix, way.origin, this.slot);
      const member = numbered(this.of, id);
      const bundles = p.props.map(this.isBundle);
      const props = p.props.map((prop) => numbered(this.props, prop));
      for (let row = 0; row < p.count; row++) {
        const prop = p.prop[row];
        if (prop < 0 || p.state[row] !== STATE.placed) continue;
        const i = this.put(copy, parent, member, p.slot[row], props[prop], bundles[prop]);
        this.place(i, p, row, m, way);
        this.dye(i, p.tint?.subarray(row * 3, row * 3 + 3), tint);
        if (!bundles[prop]) continue;
        const own = this.rows.matrix.slice(i * 16, i * 16 + 16);
        const dyed = this.tinted ? this.rows.tint!.slice(i * 3, i * 3 + 3) : undefined;
        const name = p.props[prop];
        this.fill(copy, i, own, this.way(name, originOf(name)), originOf, contents(p.slot[row], name), dyed);
      }
    }
  }

  private put(
    copy: number,
    parent: number,
    member: number,
    slot: number,
    prop: number,
    bundle: boolean,
  ): number {
    const i = this.count++;
    if (i === this.rows.copy.length) this.rows = grown(this.rows, i * 2);
    const { rows } = this;
    rows.copy[i] = copy;
    rows.parent[i] = parent;
    rows.member[i] = member;
    rows.slot[i] = slot;
    rows.prop[i] = prop;
    rows.bundle[i] = bundle ? 1 : 0;
    rows.shape![i] = -1;
    rows.pose![i] = -1;
    rows.tint![i * 3] = rows.tint![i * 3 + 1] = rows.tint![i * 3 + 2] = 1;
    return i;
  }

  /** Where it lies in its copy, and in the scene. */
  private place(i: number, p: Placements, row: number, m: Float64Array, way: ToOwn): void {
    const { rows } = this;
    const bent = p.bent?.[p.shape?.[row] ?? -1];
    const { matrix: w, origin, size } = way;
    const x = p.position[row * 3] - origin[0];
    const y = p.position[row * 3 + 1] - origin[1];
    const z = p.position[row * 3 + 2] - origin[2];
    for (let a = 0; a < 3; a++) {
      rows.position[i * 3 + a] = w[a] * x + w[4 + a] * y + w[8 + a] * z + w[12 + a];
      rows.scale[i * 3 + a] = (bent ? 1 : p.scale[row * 3 + a]) * size;
    }
    writeQuatProduct(rows.rotation, i * 4, way.rotation, p.rotation, row * 4);
    writeAffine(local, 0, rows.position, i * 3, rows.rotation, i * 4, rows.scale, i * 3);
    writeProduct(rows.matrix, i * 16, m, 0, local, 0);
    const posed = p.posed?.[p.pose?.[row] ?? -1];
    if (posed) rows.pose![i] = listed(posed, this.posed, this.posedAt);
    if (bent) rows.shape![i] = listed(bent, this.bent, this.bentAt);
  }

  private dye(i: number, own: ArrayLike<number> | undefined, copy: ArrayLike<number> | undefined): void {
    if (!own && !copy) return;
    this.tinted = true;
    for (let a = 0; a < 3; a++) this.rows.tint![i * 3 + a] = (own?.[a] ?? 1) * (copy?.[a] ?? 1);
  }

  done(): Inside {
    const { tint, shape, pose, ...rows } = cut(this.rows, this.count);
    const lines = this.lines.done();
    return {
      ...rows,
      count: this.count,
      of: [...this.of.keys()],
      props: [...this.props.keys()],
      ...(this.tinted && { tint }),
      ...(lines && { lines }),
      ...(this.bent.length > 0 && { shape, bent: this.bent }),
      ...(this.posed.length > 0 && { pose, posed: this.posed }),
    };
  }
}

const local = new Float64Array(16);

/** The number of something in a list that has each once. */
function listed<T>(one: T, list: T[], at: Map<T, number>): number {
  let n = at.get(one);
  if (n === undefined) {
    at.set(one, (n = list.length));
    list.push(one);
  }
  return n;
}

function numbered(of: Map<string, number>, id: string): number {
  let n = of.get(id);
  if (n === undefined) of.set(id, (n = of.size));
  return n;
}

type Rows = Omit<Inside, 'count' | 'of' | 'props'>;

const empty = (n: number): Rows => ({
  copy: new Int32Array(n),
  parent: new Int32Array(n),
  slot: new Float64Array(n),
  member: new Int32Array(n),
  prop: new Int32Array(n),
  bundle: new Uint8Array(n),
  position: new Float64Array(n * 3),
  rotation: new Float64Array(n * 4),
  scale: new Float64Array(n * 3),
  matrix: new Float64Array(n * 16),
  tint: new Float32Array(n * 3),
  shape: new Int32Array(n),
  pose: new Int32Array(n),
});

function grown(rows: Rows, n: number): Rows {
  const out = empty(n);
  for (const key of Object.keys(out) as (keyof Rows)[])
    (out[key] as Float64Array).set(rows[key] as unknown as Float64Array);
  return out;
}

function cut(rows: Rows, n: number): Rows {
  const had = rows.copy.length;
  return Object.fromEntries(
    Object.entries(rows).map(([key, v]) => {
      const list = v as Float64Array;
      return [key, list.slice(0, (list.length / had) * n)];
    }),
  ) as unknown as Rows;
}
