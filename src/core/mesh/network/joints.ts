import { addScaled, distance, dot, sub, type Vec3 } from '../../math/vec3';

/** Where lines come near each other. */
export interface Meeting {
  /** Numbers of the two lines, the lower first. */
  lines: [number, number];
  /** The nearest places on both. */
  a: Vec3;
  b: Vec3;
  distance: number;
}

interface Piece {
  line: number;
  from: Vec3;
  to: Vec3;
}

/**
 * The places where lines come within a distance of each other: of each stretch where two are that near, its nearest. Pieces
 * are looked up in cells as large as the distance.
 * @param lines places along each @param apart meetings of the same two lines that are nearer than this are one
 */
export function meetings(lines: readonly (readonly Vec3[])[], within: number, apart: number): Meeting[] {
  const pieces: Piece[] = lines.flatMap((places, line) =>
    places.slice(1).map((to, i) => ({ line, from: places[i], to })),
  );
  const found: Meeting[] = [];
  eachNear(pieces, within, (p, q) => {
    const met = nearest(p, q);
    if (met.distance <= within) found.push({ lines: [p.line, q.line], ...met });
  });
  found.sort((x, y) => x.distance - y.distance || x.lines[0] - y.lines[0] || x.lines[1] - y.lines[1]);
  const kept: Meeting[] = [];
  for (const m of found)
    if (!kept.some((k) => k.lines.join() === m.lines.join() && distance(k.a, m.a) < apart)) kept.push(m);
  return kept;
}

/** Pairs of pieces of different lines whose boxes, made larger by a distance, share a cell; each once. */
function eachNear(pieces: readonly Piece[], within: number, near: (p: Piece, q: Piece) => void): void {
  const longest = pieces.reduce((most, { from, to }) => Math.max(most, distance(from, to)), 0);
  const cell = Math.max(within, longest, 1e-9);
  const cells = new Map<string, number[]>();
  const range = (p: Piece, a: number) => [
    Math.floor((Math.min(p.from[a], p.to[a]) - within) / cell),
    Math.floor((Math.max(p.from[a], p.to[a]) + within) / cell),
  ];
  pieces.forEach((p, i) => {
    const seen = new Set<number>();
    const [[x0, x1], [y0, y1], [z0, z1]] = [range(p, 0), range(p, 1), range(p, 2)];
    for (let x = x0; x <= x1; x++)
      for (let y = y0; y <= y1; y++)
        for (let z = z0; z <= z1; z++) {
          const key = `${x} ${y} ${z}`;
          let list = cells.get(key);
          if (!list) cells.set(key, (list = []));
          for (const k of list) if (pieces[k].line !== p.line) seen.add(k);
          list.push(i);
        }
    for (const k of seen) near(pieces[k], p);
  });
}

/** The nearest places of two straight pieces (Ericson, Real-Time Collision Detection, 5.1.9). */
function nearest(p: Piece, q: Piece): Pick<Meeting, 'a' | 'b' | 'distance'> {
  const hold = (v: number) => Math.min(1, Math.max(0, v));
  const [u, v, w] = [sub(p.to, p.from), sub(q.to, q.from), sub(p.from, q.from)];
  const [uu, vv, uv, uw, vw] = [dot(u, u), dot(v, v), dot(u, v), dot(u, w), dot(v, w)];
  const det = uu * vv - uv * uv;
  let s = det > 1e-12 * uu * vv ? hold((uv * vw - uw * vv) / det) : 0;
  let t = vv > 0 ? (uv * s + vw) / vv : 0;
  if (t < 0 || t > 1) {
    t = hold(t);
    s = uu > 0 ? hold((uv * t - uw) / uu) : 0;
  }
  const [a, b] = [addScaled(p.from, u, s), addScaled(q.from, v, t)];
  return { a, b, distance: distance(a, b) };
}
