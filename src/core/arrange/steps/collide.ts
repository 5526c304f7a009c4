import { boxesOverlap, newBoxes, writeBox } from '../../mesh/boxes';
import { buildBoxTree, eachPair } from '../../mesh/boxTree';
import type { Bounds } from '../../mesh/mesh';
import { STATE, type Placements } from '../result';
import type { PlacedBoxes } from './placedBoxes';

/** Boxes that reach into each other by no more than this share of the smaller one only touch. */
const HAIR = 1e-6;
/** Boxes this many times wider than most are held against all others, lest the grid be as coarse as they are. */
const WIDE = 4;

/**
 * Rows whose boxes reach into a placed one before them, found over a grid of the size of all but the widest. With
 * `leaveOut` those become gaps at once, so that they stand in nobody's way.
 * @param bounds of each prop index; rows of props without bounds are passed over @returns rows in order
 */
export function collidingRows(
  p: Placements,
  bounds: (Bounds | undefined)[],
  leaveOut: boolean,
  keep: (row: number) => boolean,
): number[] {
  const boxes = newBoxes(p.count);
  const rows: number[] = [];
  for (let i = 0; i < p.count; i++) {
    const b = p.state[i] === STATE.placed ? bounds[p.prop[i]] : undefined;
    if (!b) continue;
    writeBox(boxes, i, b, p, i);
    rows.push(i);
  }
  const { centre, radius } = boxes;
  const radii = rows.map((i) => radius[i]).sort((a, b) => a - b);
  const usual = radii[radii.length >> 1] * WIDE;
  const cell = Math.max(1e-6, 2 * (radii.findLast((r) => r <= usual) ?? 0));
  const grid = new Map<string, number[]>();
  const standing: number[] = [];
  const wide: number[] = [];
  const out: number[] = [];
  for (const i of rows) {
    const isWide = radius[i] * 2 > cell;
    const hits = (j: number) => boxesOverlap(boxes, i, boxes, j, HAIR * Math.min(radius[i], radius[j]));
    const [gx, gy, gz] = [0, 1, 2].map((a) => Math.floor(centre[i * 3 + a] / cell));
    const near = function* () {
      for (let x = -1; x <= 1; x++)
        for (let y = -1; y <= 1; y++)
          for (let z = -1; z <= 1; z++) yield grid.get(`${gx + x},${gy + y},${gz + z}`);
    };
    let hit = isWide ? standing.some(hits) : wide.some(hits);
    if (!isWide && !hit)
      for (const list of near())
        if (list?.some(hits)) {
          hit = true;
          break;
        }
    if (hit) out.push(i);
    if (hit && leaveOut && !keep(i)) {
      p.state[i] = STATE.collision;
      continue;
    }
    standing.push(i);
    if (isWide) {
      wide.push(i);
      continue;
    }
    const key = `${gx},${gy},${gz}`;
    const list = grid.get(key);
    if (list) list.push(i);
    else grid.set(key, [i]);
  }
  return out;
}

/**
 * Makes gaps of the rows whose boxes reach into what is placed elsewhere.
 * @param bounds of each prop index; rows of props without bounds are passed over
 */
export function giveWay(
  p: Placements,
  bounds: (Bounds | undefined)[],
  others: PlacedBoxes,
  keep: (row: number) => boolean,
): void {
  const rows: number[] = [];
  for (let i = 0; i < p.count; i++) if (p.state[i] === STATE.placed && bounds[p.prop[i]]) rows.push(i);
  const boxes = newBoxes(rows.length);
  rows.forEach((row, k) => writeBox(boxes, k, bounds[p.prop[row]]!, p, row));
  const { radius } = others.tree.boxes;
  eachPair(buildBoxTree(boxes), others.tree, (i, j) => {
    const row = rows[i];
    if (p.state[row] !== STATE.placed || keep(row)) return;
    const slack = HAIR * Math.min(boxes.radius[i], radius[j]);
    if (boxesOverlap(boxes, i, others.tree.boxes, j, slack)) p.state[row] = STATE.collision;
  });
}
