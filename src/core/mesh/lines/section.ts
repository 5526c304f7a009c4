import { addScaled, dot, sub, type Vec3 } from '../../math/vec3';
import type { TriMesh } from '../triMesh';

/** Surfaces cut by a plane: what lies under a line. */

/** The plane: a place of it, its two axes (of unit length, square to each other), and what of it is looked at. */
export interface SectionPlane {
  from: Vec3;
  along: Vec3;
  up: Vec3;
  /** From 0 so far along. */
  span: number;
  /** The least height that matters, and the greatest at the beginning and at the end of the span. */
  low: number;
  top: [number, number];
}

/** Places of a section beside those where its outline turns. */
const EVENLY = 256;

/**
 * The outline of surfaces in a plane, seen from above: x and y, x rising from 0 to the span; y is −∞ where there is
 * nothing. Its corners are those of the cut itself, exact; between them there are so many others that none is farther
 * than a 256th of the span.
 */
export function sectionFromAbove(meshes: readonly TriMesh[], plane: SectionPlane): Float64Array {
  const pieces = meshes.flatMap((mesh) => cut(mesh, plane));
  pieces.sort((a, b) => a[0] - b[0]);
  const xs = new Set<number>();
  for (let i = 0; i <= EVENLY; i++) xs.add((plane.span * i) / EVENLY);
  for (const [x1, , x2] of pieces) xs.add(x1).add(x2);
  const at = Float64Array.from(xs).sort();
  const out = new Float64Array(at.length * 2);
  let active: Piece[] = [];
  let next = 0;
  at.forEach((x, i) => {
    while (next < pieces.length && pieces[next][0] <= x) active.push(pieces[next++]);
    active = active.filter((p) => p[2] >= x);
    let y = -Infinity;
    for (const [x1, y1, x2, y2] of active)
      y = Math.max(y, x2 > x1 ? y1 + ((y2 - y1) * (x - x1)) / (x2 - x1) : Math.max(y1, y2));
    out[i * 2] = x;
    out[i * 2 + 1] = y;
  });
  return out;
}

/** A straight piece of a cut, x1 ≤ x2. */
type Piece = [x1: number, y1: number, x2: number, y2: number];

function cut(mesh: TriMesh, plane: SectionPlane): Piece[] {
  const { from, along, up, span, low, top } = plane;
  const normal: Vec3 = [
    along[1] * up[2] - along[2] * up[1],
    along[2] * up[0] - along[0] * up[2],
    along[0] * up[1] - along[1] * up[0],
  ];
  const ends = [0, span].flatMap((x, k) =>
    [low, top[k]].map((y) => addScaled(addScaled(from, along, x), up, y)),
  );
  const least = [0, 1, 2].map((a) => Math.min(...ends.map((p) => p[a])) - 1e-9);
  const most = [0, 1, 2].map((a) => Math.max(...ends.map((p) => p[a])) + 1e-9);
  const tree = mesh.tree();
  const { bounds, start, count, order, positions: p, indices } = tree;
  const found: Piece[] = [];
  const corner = (face: number, k: number): Vec3 => {
    const o = indices[face * 3 + k] * 3;
    return [p[o], p[o + 1], p[o + 2]];
  };
  const look = (face: number): void => {
    const c = [0, 1, 2].map((k) => sub(corner(face, k), from));
    const side = c.map((v) => dot(v, normal));
    const meets: [number, number][] = [];
    for (let k = 0; k < 3; k++) {
      const [s, t] = [side[k], side[(k + 1) % 3]];
      if (s === 0) meets.push([dot(c[k], along), dot(c[k], up)]);
      if (s * t >= 0) continue;
      const w = s / (s - t);
      const at = c[k].map((v, a) => v + (c[(k + 1) % 3][a] - v) * w) as Vec3;
      meets.push([dot(at, along), dot(at, up)]);
    }
    if (meets.length < 2) return;
    meets.sort((a, b) => a[0] - b[0]);
    const piece = within([...meets[0], ...meets[meets.length - 1]], span);
    if (!piece) return;
    // What rises over what is looked at is a roof, not ground.
    const roof = (x: number) => top[0] + ((top[1] - top[0]) * x) / span;
    if (piece[1] <= roof(piece[0]) && piece[3] <= roof(piece[2])) found.push(piece);
  };
  const stack = tree.nodes > 0 ? [0] : [];
  for (let node = stack.pop(); node !== undefined; node = stack.pop()) {
    const b = node * 6;
    let apart = false;
    for (let a = 0; a < 3; a++) apart ||= bounds[b + a] > most[a] || bounds[b + 3 + a] < least[a];
    if (apart) continue;
    if (count[node] === 0) stack.push(start[node], node + 1);
    else for (let i = 0; i < count[node]; i++) look(order[start[node] + i]);
  }
  return found;
}

/** A piece as far as it lies from 0 to the span; null where it does not. */
function within([x1, y1, x2, y2]: Piece, span: number): Piece | null {
  if (x2 < 0 || x1 > span) return null;
  const y = (x: number) => (x2 > x1 ? y1 + ((y2 - y1) * (x - x1)) / (x2 - x1) : Math.max(y1, y2));
  const [a, b] = [Math.max(0, x1), Math.min(span, x2)];
  return x1 >= 0 && x2 <= span ? [x1, y1, x2, y2] : [a, y(a), b, y(b)];
}
