import { sameRows } from '../sameRows';

/** A mesh laid flat by its texture coordinates. */
export interface Laid {
  uvs: Float32Array;
  indices: Uint32Array;
}

/** Faces that hang together on the texture. */
export interface Island {
  faces: number;
  /** Mirrored: its outside is turned over on the texture. */
  flipped: boolean;
  /** Number of the earlier island that it lies on; -1 where it lies free. */
  on: number;
}

/**
 * The islands of a texture: faces that share an edge's place and its texture coordinates.
 * @param area twice the area of each face on the texture, with its sign
 */
export function islandsOf(
  { uvs, indices, positions }: Laid & { positions: ArrayLike<number> },
  area: Float64Array,
): { islands: Island[]; islandOf: Uint32Array; turnedOver: number } {
  const vertices = uvs.length / 2;
  const rows = new Int32Array(vertices * 5);
  let size = 0;
  for (let i = 0; i < positions.length; i++) size = Math.max(size, Math.abs(positions[i]) || 0);
  const fine = size > 0 ? 1e7 / size : 1;
  let most = 0;
  for (const w of uvs) most = Math.max(most, Math.abs(w) || 0);
  const fineUv = 1e6 / Math.max(1, most);
  for (let i = 0; i < vertices; i++) {
    for (let a = 0; a < 3; a++) rows[i * 5 + a] = Math.round(positions[i * 3 + a] * fine);
    for (let a = 0; a < 2; a++) rows[i * 5 + 3 + a] = Math.round(uvs[i * 2 + a] * fineUv);
  }
  const same = sameRows(rows, 5);
  const faces = indices.length / 3;
  // Joined faces point to an earlier one of theirs.
  const to = Uint32Array.from({ length: faces }, (_, i) => i);
  const root = (i: number): number => {
    while (to[i] !== i) i = to[i] = to[to[i]];
    return i;
  };
  const edges = new Map<number, number>();
  for (let f = 0; f < faces; f++)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [same[indices[f * 3 + k]], same[indices[f * 3 + ((k + 1) % 3)]]];
      const key = Math.min(a, b) * vertices + Math.max(a, b);
      const other = edges.get(key);
      if (other === undefined) {
        edges.set(key, f);
        continue;
      }
      const [p, q] = [root(f), root(other)];
      if (p < q) to[q] = p;
      else to[p] = q;
    }
  const numbers = new Map<number, number>();
  const islands: Island[] = [];
  const signs: number[] = [];
  const islandOf = new Uint32Array(faces);
  for (let f = 0; f < faces; f++) {
    const r = root(f);
    let n = numbers.get(r);
    if (n === undefined) {
      numbers.set(r, (n = islands.length));
      islands.push({ faces: 0, flipped: false, on: -1 });
      signs.push(0);
    }
    islandOf[f] = n;
    islands[n].faces++;
    signs[n] += area[f];
  }
  islands.forEach((island, n) => (island.flipped = signs[n] < 0));
  let turnedOver = 0;
  for (let f = 0; f < faces; f++) if (area[f] * signs[islandOf[f]] < 0) turnedOver++;
  return { islands, islandOf, turnedOver };
}
