/** Rooms that change evenly with x and y: the k-th is `room[k] + x[k]·X + y[k]·Y`. */
export interface Slopes {
  count: number;
  room: Float64Array;
  x: Float64Array;
  y: Float64Array;
}

/** Violated by less than this much nothing is. */
const SLACK = 1e-14;
/** So many are taken up at most; three of them bear in the end. */
const MOST = 24;

const place = { x: 0, y: 0 };
/** Numbers of the slopes that were taken up. */
const taken = new Int32Array(MOST);

/**
 * Where in a square about (0, 0) the least of all slopes is greatest: a linear programme in three unknowns. Bounds are
 * taken up one after the other as Seidel (1991) does, always the one that is broken most, so that few have to be.
 * @param reach half the side of the square
 */
export function highest(slopes: Slopes, reach: number): { x: number; y: number; room: number } {
  const { count, room, x, y } = slopes;
  let best = Infinity;
  place.x = place.y = 0;
  for (let n = 0; n < MOST; n++) {
    let least = best - SLACK;
    let k = -1;
    for (let i = 0; i < count; i++) {
      const here = room[i] + x[i] * place.x + y[i] * place.y;
      if (here < least) least = here;
      else continue;
      k = i;
    }
    if (k < 0) break;
    // The greatest place lies on this one then, among those before it.
    furthest(slopes, k, n, reach);
    taken[n] = k;
    best = room[k] + x[k] * place.x + y[k] * place.y;
  }
  return { x: place.x, y: place.y, room: best };
}

/** The place furthest up the k-th slope of those where it is not over any of the first n that were taken. */
function furthest({ room, x, y }: Slopes, k: number, n: number, reach: number): void {
  place.x = x[k] > 0 ? reach : x[k] < 0 ? -reach : 0;
  place.y = y[k] > 0 ? reach : y[k] < 0 ? -reach : 0;
  for (let j = 0; j < n; j++) {
    // a·X + b·Y ≤ c
    const a = x[k] - x[taken[j]];
    const b = y[k] - y[taken[j]];
    const c = room[taken[j]] - room[k];
    const square = a * a + b * b;
    if (square < 1e-24 || a * place.x + b * place.y <= c + SLACK) continue;
    // On the line of this bound, as far as those before it let it go.
    const ox = (a * c) / square;
    const oy = (b * c) / square;
    const dx = -b;
    const dy = a;
    let low = -Infinity;
    let high = Infinity;
    for (let i = -4; i < j; i++) {
      const e = i < -2 ? 2 * i + 7 : i < 0 ? 0 : x[k] - x[taken[i]];
      const f = i < -2 ? 0 : i < 0 ? 2 * i + 3 : y[k] - y[taken[i]];
      const g = i < 0 ? reach : room[taken[i]] - room[k];
      const slope = e * dx + f * dy;
      const most = (g - e * ox - f * oy) / slope;
      if (slope > 0 && most < high) high = most;
      else if (slope < 0 && most > low) low = most;
    }
    const gain = x[k] * dx + y[k] * dy;
    const t =
      low > high ? (low + high) / 2 : gain > 0 ? high : gain < 0 ? low : Math.min(high, Math.max(low, 0));
    place.x = ox + dx * t;
    place.y = oy + dy * t;
  }
}
