import { MAX_ROWS, slotId } from '../slotId';
import type { SheetGrid, Skip } from './schema';
import type { SheetMap } from './map';

/** Places of a layout: of each its slot, which row and column it is, and where it lies. */
export interface Cells {
  count: number;
  slot: Float64Array;
  row: Int32Array;
  column: Int32Array;
  /** Shares across and up. */
  a: Float64Array;
  b: Float64Array;
  /** Layout metres from the lower left corner. */
  x: Float64Array;
  y: Float64Array;
  /** Layout metres that it has for itself. */
  width: Float64Array;
  height: Float64Array;
  skipped: Uint8Array;
}

/** So many places, with nothing said of any yet. */
export function newCells(count: number): Cells {
  const numbers = () => new Float64Array(count);
  return {
    count,
    slot: numbers(),
    row: new Int32Array(count),
    column: new Int32Array(count),
    a: numbers(),
    b: numbers(),
    x: numbers(),
    y: numbers(),
    width: numbers(),
    height: numbers(),
    skipped: new Uint8Array(count),
  };
}

const COLUMNS = [
  'slot',
  'row',
  'column',
  'a',
  'b',
  'x',
  'y',
  'width',
  'height',
  'skipped',
] as const satisfies (keyof Cells)[];

/** A copy of the first of them, with room for so many. */
export function copiedCells(of: Cells, count: number): Cells {
  const out = newCells(count);
  const n = Math.min(count, of.count);
  for (const name of COLUMNS) out[name].set(of[name].subarray(0, n));
  return out;
}

/** The same places in another order. */
function ordered(cells: Cells, compare: (i: number, j: number) => number): Cells {
  const order = Uint32Array.from({ length: cells.count }, (_, i) => i).sort(compare);
  const out = newCells(cells.count);
  for (const name of COLUMNS) order.forEach((from, i) => (out[name][i] = cells[name][from]));
  return out;
}

/** What of a grid could not be laid out. */
export type CellsProblem = 'sheet-no-columns' | 'sheet-no-room' | 'too-many-slots';

/** More than this are refused rather than freezing anything. */
const MOST = 500_000;

/** Whether the n-th (from 1) is one of those skipped. */
function isSkipped(skip: Skip, n: number): boolean {
  if (!skip) return false;
  const hit = n >= skip.from && (n - skip.from) % skip.every === 0;
  return hit !== skip.keep;
}

/**
 * The places of a grid, in the order in which the props go round. Rows lie one above the other, each even by its own
 * length; round a closed surface the last is as far from the first as from its other neighbour.
 * @param own layout metres that a prop takes, across and up: what columns and rows come from where they are not set
 */
export function cellsOf(grid: SheetGrid, map: SheetMap, own: [number, number]): Cells | CellsProblem {
  if (!grid.on) return newCells(0);
  const { left, right, bottom, top, stagger } = grid;
  if ((grid.columns !== null && grid.columns < 1) || (grid.rows !== null && grid.rows < 1))
    return 'sheet-no-columns';
  const tall = map.height - bottom - top;
  const wide = map.width - left - right;
  if (!(tall > 0 && wide > 0)) return 'sheet-no-room';
  const columns = grid.columns ?? Math.max(1, Math.round(wide / own[0]));
  const pitch = wide / columns;
  // Six neighbours equally far away: rows as far apart as a triangle of equal sides is high.
  const triangle = (pitch * Math.sqrt(3)) / 2;
  const exact = stagger === 'hex' && grid.rows === null && !map.closedUp;
  const rise = stagger === 'hex' ? triangle : own[1];
  const rows = grid.rows ?? Math.max(1, exact ? Math.floor(tall / rise + 1e-9) : Math.round(tall / rise));
  if (columns * rows > MOST) return 'too-many-slots';
  const height = exact ? rise : tall / rows;
  // What they leave over is shared by both ends.
  const first = bottom + (tall - rows * height) / 2;
  const shift = stagger === 'hex' ? 0.5 : grid.shift;
  const out = newCells(columns * rows);
  let count = 0;
  for (let j = 0; j < rows; j++) {
    const y = first + (j + 0.5) * height;
    const moved = (stagger === 'brick' || stagger === 'hex') && j % 2 === 1 ? shift : 0;
    lay(j, y, moved);
  }
  const laid = count === out.count ? out : copiedCells(out, count);
  const { row, column } = laid;
  // Half dropped, the columns of a row are laid in two turns.
  const [outer, inner] = grid.order === 'up' ? [column, row] : [row, column];
  const isInOrder = grid.order !== 'up' && stagger !== 'drop';
  const cells = isInOrder
    ? laid
    : ordered(laid, (i, j) => outer[i] - outer[j] || inner[i] - inner[j] || i - j);
  if (grid.skipCells)
    for (let i = 0; i < count; i++) if (isSkipped(grid.skipCells, i + 1)) cells.skipped[i] = 1;
  return cells;

  /** Lays one row; with half drop its second columns lie higher, in a row of their own. */
  function lay(j: number, y: number, moved: number): void {
    for (const odd of stagger === 'drop' ? [0, 1] : [-1]) {
      const level = y + (odd === 1 ? shift * height : 0);
      // What is moved half over the top has no room; closed it comes round.
      if (odd === 1 && !map.closedUp && level > map.height - top - 1e-9) continue;
      const b = map.up(level);
      const row = map.row(b);
      // Around, a row goes on into itself: margins would open it.
      const whole = map.closedAcross && left === 0 && right === 0;
      const used = Math.min(map.width, row.width) - left - right;
      if (!(used > 0)) continue;
      const n = grid.follow ? Math.max(1, Math.round(used / pitch)) : columns;
      const from = left + Math.max(0, -row.start);
      const rowSkipped = isSkipped(grid.skipRows, j + 1);
      // Slots of a row are numbered through.
      const lowest = slotId(1, j % MAX_ROWS, Math.floor(j / MAX_ROWS));
      for (let i = 0; i < n; i++) {
        if (odd >= 0 && i % 2 !== odd) continue;
        const t = (i + 0.5 + moved) / n;
        // Half a cell past the end of an open row there is no room.
        if (t > 1 - 1e-9 && !whole) continue;
        const x = from + t * used;
        out.slot[count] = lowest + i;
        out.row[count] = j;
        out.column[count] = i;
        out.a[count] = row.share(x);
        out.b[count] = b;
        out.x[count] = row.start + x;
        out.y[count] = level;
        out.width[count] = used / n;
        out.height[count] = height;
        out.skipped[count] = rowSkipped || isSkipped(grid.skipColumns, i + 1) ? 1 : 0;
        count++;
      }
    }
  }
}
