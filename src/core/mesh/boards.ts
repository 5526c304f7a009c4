import { faceCross } from './face';
import { topologyOf, type Triangles } from './lines/topology';
import { roomOver, type Box } from './roomOver';

/** A level place to put things on, with what is free over it. Metres, in the frame of the mesh: X along, Y up, Z front. */
export interface Board {
  /** Where it begins and ends along X, posts and sides left out. */
  x0: number;
  x1: number;
  /** Its back and its front edge. */
  z0: number;
  z1: number;
  /** Its height. */
  y: number;
  /** Metres up to the lowest thing over it; Infinity where nothing is. */
  clear: number;
}

/** Faces flatter than this (cosine) are level. */
const LEVEL = 0.9986;
/** Heights within this are one. */
const SAME = 0.002;
/** Boards this near to each other are one. */
const JOINT = 0.012;
/** What is shorter, or less deep, than this share of the greatest is no board: the top of a post, a rail. */
const SHORT = 0.25;
const SHALLOW = 0.3;
/** A board fills at least this share of the box about it, seen from above. */
const FILLED = 0.5;

const known = new WeakMap<Triangles, Board[]>();

/**
 * The boards of a rack: its level faces that look up, each about a rectangle along X and Z, from the lowest up. Where
 * posts part one it is two; a back wall makes it less deep.
 * @param mesh corners going counter-clockwise outside; kept by identity
 */
export function boardsOf(mesh: Triangles): Board[] {
  let found = known.get(mesh);
  if (!found) known.set(mesh, (found = findBoards(mesh)));
  return found;
}

interface Flat extends Box {
  area: number;
}

function findBoards(mesh: Triangles): Board[] {
  const flats = joined(flatPieces(mesh)).filter(
    (f) => f.area >= FILLED * (f.x1 - f.x0) * (f.z1 - f.z0) && f.area > 1e-9,
  );
  const longest = Math.max(...flats.map((f) => f.x1 - f.x0));
  const deepest = Math.max(...flats.map((f) => f.z1 - f.z0));
  return flats
    .filter((f) => f.x1 - f.x0 >= SHORT * longest && f.z1 - f.z0 >= SHALLOW * deepest)
    .flatMap(({ x0, x1, z0, z1, y1 }) =>
      roomOver(mesh, { x0, x1, z0, z1, y0: y1, y1: Infinity }).map((r): Board => ({ ...r, y: y1 })),
    )
    .filter((b) => b.x1 - b.x0 > SHORT * SHORT * longest)
    .sort((a, b) => (Math.abs(a.y - b.y) > SAME ? a.y - b.y : a.x0 - b.x0 || a.z0 - b.z0));
}

/** Level faces that look up, those that share an edge at one height together. */
function flatPieces(mesh: Triangles): Flat[] {
  const { positions: p, indices } = mesh;
  const { sides, faces } = topologyOf(mesh);
  const count = indices.length / 3;
  const area = new Float64Array(count);
  const across = new Float64Array(3);
  for (let f = 0; f < count; f++) {
    faceCross(p, indices, f, across);
    const l = Math.sqrt(across[0] * across[0] + across[1] * across[1] + across[2] * across[2]);
    if (l > 0 && across[1] / l >= LEVEL) area[f] = across[1] / 2;
  }
  const heightOf = (f: number) => p[indices[f * 3] * 3 + 1];
  const seen = new Uint8Array(count);
  const out: Flat[] = [];
  for (let start = 0; start < count; start++) {
    if (seen[start] || !(area[start] > 0)) continue;
    const piece = {
      x0: Infinity,
      x1: -Infinity,
      y0: Infinity,
      y1: -Infinity,
      z0: Infinity,
      z1: -Infinity,
      area: 0,
    };
    const open = [start];
    seen[start] = 1;
    while (open.length > 0) {
      const f = open.pop()!;
      piece.area += area[f];
      for (let k = 0; k < 3; k++) {
        const o = indices[f * 3 + k] * 3;
        piece.x0 = Math.min(piece.x0, p[o]);
        piece.x1 = Math.max(piece.x1, p[o]);
        piece.y0 = Math.min(piece.y0, p[o + 1]);
        piece.y1 = Math.max(piece.y1, p[o + 1]);
        piece.z0 = Math.min(piece.z0, p[o + 2]);
        piece.z1 = Math.max(piece.z1, p[o + 2]);
        const e = sides[f * 3 + k];
        if (e < 0) continue;
        for (const g of [faces[e * 2], faces[e * 2 + 1]])
          if (g >= 0 && !seen[g] && area[g] > 0 && Math.abs(heightOf(g) - heightOf(start)) <= SAME) {
            seen[g] = 1;
            open.push(g);
          }
      }
    }
    out.push(piece);
  }
  return out;
}

/** Planks side by side, or end to end, as one board. */
function joined(flats: Flat[]): Flat[] {
  const list = [...flats];
  const near = (a: number, b: number) => Math.abs(a - b) <= JOINT;
  for (let i = 0; i < list.length; i++)
    for (let j = i + 1; j < list.length; j++) {
      const [a, b] = [list[i], list[j]];
      if (Math.abs(a.y1 - b.y1) > SAME) continue;
      const endToEnd = near(a.z0, b.z0) && near(a.z1, b.z1) && (near(a.x1, b.x0) || near(b.x1, a.x0));
      const side = near(a.x0, b.x0) && near(a.x1, b.x1) && (near(a.z1, b.z0) || near(b.z1, a.z0));
      if (!endToEnd && !side) continue;
      list[i] = {
        x0: Math.min(a.x0, b.x0),
        x1: Math.max(a.x1, b.x1),
        y0: Math.min(a.y0, b.y0),
        y1: Math.max(a.y1, b.y1),
        z0: Math.min(a.z0, b.z0),
        z1: Math.max(a.z1, b.z1),
        area: a.area + b.area,
      };
      list.splice(j, 1);
      // It may reach others now.
      i = -1;
      break;
    }
  return list;
}
