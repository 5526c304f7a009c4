import type { StockLayout } from '@/core/arrange/result';
import { STATE, type Placements } from '@/core/arrange/result';
import type { Look } from '../../../flat/look';

/** Shelves as one sees them in a shop, or each from above: where everything is in pixels, and what is at one. */

export type View = 'front' | 'above';

/** A shelf in the flat view, pixels. */
interface ShownShelf {
  /** Left end and the line of the board (from above: its front edge). */
  x: number;
  y: number;
  /** How far up it reaches. */
  tall: number;
  wide: number;
}

export interface Shop {
  /** Pixels a metre. */
  k: number;
  view: View;
  shelves: ShownShelf[];
}

/** Pixels about it all, and for the rail with numbers under each board. */
const AIR = 18;
export const RAIL = 13;
/** Metres between racks, and between boards seen from above. */
const BETWEEN = 0.35;
const UNDER = 0.12;
/** Shelves within this height are one row. */
const SAME = 0.02;

/** How high an open shelf is drawn: a little over what stands on it. */
function heightOf({ shelves, facings, box }: StockLayout, shelf: number): number {
  const { height } = shelves[shelf];
  if (Number.isFinite(height)) return height;
  let top = 0.2;
  for (const f of facings)
    if (f.shelf === shelf) for (let i = f.start; i < f.end; i++) top = Math.max(top, box[i * 6 + 3]);
  return top * 1.1;
}

interface Placed {
  x: number;
  y: number;
  tall: number;
  wide: number;
}

/**
 * Shelves in metres: racks side by side, their boards as high as they are; from above, one behind the other.
 * @param columns over how many columns the boards of each are spread, the lowest in the first: 1 is as they stand
 */
function inMetres(layout: StockLayout, view: View, columns: number): Placed[] {
  const { shelves } = layout;
  const places: Placed[] = [];
  let left = 0;
  for (const part of [...new Set(shelves.map((s) => s.part))]) {
    const own = shelves.flatMap((s, i) => (s.part === part ? [i] : []));
    const rows: number[][] = [];
    for (const i of [...own].sort((a, b) => shelves[a].at[1] - shelves[b].at[1])) {
      const row = rows.at(-1);
      if (row && Math.abs(shelves[row[0]].at[1] - shelves[i].at[1]) <= SAME) row.push(i);
      else rows.push([i]);
    }
    const each = Math.ceil(rows.length / columns);
    for (let from = 0; from < rows.length; from += each) {
      const column = rows.slice(from, from + each);
      const floor = shelves[column[0][0]].at[1];
      let [wide, up] = [0, 0];
      for (const row of column) {
        let x = left;
        let deepest = 0;
        for (const i of row) {
          const tall = view === 'front' ? heightOf(layout, i) : shelves[i].depth;
          const y = view === 'front' ? shelves[i].at[1] - floor : up;
          places[i] = { x, y, tall, wide: shelves[i].length };
          x += shelves[i].length + UNDER;
          deepest = Math.max(deepest, tall);
        }
        up += deepest + UNDER;
        wide = Math.max(wide, x - UNDER - left);
      }
      left += wide + BETWEEN;
    }
  }
  return places;
}

/** Pixels a metre at which all of it is seen. */
function scaleOf(places: Placed[], size: { width: number; height: number }) {
  const width = Math.max(0.1, ...places.map((p) => p.x + p.wide));
  const height = Math.max(0.1, ...places.map((p) => p.y + p.tall));
  const k = Math.min(600, (size.width - 2 * AIR) / width, (size.height - 2 * AIR - RAIL) / height);
  return { width, height, k: Math.max(1e-3, k) };
}

/** Boards are spread over columns where that shows them so much larger. */
const WORTH = 1.35;

