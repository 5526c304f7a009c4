import {
  Box3,
  DynamicDrawUsage,
  InstancedBufferAttribute,
  InstancedMesh,
  Matrix4,
  Sphere,
  type BufferGeometry,
  type Group,
  type Material,
} from 'three';
import { BLOCK, largest } from '@/engine/blocks';
import { mirroredGeometry, type DrawnMesh } from '../sceneMeshes';
import type { InstancePick, Stretch, Stretches } from '../pick';
import { Block } from './Block';
import type { Drawing } from './DrawnBatch';
import { uploadAll, uploadSome } from './upload';

/**
 * Arrangements of few props each: those of one prop are drawn together, however many arrangements they are of, so that
 * a thousand of them are a few calls and not a thousand.
 */

/** A batch of more instances is drawn by itself. */
export const FEW = 256;

interface Entry {
  key: string;
  drawing: Drawing;
  start: number;
  box: Box3;
}

const boxOne = new Box3();
const matrix = new Matrix4();

/** Where the instances of a batch reach to. */
function reachOf({ batch }: Drawing, geometry: BufferGeometry): Box3 {
  if (!geometry.boundingBox) geometry.computeBoundingBox();
  const out = new Box3();
  for (let i = 0; i < batch.rows.length; i++)
    out.union(boxOne.copy(geometry.boundingBox!).applyMatrix4(matrix.fromArray(batch.matrices, i * 16)));
  return out;
}

/** Instances of one geometry, of up to so many batches as have room in a block. */
class Pool {
  readonly blocks: Block[] = [];
  readonly sizes: number[] = [0];
  private entries: Entry[] = [];

  constructor(
    private group: Group,
    private geometry: BufferGeometry,
  ) {}

  get count(): number {
    return this.entries.reduce((n, e) => n + e.drawing.batch.rows.length, 0);
  }

  has(key: string): boolean {
    return this.entries.some((e) => e.key === key);
  }

  /** Draws a batch anew, or beside the others. */
  put(key: string, drawing: Drawing): void {
    const box = reachOf(drawing, this.geometry);
    const have = this.entries.find((e) => e.key === key);
    const same =
      have?.drawing.batch.rows.length === drawing.batch.rows.length &&
      !have.drawing.batch.tints === !drawing.batch.tints;
    if (have) Object.assign(have, { drawing, box });
    else this.entries.push({ key, drawing, box, start: 0 });
    if (have && same) this.write(have);
    else this.lay();
    this.reach();
  }

  /** @returns whether anything is left */
  remove(key: string): boolean {
    this.entries = this.entries.filter((e) => e.key !== key);
    if (this.entries.length === 0) {
      this.dispose();
      return false;
    }
    this.lay();
    this.reach();
    return true;
  }

  dispose(): void {
    for (const block of this.blocks.splice(0)) block.dispose();
  }

  /** Writes one batch where it has its place; only that goes to the graphics card. */
  private write({ drawing: { batch }, start }: Entry): void {
    const { full } = this.blocks[0];
    (full.instanceMatrix.array as Float32Array).set(batch.matrices, start * 16);
    uploadSome(full.instanceMatrix, start * 16, batch.matrices.length);
    if (batch.tints) {
      (full.instanceColor!.array as Float32Array).set(batch.tints, start * 3);
      uploadSome(full.instanceColor!, start * 3, batch.tints.length);
    }
    this.blocks[0].changed();
  }

