import { hypot } from '../../math/portable';
import type { Placements } from '../result';
import { STATE } from '../result';
import type { Bounds } from '../../mesh/mesh';

/** Oriented boxes of placed props: centre, three half axes, and the radius of the ball around them. */
interface Box {
  c: [number, number, number];
  axes: [number, number, number][];
  half: [number, number, number];
  radius: number;
}

function boxOf(p: Placements, i: number, bounds: Bounds): Box {
  const [x, y, z, w] = p.rotation.subarray(i * 4, i * 4 + 4);
  const axes: Box['axes'] = [
    [1 - 2 * (y * y + z * z), 2 * (x * y + z * w), 2 * (x * z - y * w)],
    [2 * (x * y - z * w), 1 - 2 * (x * x + z * z), 2 * (y * z + x * w)],
    [2 * (x * z + y * w), 2 * (y * z - x * w), 1 - 2 * (x * x + y * y)],
  ];
  const c: Box['c'] = [p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]];
  const half: Box['half'] = [0, 0, 0];
  for (let a = 0; a < 3; a++) {
    const k = p.scale[i * 3 + a];
    half[a] = (Math.abs(k) * (bounds.max[a] - bounds.min[a])) / 2;
    const mid = (k * (bounds.max[a] + bounds.min[a])) / 2;
    for (let r = 0; r < 3; r++) c[r] += axes[a][r] * mid;
  }
  return { c, axes, half, radius: hypot(...half) };
}

const dot = (a: readonly number[], b: readonly number[]) => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];

/**
 * Whether two oriented boxes reach into each other by more than `slack` metres along every one of the fifteen
 * separating axes (Gottschalk, Lin, Manocha: OBBTree, SIGGRAPH 1996).
 */
function boxesOverlap(a: Box, b: Box, slack: number): boolean {
  const d = [b.c[0] - a.c[0], b.c[1] - a.c[1], b.c[2] - a.c[2]];
  const reach = (box: Box, axis: readonly number[]) =>
    box.half[0] * Math.abs(dot(box.axes[0], axis)) +
    box.half[1] * Math.abs(dot(box.axes[1], axis)) +
    box.half[2] * Math.abs(dot(box.axes[2], axis));
  const apart = (axis: readonly number[]) =>
    Math.abs(dot(d, axis)) >= reach(a, axis) + reach(b, axis) - slack;
  for (const axis of [...a.axes, ...b.axes]) if (apart(axis)) return false;
  for (const u of a.axes)
    for (const v of b.axes) {
      const cross = [u[1] * v[2] - u[2] * v[1], u[2] * v[0] - u[0] * v[2], u[0] * v[1] - u[1] * v[0]];
      const l = hypot(cross[0], cross[1], cross[2]);
      if (l > 1e-9 && apart(cross.map((x) => x / l))) return false;
    }
  return true;
}

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
  const boxes: (Box | null)[] = [];
  for (let i = 0; i < p.count; i++) {
    const b = p.state[i] === STATE.placed ? bounds[p.prop[i]] : undefined;
    boxes.push(b ? boxOf(p, i, b) : null);
  }
  const radii = boxes.flatMap((b) => (b ? [b.radius] : [])).sort((a, b) => a - b);
  const usual = radii[radii.length >> 1] * WIDE;
  const cell = Math.max(1e-6, 2 * (radii.findLast((r) => r <= usual) ?? 0));
  const grid = new Map<string, number[]>();
  const standing: number[] = [];
  const wide: number[] = [];
  const out: number[] = [];
  for (let i = 0; i < p.count; i++) {
    const box = boxes[i];
    if (!box) continue;
    const isWide = box.radius * 2 > cell;
    const hits = (j: number) => reachIn(box, boxes[j]!);
    const near = function* () {
      const g = box.c.map((v) => Math.floor(v / cell));
      for (let x = -1; x <= 1; x++)
        for (let y = -1; y <= 1; y++)
          for (let z = -1; z <= 1; z++) yield grid.get(`${g[0] + x},${g[1] + y},${g[2] + z}`);
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
    const key = box.c.map((v) => Math.floor(v / cell)).join(',');
    const list = grid.get(key);
    if (list) list.push(i);
    else grid.set(key, [i]);
  }
  return out;
}

/** Whether two boxes reach into each other by more than a hair of the smaller one. */
function reachIn(a: Box, b: Box): boolean {
  const away = hypot(a.c[0] - b.c[0], a.c[1] - b.c[1], a.c[2] - b.c[2]);
  return away < a.radius + b.radius && boxesOverlap(a, b, 1e-6 * Math.min(a.radius, b.radius));
}
