import type { Bvh } from '@/core/mesh/bvh';

/** Bytes of trees that are kept for others, beside those that are asked for. */
const KEPT = 64_000_000;

type Numbers = Float64Array | Uint32Array | Int32Array;

/** A copy in memory that all threads see. */
export function inShared<T extends Numbers>(numbers: T, length = numbers.length): T {
  const Kind = numbers.constructor as new (memory: SharedArrayBuffer) => T;
  const copy = new Kind(new SharedArrayBuffer(length * numbers.BYTES_PER_ELEMENT));
  copy.set(numbers.subarray(0, length));
  return copy;
}

/** What another thread has to be told before it is asked. */
export interface TreeNews {
  /** Trees with the names that they have from now on, and names that nothing has any more. */
  trees: [name: number, tree: Bvh][];
  forget: number[];
}

/**
 * Trees by names, as other threads know them. A tree is another one whenever anything of it is, so that what was copied
 * once is good for as long as it is asked for; of a surface that moves, what of it stays is not copied again.
 */
export class SharedTrees {
  /** Those asked for last come last. */
  private known = new Map<Bvh, { name: number; bytes: number }>();
  private next = 0;
  private copies = new WeakMap<Numbers, Numbers>();

  /** How many bytes would have to be copied before others know these. */
  missing(trees: readonly Bvh[]): number {
    return trees.reduce((sum, tree) => sum + (this.known.has(tree) ? 0 : bytesOf(tree)), 0);
  }

  /** Names trees. What was asked for longest ago is forgotten where all together are too many. */
  name(trees: readonly Bvh[]): { names: number[]; news: TreeNews } {
    const news: TreeNews = { trees: [], forget: [] };
    const asked = new Set(trees);
    const names = trees.map((tree) => {
      const before = this.known.get(tree);
      const entry = before ?? { name: this.next++, bytes: bytesOf(tree) };
      if (!before) news.trees.push([entry.name, this.copyOf(tree)]);
      this.known.delete(tree);
      this.known.set(tree, entry);
      return entry.name;
    });
    let bytes = 0;
    for (const entry of this.known.values()) bytes += entry.bytes;
    for (const [tree, entry] of this.known) {
      if (bytes <= KEPT || asked.has(tree)) break;
      this.known.delete(tree);
      news.forget.push(entry.name);
      bytes -= entry.bytes;
    }
    return { names, news };
  }

  private copyOf(tree: Bvh): Bvh {
    const { nodes } = tree;
    return {
      ...tree,
      positions: inShared(tree.positions),
      bounds: inShared(tree.bounds, nodes * 6),
      indices: this.once(tree.indices, tree.indices.length),
      order: this.once(tree.order, tree.order.length),
      start: this.once(tree.start, nodes),
      count: this.once(tree.count, nodes),
    };
  }

  /** Of numbers that stay what they are, one copy. */
  private once<T extends Numbers>(numbers: T, length: number): T {
    const copy = (this.copies.get(numbers) as T | undefined) ?? inShared(numbers, length);
    this.copies.set(numbers, copy);
    return copy;
  }
}

const bytesOf = ({ positions, indices, order, nodes }: Bvh): number =>
  positions.byteLength + indices.byteLength + order.byteLength + nodes * (6 * 8 + 2 * 4);
