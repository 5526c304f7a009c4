import earcut from 'earcut';

type Flat = readonly [number, number];

/** Twice a triangle's area below this share of the ring's size squared is none: its places lie on a line. */
const HAIR = 1e-11;

/**
 * The faces of a flat ring, each counterclockwise, which use every one of its places: so what is filled with them fits
 * its border edge by edge. Earcut is given its corners; the face beside a straight side is parted at the places on it.
 * @param ring counterclockwise, not closed by its first place again
 * @returns three places a face, by their numbers in the ring
 */
export function flatFaces(ring: readonly Flat[]): number[] {
  const n = ring.length;
  const size = ring.reduce(
    (most, p) => Math.max(most, Math.abs(p[0] - ring[0][0]), Math.abs(p[1] - ring[0][1])),
    0,
  );
  const corners = ring.flatMap((p, i) => {
    const area = twice(ring[(i + n - 1) % n], p, ring[(i + 1) % n]);
    return Math.abs(area) <= HAIR * size * size ? [] : [i];
  });
  const faces = earcut(corners.flatMap((i) => ring[i])).map((k) => corners[k]);
  const used = new Uint8Array(n);
  /** The face to the left of a way from one place to another. */
  const beside = new Map<number, number>();
  const put = (f: number, corners: number[]) => {
    corners.forEach((v, k) => {
      faces[f + k] = v;
      beside.set(v * n + corners[(k + 1) % 3], f);
    });
  };
  for (let f = 0; f < faces.length; f += 3) {
    const [a, b, c] = faces.slice(f, f + 3);
    put(f, twice(ring[a], ring[b], ring[c]) < 0 ? [a, c, b] : [a, b, c]);
    for (const v of [a, b, c]) used[v] = 1;
  }
  const first = used.indexOf(1);
  if (first < 0) return [];
  for (let i = 1; i < n; i++) {
    const v = (first + i) % n;
    if (used[v]) continue;
    const from = (v + n - 1) % n;
    let to = (v + 1) % n;
    while (!used[to]) to = (to + 1) % n;
    const f = beside.get(from * n + to);
    if (f === undefined) continue;
    const across = faces.slice(f, f + 3).find((c) => c !== from && c !== to)!;
    put(f, [from, v, across]);
    put(faces.length, [v, to, across]);
    used[v] = 1;
  }
  return faces;
}

const twice = ([ax, ay]: Flat, [bx, by]: Flat, [cx, cy]: Flat): number =>
  (bx - ax) * (cy - ay) - (cx - ax) * (by - ay);
