import type { Placements } from '@/core/arrange/result';
import { STATE } from '@/core/arrange/result';
import type { Look } from '../../../flat/look';

/** The flat view of a scatter: its places from above, or for a volume from any of three sides, in pixels. */

export type Side = 'above' | 'front' | 'side';

/** Which axes go to the right and down, and their signs. */
const AXES: Record<Side, { right: 0 | 2; down: 1 | 2; turned: 1 | -1 }> = {
  above: { right: 0, down: 2, turned: 1 },
  front: { right: 0, down: 1, turned: -1 },
  side: { right: 2, down: 1, turned: -1 },
};

export interface Plan {
  /** Pixels a metre. */
  k: number;
  /** Pixels of a place. */
  x(p: ArrayLike<number>, i: number): number;
  y(p: ArrayLike<number>, i: number): number;
}

/** Air about it, pixels. */
const AIR = 24;

/** How places are put into so many pixels. */
export function planOf(p: Placements, side: Side, size: { width: number; height: number }, look: Look): Plan {
  const { right, down, turned } = AXES[side];
  let [x0, x1, y0, y1] = [Infinity, -Infinity, Infinity, -Infinity];
  for (let i = 0; i < p.count; i++) {
    const [x, y] = [p.position[i * 3 + right], turned * p.position[i * 3 + down]];
    x0 = Math.min(x0, x);
    x1 = Math.max(x1, x);
    y0 = Math.min(y0, y);
    y1 = Math.max(y1, y);
  }
  const whole = Math.min(
    200,
    (size.width - 2 * AIR) / Math.max(0.5, x1 - x0),
    (size.height - 2 * AIR) / Math.max(0.5, y1 - y0),
  );
  const k = Math.max(1e-6, whole) * look.zoom;
  const [cx, cy] = [size.width / 2 - look.x * look.zoom, size.height / 2 - look.y * look.zoom];
  return {
    k,
    x: (q, i) => cx + (q[i * 3 + right] - (x0 + x1) / 2) * k,
    y: (q, i) => cy + (turned * q[i * 3 + down] - (y0 + y1) / 2) * k,
  };
}

/** The row nearest to a pixel within a reach; -1 for none. What is placed goes before gaps in the same place. */
export function rowAt(p: Placements, plan: Plan, x: number, y: number, reach: number): number {
  let best = -1;
  let least = reach * reach;
  for (let i = 0; i < p.count; i++) {
    const [dx, dy] = [plan.x(p.position, i) - x, plan.y(p.position, i) - y];
    const away = dx * dx + dy * dy;
    if (away < least || (away === least && best >= 0 && p.state[best] !== STATE.placed)) {
      best = i;
      least = away;
    }
  }
  return best;
}

/** The rows in a box of pixels. */
export function rowsIn(
  p: Placements,
  plan: Plan,
  [x0, y0, x1, y1]: readonly [number, number, number, number],
): number[] {
  const out: number[] = [];
  const [left, right] = [Math.min(x0, x1), Math.max(x0, x1)];
  const [top, bottom] = [Math.min(y0, y1), Math.max(y0, y1)];
  for (let i = 0; i < p.count; i++) {
    const [x, y] = [plan.x(p.position, i), plan.y(p.position, i)];
    if (x >= left && x <= right && y >= top && y <= bottom) out.push(i);
  }
  return out;
}

/** How far a drag in the plan moves a place: along its front (+Z) and to its right (−X), where it stands as it lies. */
export const nudgeOf = (dx: number, dy: number, k: number): { along: number; side: number } => ({
  along: Number((dy / k).toFixed(4)),
  side: Number((-dx / k).toFixed(4)),
});
