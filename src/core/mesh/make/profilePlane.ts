/** The plane in which a profile is drawn, as it is seen there: which axis goes to the right, which one up. */
export interface ProfilePlane {
  h: number;
  v: number;
  /** −1 where what is seen above lies further down its axis. */
  up: 1 | -1;
}

/**
 * A profile is seen along the axis that it reaches least far along: from ahead or aside y is up, from above what goes away
 * is.
 * @param p places, three numbers each
 */
export function profilePlane(p: ArrayLike<number>): ProfilePlane {
  const low = [Infinity, Infinity, Infinity];
  const high = [-Infinity, -Infinity, -Infinity];
  for (let i = 0; i < p.length; i++) {
    low[i % 3] = Math.min(low[i % 3], p[i]);
    high[i % 3] = Math.max(high[i % 3], p[i]);
  }
  const reach = low.map((v, a) => high[a] - v);
  const least = Math.min(...reach);
  // What is flat along more than one axis is seen from ahead.
  const flat = [2, 0, 1].find((a) => reach[a] === least);
  if (flat === 0) return { h: 2, v: 1, up: 1 };
  return flat === 1 ? { h: 0, v: 2, up: -1 } : { h: 0, v: 1, up: 1 };
}
