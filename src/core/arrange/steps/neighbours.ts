import { STATE, type PartRange, type Placements } from '../result';
import { shortestNet } from '../../mesh/scatter/shortestNet';
import { slotParts } from '../slotId';

/** Which rows of an arrangement follow each other. */

/** Which of them have something between them. */
export interface Reach {
  /** To the n-th after. */
  reach: number;
  /** Only from every n-th. */
  every: number;
}

/**
 * Pairs of what an arrangement has placed that follow each other, row numbers: along each of its paths, over the seam
 * of a loop too, or in their own order. Those with a gap in between are none.
 */
export function neighbours(
  posts: Placements,
  parts: readonly PartRange[],
  { reach, every }: Reach,
): [number, number][] {
  const lanes = new Map<string, number[]>();
  for (let i = 0; i < posts.count; i++) {
    // What the pulley took off an end leaves no hole.
    if (posts.state[i] === STATE.pastEnd) continue;
    const { part, stroke, row } = slotParts(posts.slot[i]);
    const key = parts.length > 0 ? `${part} ${stroke} ${row}` : '';
    const lane = lanes.get(key);
    if (lane) lane.push(i);
    else lanes.set(key, [i]);
  }
  const out: [number, number][] = [];
  for (const whole of lanes.values()) {
    const { part, stroke } = slotParts(posts.slot[whole[0]]);
    const range = parts.find((p) => p.part === part && p.stroke === stroke);
    // The order along the path; pegs stand in their own.
    const lane = range ? withoutClosed(posts, whole) : whole;
    if (range) lane.sort((i, j) => posts.s[i] - posts.s[j]);
    const n = lane.length;
    const around = range ? goesRound(posts, lane, range) : false;
    for (let k = 0; k < n; k += every) {
      if (!around && k + reach >= n) break;
      const steps = Array.from({ length: reach + 1 }, (_, d) => lane[(k + d) % n]);
      // With two posts round a loop there and back are the same way.
      if (steps[0] === steps[reach] || steps.some((i) => posts.state[i] !== STATE.placed)) continue;
      out.push([steps[0], steps[reach]]);
    }
  }
  return out;
}

/** Without the gaps that others have closed up over: those stand where they were. */
function withoutClosed(posts: Placements, lane: number[]): number[] {
  const stood = new Set(lane.filter((i) => posts.state[i] === STATE.placed).map((i) => posts.s[i]));
  return lane.filter((i) => posts.state[i] === STATE.placed || !stood.has(posts.s[i]));
}

/** Whether the last post of a loop is a neighbour of the first: no further on than the others are from each other. */
function goesRound(posts: Placements, lane: number[], range: PartRange): boolean {
  if (!range.closed || lane.length < 3) return false;
  const gaps = lane.slice(1).map((i, k) => posts.s[i] - posts.s[lane[k]]);
  const over = range.length - (posts.s[lane[lane.length - 1]] - posts.s[lane[0]]);
  return over <= 1.75 * gaps.sort((a, b) => a - b)[gaps.length >> 1];
}

/**
 * The same of places that come in no order: each is joined to another by the shortest net that holds all of them, so
 * that each but the first leaves to one.
 * @returns null where there are more than `most`
 */
export function nearNeighbours(
  posts: Placements,
  { reach, every }: Reach,
  most: number,
): [number, number][] | null {
  const placed = [...posts.slot.keys()].filter((i) => posts.state[i] === STATE.placed);
  if (placed.length > most) return null;
  const next = towardsFirst(
    shortestNet(Float64Array.from(placed.flatMap((i) => [...posts.position.subarray(i * 3, i * 3 + 3)]))),
    placed.length,
  );
  return placed.flatMap((row, i): [number, number][] => {
    if (i % every !== 0) return [];
    let to = i;
    for (let step = 0; step < reach && to >= 0; step++) to = next[to];
    return to < 0 ? [] : [[row, placed[to]]];
  });
}

/** Where each place leads along a net on the way to the first one; −1 for that. */
function towardsFirst(edges: readonly [number, number][], count: number): Int32Array {
  const beside: number[][] = Array.from({ length: count }, () => []);
  for (const [a, b] of edges) {
    beside[a].push(b);
    beside[b].push(a);
  }
  const next = new Int32Array(count).fill(-1);
  const met = [0];
  for (const at of met)
    for (const other of beside[at])
      if (other !== next[at]) {
        next[other] = at;
        met.push(other);
      }
  return next;
}
