import type { Vec3 } from '@/core/math/vec3';
import type { TreeNews } from './sharedTrees';

/** A job that others are asked to share: its numbers are in memory that both sides see, its trees are named. */
export interface Asked {
  news: TreeNews;
  grounds: number[];
  things: { tree: number; base: readonly Vec3[]; reach: number }[];
  tilts: boolean;
  rows: number;
  given: Float64Array;
  found: Float64Array;
  claims: SharedArrayBuffer;
}
