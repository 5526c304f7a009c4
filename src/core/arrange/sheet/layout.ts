import type { Placements, SheetLayout } from '../../evaluate/result';
import type { Cell } from './cells';
import { newAt, type SheetMap } from './map';
import type { SheetMatch } from './schema';

/** Rows of the outline, and places along a side of the border. */
const ROWS = 96;
const SIDE = 48;

/** The flat layout of a sheet, for its flat view, and its border in the scene. */
export function layoutOf(
  map: SheetMap,
  { flipU, flipV, swap, otherSide }: SheetMatch,
  cells: Cell[],
  out: Placements,
  distortion: Float32Array,
): SheetLayout {
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
  cells.forEach((c, i) => {
    at[i * 2] = c.x;
    at[i * 2 + 1] = c.y;
    cell[i * 2] = c.width;
    cell[i * 2 + 1] = c.height;
  });
  const { width, height, closedAcross, closedUp } = map;
  const match = { flipU, flipV, swap, otherSide };
  return { width, height, closedAcross, closedUp, match, outline, at, cell, distortion, ...borderOf(map) };
}

/** The border of the layout as it lies in the scene. */
function borderOf(map: SheetMap): { border: Float64Array; corner: Float64Array } {
  const here = newAt();
  const points: number[] = [];
  const put = (x: number, y: number): number[] | null => {
    const clamped = (v: number) => Math.min(1, Math.max(0, v));
    const b = map.closedUp ? map.up(y) : clamped(map.up(y));
    const row = map.row(b);
    const a = map.closedAcross ? row.share(x - row.start) : clamped(row.share(x - row.start));
    // Round a closed surface both ends of a row are one; a hair before the end keeps to its side.
    return map.at(a, b, here) ? [here[0], here[1], here[2]] : null;
  };
  const { width, height } = map;
  const sides: [(t: number) => [number, number], boolean][] = [
    [(t) => [t * width, 0], true],
    [(t) => [width, t * height], !map.closedAcross],
    [(t) => [(1 - t) * width, height], true],
    [(t) => [0, (1 - t) * height], true],
  ];
  for (const [side, drawn] of sides)
    for (let k = 0; k <= SIDE && drawn; k++) {
      const p = put(...side(k / SIDE));
      if (p) points.push(...p);
    }
  const origin = put(0, 0);
  const across = put(width * 0.12, 0);
  const up = put(0, height * 0.12);
  return {
    border: Float64Array.from(points),
    corner: origin && across && up ? Float64Array.of(...origin, ...across, ...up) : new Float64Array(0),
  };
}