/** The shelves of a layout in so many pixels. */
export function shopOf(
  layout: StockLayout,
  view: View,
  size: { width: number; height: number },
  look: Look,
): Shop {
  let places = inMetres(layout, view, 1);
  let fit = scaleOf(places, size);
  for (let columns = 2; columns <= 6; columns++) {
    const spread = inMetres(layout, view, columns);
    const other = scaleOf(spread, size);
    if (other.k > fit.k * WORTH) [places, fit] = [spread, other];
  }
  const { width, height } = fit;
  const k = fit.k * look.zoom;
  const x0 = size.width / 2 - look.x * look.zoom - (width * k) / 2;
  const y0 = size.height / 2 - look.y * look.zoom + (height * k) / 2 - RAIL / 2;
  return {
    k,
    view,
    shelves: places.map((p) => ({ x: x0 + p.x * k, y: y0 - p.y * k, tall: p.tall * k, wide: p.wide * k })),
  };
}

/** The box of a row in pixels: left, top, width, height. */
export function boxAt(
  { k, view, shelves }: Shop,
  box: Float32Array,
  shelf: number,
  i: number,
): [number, number, number, number] {
  const { x, y } = shelves[shelf];
  const b = i * 6;
  const [up0, up1] = view === 'front' ? [box[b + 2], box[b + 3]] : [-box[b + 5], -box[b + 4]];
  return [x + box[b] * k, y - up1 * k, (box[b + 1] - box[b]) * k, (up1 - up0) * k];
}

/** The facing at a pixel; -1 for none. What is over or under it on its shelf counts. */
export function facingAt({ facings }: StockLayout, { k, shelves }: Shop, px: number, py: number): number {
  for (let f = 0; f < facings.length; f++) {
    const { shelf, x0, x1 } = facings[f];
    const { x, y, tall } = shelves[shelf];
    if (px >= x + x0 * k && px <= x + x1 * k && py <= y + RAIL && py >= y - tall) return f;
  }
  return -1;
}

/** Between which two groups of a shelf a pixel is: the facing on the left of that; -1 for none. */
export function boundaryAt(
  { facings }: StockLayout,
  { k, shelves }: Shop,
  px: number,
  py: number,
  reach: number,
): number {
  for (let f = 0; f + 1 < facings.length; f++) {
    const [a, b] = [facings[f], facings[f + 1]];
    if (a.shelf !== b.shelf || a.prop === b.prop) continue;
    const { x, y, tall } = shelves[a.shelf];
    const at = x + ((a.x1 + b.x0) / 2) * k;
    if (Math.abs(px - at) <= reach && py <= y + RAIL && py >= y - tall) return f;
  }
  return -1;
}

/** The unit of a facing that one sees at a pixel: the frontmost placed one there, else the frontmost gap; -1 for none. */
export function unitAt(
  layout: StockLayout,
  shop: Shop,
  { state }: Placements,
  facing: number,
  px: number,
  py: number,
): number {
  const f = layout.facings[facing];
  let gap = -1;
  // From above one sees what is on top, so the last of a stack.
  const rows = Array.from({ length: f.end - f.start }, (_, n) =>
    shop.view === 'front' ? f.start + n : f.end - 1 - n,
  );
  for (const i of rows) {
    const [x, y, w, h] = boxAt(shop, layout.box, f.shelf, i);
    if (px < x || px > x + w || py < y || py > y + h) continue;
    if (state[i] === STATE.placed) return i;
    if (gap < 0) gap = i;
  }
  return gap;
}

/** The unit that a key takes away from a facing: the highest of the frontmost stack; or brings back, if all are gone. */
export function nextUnit(
  { facings }: StockLayout,
  { state }: Placements,
  facing: number,
  box: Float32Array,
): number {
  const f = facings[facing];
  let best = -1;
  for (let i = f.start; i < f.end; i++) {
    if (state[i] !== STATE.placed) continue;
    const sameRow = best >= 0 && Math.abs(box[i * 6 + 5] - box[best * 6 + 5]) < 1e-6;
    if (best < 0 || (sameRow && box[i * 6 + 3] > box[best * 6 + 3])) best = i;
  }
  return best >= 0 ? best : f.start;
}

/** How many units of a facing stand there. */
export function unitsOf({ start, end }: StockLayout['facings'][number], { state }: Placements): number {
  let count = 0;
  for (let i = start; i < end; i++) if (state[i] === STATE.placed) count++;
  return count;
}
