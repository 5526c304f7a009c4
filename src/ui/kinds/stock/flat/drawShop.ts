import type { StockLayout } from '@/core/arrange/result';
import { STATE, type Placements } from '@/core/arrange/result';
import { boxAt, RAIL, unitsOf, type Shop } from './shop';

interface Drawn {
  layout: StockLayout;
  shop: Shop;
  placements: Placements;
  /** The colour of each prop, and its name. */
  colors: readonly string[];
  names: readonly string[];
  /** Facings by their place in the layout; -1 for none. */
  hovered: number;
  chosen: number;
  /** Where a dragged facing would come to: pixels, and how high. */
  goes: { x: number; y: number; tall: number } | null;
  slots: ReadonlySet<number>;
  inks: { text: string; soft: string; edge: string; card: string; groove: string };
}

const NUMBERS = '10.5px "Atkinson Hyperlegible Mono Variable", monospace';
/** Names are written in facings that are at least so wide, numbers on rails of those; pixels. */
const NAMED = 46;
const NUMBERED = 11;

/** Draws shelves: what stands behind first, over it what is before it; on the rail how deep each facing is. */
export function drawShop(paint: CanvasRenderingContext2D, drawn: Drawn): void {
  const { layout, shop, inks } = drawn;
  shop.shelves.forEach(({ x, y, tall, wide }, shelf) => {
    paint.fillStyle = inks.groove;
    paint.fillRect(x, y - tall, wide, tall);
    paint.fillStyle = inks.edge;
    paint.fillRect(x - 3, y, wide + 6, RAIL);
    // Which board it is, from below.
    paint.font = NUMBERS;
    paint.textAlign = 'right';
    paint.fillStyle = inks.soft;
    paint.fillText(`${layout.shelves[shelf].board + 1}`, x - 6, y + RAIL - 3);
  });
  layout.facings.forEach((_, f) => drawFacing(paint, drawn, f));
  if (drawn.goes) {
    const { x, y, tall } = drawn.goes;
    paint.fillStyle = inks.text;
    paint.fillRect(x - 1.5, y - tall, 3, tall + RAIL);
  }
}

function drawFacing(paint: CanvasRenderingContext2D, drawn: Drawn, f: number): void {
  const { layout, shop, placements: p, colors, names, inks } = drawn;
  const facing = layout.facings[f];
  const { x, y, tall } = shop.shelves[facing.shelf];
  const [left, right] = [x + facing.x0 * shop.k, x + facing.x1 * shop.k];
  const units = facing.prop < 0 ? 0 : unitsOf(facing, p);
  let top = y;
  const front = shop.view === 'front';
  for (let n = facing.end - facing.start - 1; n >= 0; n--) {
    const i = front ? facing.start + n : facing.end - 1 - n;
    if (p.state[i] !== STATE.placed) continue;
    const [bx, by, w, h] = boxAt(shop, layout.box, facing.shelf, i);
    paint.fillStyle = colors[p.prop[i]] ?? inks.soft;
    paint.globalAlpha = front && Math.abs(layout.box[i * 6 + 5]) > 0.02 ? 0.55 : 1;
    paint.fillRect(bx, by, w, h);
    paint.globalAlpha = 1;
    paint.strokeStyle = drawn.slots.has(p.slot[i]) ? inks.text : inks.card;
    paint.lineWidth = drawn.slots.has(p.slot[i]) ? 2 : w > 5 ? 1 : 0.4;
    paint.strokeRect(bx + 0.5, by + 0.5, Math.max(0, w - 1), Math.max(0, h - 1));
    top = Math.min(top, by);
  }
  paint.font = '11px "Atkinson Hyperlegible Next Variable", sans-serif';
  paint.textAlign = 'center';
  if (units === 0) {
    paint.setLineDash([3, 3]);
    paint.strokeStyle = inks.soft;
    paint.lineWidth = 1;
    const high = Math.min(tall, shop.k * 0.12);
    paint.strokeRect(left + 1.5, y - high, Math.max(1, right - left - 3), high - 1);
    paint.setLineDash([]);
  }
  const middle = (left + right) / 2;
  if (right - left >= NAMED && facing.prop >= 0) {
    paint.fillStyle = inks.soft;
    paint.save();
    paint.beginPath();
    paint.rect(left, y - tall - 20, right - left, tall + 20);
    paint.clip();
    paint.fillText(names[facing.prop], middle, Math.max(y - tall + 11, top - 4));
    paint.restore();
  }
  if (right - left >= NUMBERED) {
    paint.font = NUMBERS;
    paint.fillStyle = inks.text;
    paint.fillText(facing.prop < 0 ? '' : `${facing.deep}`, middle, y + RAIL - 3);
  }
  if (f !== drawn.hovered && f !== drawn.chosen) return;
  paint.strokeStyle = inks.text;
  paint.lineWidth = f === drawn.chosen ? 2 : 1;
  paint.strokeRect(left - 1, y - tall + 1, right - left + 2, tall + RAIL - 2);
}
