/** What is drawn how: near things in full, farther ones simply, then as boxes and points, as far as a budget goes. */

export type Level = 'full' | 'simple' | 'boxes' | 'points';

/** Triangles of a box. */
export const OF_BOX = 12;

/** What one frame may draw. */
export interface Budget {
  triangles: number;
  points: number;
}

/** A block of instances as it is seen. */
export interface SeenBlock {
  /** How large what stands in it comes out, pixels; 0 out of view. */
  pixels: number;
  instances: number;
  /** Triangles of an instance, in full and simply. */
  full: number;
  simple: number;
  /** Asked for: nothing but points, or boxes where it is not points. */
  onlyPoints?: boolean;
  asBoxes?: boolean;
}

/** Instances by how they are drawn. */
export interface Drawn {
  full: number;
  simple: number;
  boxes: number;
  points: number;
  /** Of the points, those that are left out. */
  left: number;
}

export interface Plan {
  levels: Level[];
  /** Of the points in view, the share that is drawn. */
  share: number;
  drawn: Drawn;
  /** Triangles of all that is drawn from some. */
  triangles: number;
}

/** Of the triangles, what is kept for boxes at most; of the others, what goes to the nearest things in full. */
const FOR_BOXES = 0.5;
const FOR_FULL = 0.7;
/**
 * A box stands for what has more than so many times its triangles: less, as a tuft of grass, comes out worse as a slab
 * and costs about as much as it is.
 */
const WORTH = 2;
/** A box shows its sides only where it comes out larger than this, pixels. */
const SIDES = 4;

/**
 * Gives each block its level: what comes out largest is drawn in full first. Where all fits everything is drawn in
 * full, however small it comes out. Blocks out of view come last, and cost no points.
 */
export function planFor(blocks: readonly SeenBlock[], budget: Budget): Plan {
  const levels: Level[] = blocks.map(() => 'points');
  const order = blocks.map((_, i) => i).filter((i) => !blocks[i].onlyPoints);
  order.sort((a, b) => blocks[b].pixels - blocks[a].pixels);
  const cost = (i: number, level: 'full' | 'simple' | 'boxes') =>
    blocks[i].instances * (level === 'boxes' ? OF_BOX : blocks[i][level]);
  const all = order.reduce((sum, i) => sum + cost(i, 'full'), 0);
  const isBoxed = (i: number) => blocks[i].pixels >= SIDES && blocks[i].full > WORTH * OF_BOX;
  let used = 0;
  /** Goes as far down the order as the triangles reach; what does not fit ends it, so that nothing nearer is coarser. */
  const take = (from: number, level: 'full' | 'simple' | 'boxes', most: number): number => {
    let n = from;
    for (; n < order.length; n++) {
      if (level === 'boxes' && !isBoxed(order[n])) continue;
      if (used + cost(order[n], level) > most) break;
      used += cost(order[n], level);
      levels[order[n]] = level;
    }
    return n;
  };
  const boxed = order.reduce((sum, i) => sum + (isBoxed(i) ? cost(i, 'boxes') : 0), 0);
  const meshes = budget.triangles - Math.min(boxed, FOR_BOXES * budget.triangles);
  const full = take(0, 'full', all <= budget.triangles ? Infinity : FOR_FULL * meshes);
  const simple = take(full, 'simple', meshes);
  take(simple, 'boxes', budget.triangles);
  const drawn: Drawn = { full: 0, simple: 0, boxes: 0, points: 0, left: 0 };
  let inView = 0;
  levels.forEach((level, i) => {
    drawn[level !== 'points' && blocks[i].asBoxes ? 'boxes' : level] += blocks[i].instances;
    if (level === 'points' && blocks[i].pixels > 0) inView += blocks[i].instances;
  });
  const share = inView > budget.points ? budget.points / inView : 1;
  drawn.left = Math.round(inView * (1 - share));
  return { levels, share, drawn, triangles: used };
}
