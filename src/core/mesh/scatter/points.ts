/** Places in space, of no surface. */
export interface Points {
  count: number;
  /** xyz each. */
  position: Float64Array;
  key: Float64Array;
  level: Uint8Array;
}

/** None yet. @param room for how many */
export const newPoints = (room: number): Points => ({
  count: 0,
  position: new Float64Array(room * 3),
  key: new Float64Array(room),
  level: new Uint8Array(room),
});

/** Adds one, in twice the room where there is none left. @returns the points, perhaps others */
export function addPoint(
  points: Points,
  x: number,
  y: number,
  z: number,
  key: number,
  level: number,
): Points {
  let out = points;
  if (out.count === out.key.length) {
    out = newPoints(Math.max(64, out.count * 2));
    out.position.set(points.position);
    out.key.set(points.key);
    out.level.set(points.level);
  }
  const i = (out.count = points.count) * 3;
  out.position[i] = x;
  out.position[i + 1] = y;
  out.position[i + 2] = z;
  out.key[points.count] = key;
  out.level[points.count] = level;
  out.count++;
  return out;
}

/** Some of them, in the order of the list. */
export function chosenPoints(points: Points, list: readonly number[]): Points {
  const out = newPoints(list.length);
  for (const i of list) {
    const n = out.count++;
    out.position.set(points.position.subarray(i * 3, i * 3 + 3), n * 3);
    out.key[n] = points.key[i];
    out.level[n] = points.level[i];
  }
  return out;
}
