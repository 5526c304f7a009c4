import { COLUMNS } from '../columns';
import { allocatePlacements, type Placements } from '../result';
import type { MaskPlaces } from '../../mesh/mask/places';
import { keepSettledRows, withRowsAgain } from '../settledRows';
import { dirtyPlaces, type StandsBy } from './dirty';
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

/** All places of a list, settled as far as they were asked for; and those of them that were asked for last. */
interface Known {
  all: Placements;
  done: Uint8Array;
  by: StandsBy;
  last: { rows: Uint32Array; out: Placements } | null;
}

/**
 * Marks the places that what they stand by has changed for, to be settled anew.
 * @returns those of them that had been settled, rising
 */
function letGo(known: Known, by: StandsBy, reads: MaskPlaces | undefined): Uint32Array {
  const { done } = known;
  const dirty = reads ? dirtyPlaces(known.by, by, reads) : new Set<number>();
  const gone: number[] = [];
  for (const i of dirty ?? done.keys()) if (done[i]) gone.push(i);
  for (const i of gone) done[i] = 0;
  known.by = by;
  return Uint32Array.from(gone).sort();
}

/** Rows that are copied: to which row of one which of the other becomes; absent: one after the other. */
interface Way {
  count: number;
  from?: Uint32Array;
  to?: Uint32Array;
}

type Column = Float64Array | Int32Array | Uint8Array | Float32Array;

/** The lists of two placements beside each other, and how many numbers a row has in them. */
function columnsOf(from: Placements, to: Placements): [Column, Column, size: number][] {
  const columns = COLUMNS.map(([name, size]): [Column, Column, number] => [from[name], to[name], size]);
  if (from.tint) columns.push([from.tint, (to.tint ??= new Float32Array(to.count * 3)), 3]);
  return columns;
}

/** Copies rows of placements. */
function copyRows(source: Placements, out: Placements, way: Way): void {
  for (const [a, b, size] of columnsOf(source, out))
    if (a instanceof Float64Array) copyFloats(a, b as Float64Array, size, way);
    else copyColumn(a, b, size, way);
}

function copyColumn(a: Column, b: Column, size: number, { count, from, to }: Way): void {
  for (let i = 0; i < count; i++)
    for (let k = 0, p = (from ? from[i] : i) * size, q = (to ? to[i] : i) * size; k < size; k++)
      b[q++] = a[p++];
}

/** The same of nearly all that there is: one kind of list alone is read several times as fast. */
function copyFloats(a: Float64Array, b: Float64Array, size: number, { count, from, to }: Way): void {
  for (let i = 0; i < count; i++)
    for (let k = 0, p = (from ? from[i] : i) * size, q = (to ? to[i] : i) * size; k < size; k++)
      b[q++] = a[p++];
}

/** Where some of the places are among the rows, both rising. */
function places(some: Uint32Array, rows: Uint32Array): Required<Way> {
  const [from, to] = [new Uint32Array(some.length), new Uint32Array(some.length)];
  let count = 0;
  for (let k = 0, i = 0; k < some.length && i < rows.length; k++) {
    while (i < rows.length && rows[i] < some[k]) i++;
    if (rows[i] !== some[k]) continue;
    from[count] = some[k];
    to[count++] = i;
  }
  return { count, from, to };
}

/** Those of the rows that are not marked. */
function notIn(done: Uint8Array, rows: Uint32Array): Uint32Array {
  let count = 0;
  for (let i = 0; i < rows.length; i++) count += 1 - done[rows[i]];
  const out = new Uint32Array(count);
  for (let i = 0, n = 0; n < count; i++) if (!done[rows[i]]) out[n++] = rows[i];
  return out;
}

/** Shorter stretches are copied row by row. */
const LONG = 8;

/**
 * Copies rows, where they follow each other as they did the last time from there: what follows each other in memory is
 * copied at once.
 */
function copyStretches(
  last: NonNullable<Known['last']>,
  all: Placements,
  rows: Uint32Array,
  out: Placements,
) {
  const was = last.rows;
  const columns = columnsOf(last.out, out);
  const rest = { count: 0, from: new Uint32Array(rows.length), to: new Uint32Array(rows.length) };
  for (let i = 0, j = 0; i < rows.length;) {
    while (j < was.length && was[j] < rows[i]) j++;
    let n = 0;
    while (i + n < rows.length && j + n < was.length && rows[i + n] === was[j + n]) n++;
    if (n >= LONG) for (const [a, b, size] of columns) b.set(a.subarray(j * size, (j + n) * size), i * size);
    else
      for (let k = 0; k < Math.max(1, n); k++) {
        rest.from[rest.count] = rows[i + k];
        rest.to[rest.count++] = i + k;
      }
    i += Math.max(1, n);
    j += n;
  }
  copyRows(all, out, rest);
}

/**
 * The placements of some places of a list.
 * @param rows which, rising @param by what they stand by beside the scatter's settings
 * @param reads all places, where masks or the brush are read @param settle settles a list of those rows
 */
export function settledOnce(
  scatter: Scatter,
  list: SiteList,
  rows: Uint32Array,
  ids: string[],
  by: StandsBy,
  reads: MaskPlaces | undefined,
  settle: (some: SiteList, rows: Uint32Array) => Placements,
): Placements {
  const { id, props, stand, variation, seed } = scatter;
  const masked = by.values.map((v) => v !== null);
  const known = remembered<Known>(
    [list, props, stand, variation],
    // Another scatter of the same settings may be painted otherwise.
    JSON.stringify(['settled', id, seed, ids, masked, by.brushed.length > 0]),
    () => ({ all: allocatePlacements(list.count, ids), done: new Uint8Array(list.count), by, last: null }),
  );
  const again = letGo(known, by, reads);
  if (again.length > 0) known.all = withRowsAgain(known.all, again);
  const { all, done } = known;
  const due = notIn(done, rows);
  if (due.length > 0) {
    copyRows(settle(list.only(due), due), all, { count: due.length, to: due });
    for (const row of due) done[row] = 1;
  }
  const out = allocatePlacements(rows.length, ids);
  if (known.last) {
    copyStretches(known.last, all, rows, out);
    copyRows(all, out, places(again, rows));
  } else copyRows(all, out, { count: rows.length, from: rows });
  known.last = { rows, out };
  keepSettledRows(out, { of: all, rows });
  return out;
}
