import type { Triangles } from './lines/topology';

/** A box along the axes. */
export interface Box {
  x0: number;
  x1: number;
  y0: number;
  y1: number;
  z0: number;
  z1: number;
}

/** What is free over a level place: so far along, so deep, so high. */
export interface Room {
  x0: number;
  x1: number;
  z0: number;
  z1: number;
  clear: number;
}

/** Nearer than this things only touch, metres. */
const HAIR = 1e-4;
/** What begins below this share of the height of what is over all stands in the way; what begins above is over it. */
const LOW = 0.5;
/** What stands within this share of the depth, from the back, makes it less deep; what reaches further parts it. */
const BACK = 0.4;

/**
 * The free stretches over a level place, along X: what stands on it parts them, or, at the back (a wall), makes them
 * less deep. Each is as high as the lowest thing over it. Faces are cut to the box
 * first, so that it is exact for flat faces.
 * @param over from the height of the place up; `y1` may be Infinity
 */
export function roomOver(mesh: Triangles, over: Box): Room[] {
  const inside = {
    ...over,
    x0: over.x0 + HAIR,
    x1: over.x1 - HAIR,
    z0: over.z0 + HAIR,
    z1: over.z1 - HAIR,
    y0: over.y0 + HAIR,
  };
  const parts = cutFaces(mesh, inside);
  const clear = heightOver(parts, inside);
  const low = parts.filter((b) => b.y0 - over.y0 < LOW * clear);
  const back = over.z0 + (over.z1 - over.z0) * BACK;
  const posts = low.filter((b) => b.z1 > back);
  return freeStretches(over.x0, over.x1, posts).map(([x0, x1]) => {
    const along = (b: Box) => b.x1 > x0 + HAIR && b.x0 < x1 - HAIR;
    const z0 = Math.max(over.z0, ...low.filter((b) => b.z1 <= back && along(b)).map((b) => b.z1));
    const tops = parts.filter((b) => !low.includes(b) && b.z1 > z0 + HAIR && along(b));
    return { x0, x1, z0, z1: over.z1, clear: Math.min(Infinity, ...tops.map((b) => b.y0 - over.y0)) };
  });
}

/** How high what is over most of a place is, in the mean of nine places; Infinity where nothing is. */
function heightOver(parts: Box[], { x0, x1, y0, z0, z1 }: Box): number {
  const found = [0.1, 0.5, 0.9].flatMap((u) =>
    [0.1, 0.5, 0.9].map((w) => {
      const [x, z] = [x0 + (x1 - x0) * u, z0 + (z1 - z0) * w];
      let low = Infinity;
      for (const b of parts)
        if (b.x0 <= x && b.x1 >= x && b.z0 <= z && b.z1 >= z && b.y0 - y0 > HAIR)
          low = Math.min(low, b.y0 - y0);
      return low;
    }),
  );
  found.sort((a, b) => a - b);
  return found[4];
}

/** What is left of a stretch without the boxes, in rising order. */
function freeStretches(x0: number, x1: number, boxes: Box[]): [number, number][] {
  const out: [number, number][] = [];
  let at = x0;
  for (const b of [...boxes].sort((p, q) => p.x0 - q.x0)) {
    if (b.x0 - HAIR > at + HAIR) out.push([at, Math.max(at, b.x0)]);
    at = Math.max(at, b.x1);
  }
  if (x1 > at + HAIR) out.push([at, x1]);
  // What begins within a hair of an end begins there.
  return out.map(([a, b]) => [a - x0 <= 2 * HAIR ? x0 : a, x1 - b <= 2 * HAIR ? x1 : b]);
}

/** The boxes about what of each face is in a box. */
function cutFaces({ positions: p, indices }: Triangles, box: Box): Box[] {
  const low = [box.x0, box.y0, box.z0];
  const high = [box.x1, box.y1, box.z1];
  const out: Box[] = [];
  for (let i = 0; i < indices.length; i += 3) {
    let outside = false;
    for (let a = 0; a < 3 && !outside; a++) {
      const [u, v, w] = [p[indices[i] * 3 + a], p[indices[i + 1] * 3 + a], p[indices[i + 2] * 3 + a]];
      outside = Math.max(u, v, w) < low[a] || Math.min(u, v, w) > high[a];
    }
    if (outside) continue;
    let corners: number[][] = [0, 1, 2].map((k) => [0, 1, 2].map((a) => p[indices[i + k] * 3 + a]));
    for (let a = 0; a < 3 && corners.length > 0; a++) {
      corners = cut(corners, a, low[a], 1);
      corners = cut(corners, a, high[a], -1);
    }
    if (corners.length === 0) continue;
    const of = (a: number) => corners.map((c) => c[a]);
    const [x, y, z] = [of(0), of(1), of(2)];
    out.push({
      x0: Math.min(...x),
      x1: Math.max(...x),
      y0: Math.min(...y),
      y1: Math.max(...y),
      z0: Math.min(...z),
      z1: Math.max(...z),
    });
  }
  return out;
}

/** What of a convex polygon is on one side of a plane (Sutherland and Hodgman 1974). */
function cut(corners: number[][], axis: number, at: number, side: 1 | -1): number[][] {
  if (!Number.isFinite(at)) return corners;
  const out: number[][] = [];
  corners.forEach((c, k) => {
    const next = corners[(k + 1) % corners.length];
    const [d, e] = [(c[axis] - at) * side, (next[axis] - at) * side];
    if (d >= 0) out.push(c);
    if (d < 0 !== e < 0) {
      const t = d / (d - e);
      out.push(c.map((v, a) => v + (next[a] - v) * t));
    }
  });
  return out;
}