  /** Lays all batches one behind the other. */
  private lay(): void {
    const { count } = this;
    const tinted = this.entries.some((e) => e.drawing.batch.tints);
    const { drawn } = this.entries[0].drawing;
    const had = this.blocks[0]?.full;
    if (!had || had.instanceMatrix.count < count || (had.instanceColor !== null) !== tinted) {
      this.dispose();
      const room = Math.min(BLOCK, had ? Math.ceil(count * 1.5) : count);
      const mesh = new InstancedMesh(this.geometry, drawn.materials, room);
      mesh.instanceMatrix = new InstancedBufferAttribute(new Float32Array(room * 16), 16);
      mesh.instanceMatrix.setUsage(DynamicDrawUsage);
      if (tinted) mesh.instanceColor = new InstancedBufferAttribute(new Float32Array(room * 3), 3);
      // A material that was compiled without colours of its instances is compiled anew.
      if (tinted) for (const m of drawn.materials as Material[]) m.needsUpdate = true;
      mesh.castShadow = mesh.receiveShadow = true;
      mesh.userData = {
        pick: ((i) => this.at(i)) satisfies InstancePick,
        stretches: (() => this.stretches()) satisfies Stretches,
      };
      this.blocks.push(new Block(this.group, mesh, drawn));
    }
    const { full } = this.blocks[0];
    if (tinted) (full.instanceColor!.array as Float32Array).fill(1);
    full.count = count;
    let start = 0;
    for (const entry of this.entries) {
      entry.start = start;
      start += entry.drawing.batch.rows.length;
      this.write(entry);
    }
    uploadAll(full.instanceMatrix);
    if (full.instanceColor) uploadAll(full.instanceColor);
  }

  private reach(): void {
    const { full } = this.blocks[0];
    full.boundingBox = this.entries.reduce((all, e) => all.union(e.box), new Box3());
    full.boundingSphere = full.boundingBox.getBoundingSphere(new Sphere());
    this.sizes[0] = largest(full.instanceMatrix.array as Float32Array, 0, full.count);
  }

  private stretches(): Stretch[] {
    return this.entries.map(({ box, start, drawing }) => ({ box, start, count: drawing.batch.rows.length }));
  }

  /** What an instance stands for. */
  private at(i: number): ReturnType<InstancePick> {
    const { drawing, start } = this.entries.findLast((e) => e.start <= i)!;
    const { rows, within } = drawing.batch;
    return {
      arrangement: drawing.arrangement,
      slot: drawing.result.placements.slot[rows[i - start]],
      ...(within && { inside: within[i - start] }),
    };
  }
}

/** Which pools a batch belongs to: those of its mesh in its materials, and as that is mirrored. */
interface Sort {
  drawn: DrawnMesh;
  mirrored: boolean;
}

/** All that is drawn together. */
export class Pools {
  private pools = new Map<DrawnMesh, { plain: Pool[]; mirrored: Pool[] }>();
  private places = new Map<string, { pool: Pool; sort: Sort; drawing: Drawing }>();

  constructor(private group: Group) {}

  /** Draws a batch among those of its prop. */
  put(key: string, drawing: Drawing): void {
    const { batch, drawn, result } = drawing;
    const sort: Sort = { drawn, mirrored: batch.mirrored };
    const have = this.places.get(key);
    const isSame = have?.sort.drawn === drawn && have.sort.mirrored === sort.mirrored;
    if (isSame && have.drawing.result === result) return;
    const room = (pool: Pool, own: number) => pool.count - own + batch.rows.length <= BLOCK;
    if (isSame && room(have.pool, have.drawing.batch.rows.length)) {
      have.pool.put(key, drawing);
      have.drawing = drawing;
      return;
    }
    this.remove(key);
    const pools = this.of(sort);
    let pool = pools.find((p) => room(p, 0));
    if (!pool) {
      const geometry = sort.mirrored ? mirroredGeometry(drawn) : drawn.geometry;
      pools.push((pool = new Pool(this.group, geometry)));
    }
    pool.put(key, drawing);
    this.places.set(key, { pool, sort, drawing });
  }

  private of({ drawn, mirrored }: Sort): Pool[] {
    let both = this.pools.get(drawn);
    if (!both) this.pools.set(drawn, (both = { plain: [], mirrored: [] }));
    return mirrored ? both.mirrored : both.plain;
  }

  /** Lets go of a batch, if it is here. */
  remove(key: string): void {
    const have = this.places.get(key);
    if (!have) return;
    this.places.delete(key);
    if (have.pool.remove(key)) return;
    const pools = this.of(have.sort);
    pools.splice(pools.indexOf(have.pool), 1);
    const { plain, mirrored } = this.pools.get(have.sort.drawn)!;
    if (plain.length + mirrored.length === 0) this.pools.delete(have.sort.drawn);
  }

  *[Symbol.iterator](): Generator<Pool> {
    for (const { plain, mirrored } of this.pools.values()) {
      yield* plain;
      yield* mirrored;
    }
  }
}
