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
}

type Column = { [i: number]: number; length: number };

/** Copies rows of placements. @param from, to which row of one becomes which of the other; absent: one after the other */
function copyRows(
  source: Placements,
  out: Placements,
  count: number,
  from?: Uint32Array,
  to?: Uint32Array,
): void {
  const columns = COLUMNS.map(([name, size]) => [source[name], out[name], size] as [Column, Column, number]);
  if (source.tint) columns.push([source.tint, (out.tint ??= new Float32Array(out.count * 3)), 3]);
  for (const [a, b, size] of columns)
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
  const { all, done } = remembered<Known>(
    [list, props, stand, variation, brushed],
    JSON.stringify(['settled', seed, ids, masks]),
    () => ({ all: allocatePlacements(list.count, ids), done: new Uint8Array(list.count) }),
  );
  const due = rows.filter((row) => !done[row]);
  if (due.length > 0) {
    copyRows(settle(list.only(due), due), all, due.length, undefined, due);
    for (const row of due) done[row] = 1;
  }
  const out = allocatePlacements(rows.length, ids);
  copyRows(all, out, rows.length, rows);
  return out;
}
