import { orderByPlace } from '../../math/hilbert';
import { COLUMNS } from '../columns';
import { allocatePlacements, type Placements } from '../result';
import { remembered } from './remember';
import type { Scatter } from './schema';
import type { SiteList } from './sites';

/**
 * Places of a scatter that stand by themselves are settled once: a mask that is dragged, or painted, takes some of them
 * in and others out, and those that stay are not settled again.
 */

/** Whether what stands on a place depends on that place alone. */
export const standsAlone = ({ ground, stand, gaps, hand, travel }: Scatter): boolean =>
  !travel?.on &&
  ground.mode === 'none' &&
  stand.heading !== 'target' &&
  gaps.chance === 0 &&
  gaps.taken.share === 0 &&
  gaps.keepOuts.length === 0 &&
  gaps.collide === 'ignore' &&
  Object.keys(hand).length === 0;

/** All places of a list, settled as far as they were asked for. */
interface Known {
  all: Placements;
  done: Uint8Array;
  /** All of the list, near ones behind each other. */
  near: Uint32Array;
}

/** A column as words of four bytes, or of one: whatever its numbers are, it is copied by one loop that is compiled once. */
const words = (column: ArrayBufferView): Uint32Array | Uint8Array => {
  const { buffer, byteOffset, byteLength } = column;
  return column instanceof Uint8Array ? column : new Uint32Array(buffer, byteOffset, byteLength / 4);
};

/** Copies rows of placements. @param from, to which row of one becomes which of the other; absent: one after the other */
function copyRows(
  source: Placements,
  out: Placements,
  count: number,
  from?: Uint32Array,
  to?: Uint32Array,
): void {
  const columns: [ArrayBufferView, ArrayBufferView][] = COLUMNS.map(([name]) => [source[name], out[name]]);
  if (source.tint) columns.push([source.tint, (out.tint ??= new Float32Array(out.count * 3))]);
  for (const [a, b] of columns) {
    const [of, into] = [words(a), words(b)];
    const size = source.count > 0 ? of.length / source.count : 0;
    copyWords(of, into, size, count, from, to);
  }
}

function copyWords(
  a: Uint32Array | Uint8Array,
  b: Uint32Array | Uint8Array,
  size: number,
  count: number,
  from?: Uint32Array,
  to?: Uint32Array,
): void {
  for (let i = 0; i < count; i++) {
    const [p, q] = [(from ? from[i] : i) * size, (to ? to[i] : i) * size];
    for (let k = 0; k < size; k++) b[q + k] = a[p + k];
  }
}

/**
 * The placements of some places of a list.
 * @param rows which, rising @param masks keys of the masks that they are sized and varied by
 * @param settle settles a list of those rows
 */
export function settledOnce(
  scatter: Scatter,
  list: SiteList,
  rows: Uint32Array,
  ids: string[],
  masks: readonly unknown[],
  settle: (some: SiteList, rows: Uint32Array) => Placements,
): Placements {
  const { props, stand, variation, brushed, seed } = scatter;
  const { all, done, near } = remembered<Known>(
    [list, props, stand, variation, brushed],
    JSON.stringify(['settled', seed, ids, masks]),
    () => ({
      all: allocatePlacements(list.count, ids),
      done: new Uint8Array(list.count),
      near: orderByPlace(list.position, list.count),
    }),
  );
  const due = rows.filter((row) => !done[row]);
  if (due.length > 0) {
    copyRows(settle(list.only(due), due), all, due.length, undefined, due);
    for (const row of due) done[row] = 1;
  }
  const out = allocatePlacements(rows.length, ids);
  copyRows(all, out, rows.length, rows);
  out.near = nearAmong(near, rows);
  return out;
}

/** Which of some rows of a list follow each other where all of the list do so. @param rows rising */
function nearAmong(near: Uint32Array, rows: Uint32Array): Uint32Array {
  const at = new Int32Array(near.length).fill(-1);
  for (let i = 0; i < rows.length; i++) at[rows[i]] = i;
  const out = new Uint32Array(rows.length);
  let n = 0;
  for (let k = 0; k < near.length; k++) if (at[near[k]] >= 0) out[n++] = at[near[k]];
  return out;
}
