/** Rooms that change evenly with x and y: the k-th is `room[k] + x[k]·X + y[k]·Y`. */
export interface Slopes {
  count: number;
  room: Float64Array;
  x: Float64Array;
  y: Float64Array;
}

/** Violated by less than this much nothing is. */
const SLACK = 1e-14;

const place = { x: 0, y: 0 };

/**
 * Where in a square about (0, 0) the least of all slopes is greatest: a linear programme in three unknowns, one bound
 * taken up after the other (Seidel 1991, without the shuffling: the bounds are few, and equal input gives equal output).
 * @param reach half the side of the square
 */
export function highest(slopes: Slopes, reach: number): { x: number; y: number; room: number } {
  const { count, room, x, y } = slopes;
  let best = Infinity;
  place.x = place.y = 0;
  for (let k = 0; k < count; k++) {
    const here = room[k] + x[k] * place.x + y[k] * place.y;
    if (here >= best - SLACK) continue;
    // The greatest place lies on this one then, among those before it.
    furthest(slopes, k, reach);
    best = room[k] + x[k] * place.x + y[k] * place.y;
  }
  return { x: place.x, y: place.y, room: best };
}

/** The place furthest up the k-th slope of those where it is not over any before it. */
function furthest({ room, x, y }: Slopes, k: number, reach: number): void {
  place.x = x[k] > 0 ? reach : x[k] < 0 ? -reach : 0;
  place.y = y[k] > 0 ? reach : y[k] < 0 ? -reach : 0;
  for (let j = 0; j < k; j++) {
    // a·X + b·Y ≤ c
    const a = x[k] - x[j];
    const b = y[k] - y[j];
    const c = room[j] - room[k];
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
      const e = i < -2 ? 2 * i + 7 : i < 0 ? 0 : x[k] - x[i];
      const f = i < -2 ? 0 : i < 0 ? 2 * i + 3 : y[k] - y[i];
      const g = i < 0 ? reach : room[i] - room[k];
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
