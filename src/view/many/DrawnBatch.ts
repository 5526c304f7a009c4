import {
  Box3,
  DoubleSide,
  DynamicDrawUsage,
  InstancedBufferAttribute,
  InstancedMesh,
  Matrix4,
  MeshStandardMaterial,
  Sphere,
  Vector3,
  type BufferGeometry,
  type Group,
  type Material,
} from 'three';
import { BLOCK, largest } from '@/engine/blocks';
import type { DrawBatch } from '@/engine/drawBatch';
import type { ServedArrangement } from '@/engine/served';
import { linearChannel as linear } from '@/core/math/color';
import { distortionRgb } from '../distortion';
import { mirroredGeometry, releaseShape, type DrawnMesh } from '../sceneMeshes';
import type { InstancePick } from '../pick';
import { Block } from './Block';
import { uploadAll, uploadSome } from './upload';

/** Under the colours of distortion: nothing of the props' own. */
const PLAIN = new MeshStandardMaterial({ roughness: 0.9, side: DoubleSide });

/** What a batch is drawn from. */
export interface Drawing {
  arrangement: string;
  result: ServedArrangement;
  batch: DrawBatch;
  drawn: DrawnMesh;
  /** Whether sheets are coloured by distortion. */
  distortion: boolean;
}

/** One batch on the screen: blocks of instances, their matrices straight from the worker. */
export class DrawnBatch {
  blocks: Block[] = [];
  /** The greatest size factor in each block. */
  sizes: ArrayLike<number> = [];
  private now: Drawing | null = null;

  constructor(private group: Group) {}

  get count(): number {
    return this.now?.batch.rows.length ?? 0;
  }

  /** @returns whether anything has to be drawn anew */
  draw(next: Drawing): boolean {
    const { now } = this;
    const same = now?.drawn === next.drawn && now.distortion === next.distortion;
    if (same && now.result === next.result) return false;
    const few = now && same ? fewChanged(now.batch, next.batch) : null;
    if (few) this.rewrite(next, few);
    else if (next.batch.blocks) this.build(next);
    else this.fill(next);
    if (now && now.drawn !== next.drawn) releaseShape(now.drawn);
    const { slot } = next.result.placements;
    this.blocks.forEach((block, b) => {
      const { rows, within } = next.batch;
      const pick: InstancePick = (i) => ({
        arrangement: next.arrangement,
        slot: slot[rows[b * BLOCK + i]],
        ...(within && { inside: within[b * BLOCK + i] }),
      });
      block.full.userData = { pick };
    });
    this.now = next;
    return true;
  }

  dispose(): void {
    for (const block of this.blocks) block.dispose();
    if (this.now) releaseShape(this.now.drawn);
  }

  /** Many: each block reads its part of the batch's own arrays. */
  private build(next: Drawing): void {
    const { batch } = next;
    for (const block of this.blocks) block.dispose();
    const geometry = geometryOf(next);
    const tints = tintsOf(next);
    const { boxes, sizes } = batch.blocks!;
    this.sizes = sizes;
    this.blocks = Array.from(sizes, (size, b) => {
      const [from, to] = [b * BLOCK, Math.min(batch.rows.length, (b + 1) * BLOCK)];
      const mesh = new InstancedMesh(geometry, materialsOf(next), 0);
      mesh.instanceMatrix = new InstancedBufferAttribute(batch.matrices.subarray(from * 16, to * 16), 16);
      if (tints) mesh.instanceColor = new InstancedBufferAttribute(tints.subarray(from * 3, to * 3), 3);
      mesh.count = to - from;
      mesh.castShadow = mesh.receiveShadow = true;
      setBounds(mesh, boxes.subarray(b * 6, b * 6 + 6), size);
      return new Block(this.group, mesh, next.drawn);
    });
  }

  /** Few: one block, whose arrays have room and are written over. */
  private fill(next: Drawing): void {
    const { batch, drawn } = next;
    const count = batch.rows.length;
    const have = this.blocks.length === 1 && !this.now!.batch.blocks ? this.blocks[0].full : undefined;
    let mesh = have;
    if (!mesh || this.now!.drawn !== drawn || mesh.instanceMatrix.count < count) {
      for (const block of this.blocks) block.dispose();
      const room = have ? Math.ceil(count * 1.5) : count;
      mesh = new InstancedMesh(geometryOf(next), drawn.materials, room);
      mesh.instanceMatrix = new InstancedBufferAttribute(new Float32Array(room * 16), 16);
      mesh.instanceMatrix.setUsage(DynamicDrawUsage);
      mesh.castShadow = mesh.receiveShadow = true;
      this.blocks = [new Block(this.group, mesh, drawn)];
    } else this.blocks[0].changed();
    (mesh.instanceMatrix.array as Float32Array).set(batch.matrices);
    uploadAll(mesh.instanceMatrix);
    mesh.material = materialsOf(next);
    tint(mesh, tintsOf(next));
    mesh.count = count;
    mesh.computeBoundingSphere();
    mesh.computeBoundingBox();
    this.sizes = [largest(batch.matrices, 0, batch.rows.length)];
  }

