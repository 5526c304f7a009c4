import type { Placements, SheetLayout } from '../result';
import type { Cells } from './cells';
import { newAt, type SheetMap } from './map';
import type { SheetMatch } from './schema';

/** Rows of the outline, and places along a side of the border. */
const ROWS = 96;
const SIDE = 48;

/** The flat layout of a sheet, for its flat view, and its border in the scene. */
export function layoutOf(
  map: SheetMap,
  { flipU, flipV, swap, otherSide }: SheetMatch,
  cells: Cells,
  out: Placements,
  distortion: Float32Array,
): Omit<SheetLayout, 'lines'> {
  const outline = new Float64Array((ROWS + 1) * 3);
  for (let k = 0; k <= ROWS; k++) {
    const y = (map.height * k) / ROWS;
    const b = map.up(y);
    const inside = map.closedUp || (b >= -1e-9 && b <= 1 + 1e-9);
    const [start, width] = map.extent(b);
    outline.set([y, start, inside ? width : 0], k * 3);
  }
  const at = new Float64Array(out.count * 2);
  const cell = new Float64Array(out.count * 2);
  for (let i = 0; i < cells.count; i++) {
    at[i * 2] = cells.x[i];
    at[i * 2 + 1] = cells.y[i];
    cell[i * 2] = cells.width[i];
    cell[i * 2 + 1] = cells.height[i];
  }
  const { width, height, closedAcross, closedUp } = map;
  const match = { flipU, flipV, swap, otherSide };
  return { width, height, closedAcross, closedUp, match, outline, at, cell, distortion, ...borderOf(map) };
}

/** The border of the layout as it lies in the scene: where its rows begin and end. */
function borderOf(map: SheetMap): { border: Float64Array; corner: Float64Array } {
  const here = newAt();
  const points: number[] = [];
  const inside = (t: number) => Math.min(1, Math.max(0, t));
  /** The place at a share of the way along the row at a height. */
  const put = (t: number, y: number): number[] | null => {
    const b = map.closedUp ? map.up(y) : inside(map.up(y));
    const row = map.row(b);
    const from = Math.max(0, row.start);
    const to = Math.min(map.width, row.start + row.width);
    // A hair before the end: round a closed surface both ends are one place.
    const x = from + (to - from) * Math.min(t, 1 - 1e-9) - row.start;
    const a = row.share(x);
    return map.at(map.closedAcross ? a : inside(a), b, here) ? [here[0], here[1], here[2]] : null;
  };
  const { height } = map;
  const sides: ((t: number) => [number, number])[] = [
    (t) => [t, 0],
    (t) => [1, t * height],
    (t) => [1 - t, height],
    (t) => [0, (1 - t) * height],
  ];
  for (const side of sides)
    for (let k = 0; k <= SIDE; k++) {
      const p = put(...side(k / SIDE));
      if (p) points.push(...p);
    }
  const origin = put(0, 0);
  const across = put(0.06, 0);
  const up = put(0, height * 0.06);
  return {
    border: Float64Array.from(points),
    corner: origin && across && up ? Float64Array.of(...origin, ...across, ...up) : new Float64Array(0),
  };
}
