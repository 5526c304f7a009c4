import type { SheetLayout } from '@/core/arrange/result';
import type { Look } from '../../../flat/look';

/** The way from layout metres to pixels of the panel and back. */
export interface Plan {
  /** Pixels a metre. */
  k: number;
  at(x: number, y: number): [number, number];
  back(px: number, py: number): [number, number];
}

/** Clear of the panel's edges, pixels. */
const MARGIN = 18;

export function planOf(layout: SheetLayout, size: { width: number; height: number }, look: Look): Plan {
  const { width, height } = layout;
  const fit = Math.min((size.width - 2 * MARGIN) / width, (size.height - 2 * MARGIN) / height);
  const k = Math.max(1e-3, fit) * look.zoom;
  const [mx, my] = [size.width / 2, size.height / 2];
  return {
    k,
    at: (x, y) => [mx + (x - width / 2 - look.x) * k, my - (y - height / 2 - look.y) * k],
    back: (px, py) => [(px - mx) / k + width / 2 + look.x, (my - py) / k + height / 2 + look.y],
  };
}

/** SVG path data of the layout's outline: rows that are shorter where the surface is. */
export function outlinePath({ outline }: SheetLayout, plan: Plan): string {
  const left: string[] = [];
  const right: string[] = [];
  for (let o = 0; o + 2 < outline.length; o += 3) {
    const [y, start, wide] = [outline[o], outline[o + 1], outline[o + 2]];
    if (!(wide > 0)) continue;
    const [lx, ly] = plan.at(start, y);
    const [rx] = plan.at(start + wide, y);
    left.push(`${lx.toFixed(1)} ${ly.toFixed(1)}`);
    right.push(`${rx.toFixed(1)} ${ly.toFixed(1)}`);
  }
  return left.length ? `M${left.join('L')}L${right.reverse().join('L')}Z` : '';
}