  /** Writes a few instances anew; only they go to the graphics card. */
  private rewrite({ batch }: Drawing, instances: number[]): void {
    for (const i of instances) {
      const block = this.blocks[Math.floor(i / BLOCK)];
      const { instanceMatrix } = block.full;
      const o = (i % BLOCK) * 16;
      // Blocks of many read the batch's own array, which has been written already.
      if (!batch.blocks)
        (instanceMatrix.array as Float32Array).set(batch.matrices.subarray(i * 16, (i + 1) * 16), o);
      uploadSome(instanceMatrix, o, 16);
      reach(block.full, i % BLOCK);
      block.changed();
      if (batch.tints && block.full.instanceColor) {
        const { instanceColor } = block.full;
        if (!batch.blocks)
          (instanceColor.array as Float32Array).set(batch.tints.subarray(i * 3, i * 3 + 3), (i % BLOCK) * 3);
        instanceColor.needsUpdate = true;
      }
    }
    if (!batch.blocks) this.sizes = [largest(batch.matrices, 0, batch.rows.length)];
  }
}

const geometryOf = ({ batch, drawn }: Drawing): BufferGeometry =>
  batch.mirrored ? mirroredGeometry(drawn) : drawn.geometry;

const isColored = ({ distortion, result }: Drawing): boolean => distortion && result.sheet !== undefined;

const materialsOf = (next: Drawing): Material | Material[] =>
  isColored(next) ? PLAIN : next.drawn.materials;

/** The instances that changed since a batch was drawn; null where that is not known. */
function fewChanged(drawn: DrawBatch, { matrices, changed }: DrawBatch): number[] | null {
  const next = drawn.matrices === matrices && changed?.times === (drawn.changed?.times ?? 0) + 1;
  return next ? changed.instances : null;
}

const sphere = new Sphere();
const box = new Box3();
const matrix = new Matrix4();

/** Lets the bounds of all instances hold one that changed: they may be wider than need be, never too narrow. */
function reach(mesh: InstancedMesh, i: number): void {
  const { geometry } = mesh;
  if (!geometry.boundingSphere) geometry.computeBoundingSphere();
  if (!geometry.boundingBox) geometry.computeBoundingBox();
  mesh.getMatrixAt(i, matrix);
  mesh.boundingSphere!.union(sphere.copy(geometry.boundingSphere!).applyMatrix4(matrix));
  mesh.boundingBox!.union(box.copy(geometry.boundingBox!).applyMatrix4(matrix));
}

/** Bounds of instances by those of their feet, and the greatest size factor. */
function setBounds(mesh: InstancedMesh, feet: Float32Array, size: number): void {
  const { geometry } = mesh;
  if (!geometry.boundingSphere) geometry.computeBoundingSphere();
  const { center, radius } = geometry.boundingSphere!;
  const away = (center.length() + radius) * size;
  mesh.boundingBox = new Box3(
    new Vector3().fromArray(feet, 0).subScalar(away),
    new Vector3().fromArray(feet, 3).addScalar(away),
  );
  mesh.boundingSphere = mesh.boundingBox.getBoundingSphere(new Sphere());
}

/** Colours of the instances: of a sheet those of its distortion, where that is shown. */
function tintsOf(next: Drawing): Float32Array | undefined {
  const { batch, result } = next;
  if (!isColored(next)) return batch.tints;
  const { distortion } = result.sheet!;
  const tints = new Float32Array(batch.rows.length * 3);
  batch.rows.forEach((row, i) => {
    const rgb = distortionRgb(distortion[row * 2], distortion[row * 2 + 1]);
    tints.set(
      rgb.map((v) => linear(v / 255)),
      i * 3,
    );
  });
  return tints;
}

/** Colours instances; a mesh that had some and has none any more is white again. */
function tint(mesh: InstancedMesh, tints: Float32Array | undefined): void {
  if (!tints && !mesh.instanceColor) return;
  const room = mesh.instanceMatrix.count * 3;
  if (mesh.instanceColor?.array.length !== room) {
    mesh.instanceColor = new InstancedBufferAttribute(new Float32Array(room).fill(1), 3);
    // A material that was compiled without colours of its instances is compiled anew.
    for (const m of [mesh.material].flat() as Material[]) m.needsUpdate = true;
  }
  const array = mesh.instanceColor.array as Float32Array;
  if (tints) array.set(tints);
  else array.fill(1);
  mesh.instanceColor.needsUpdate = true;
}
