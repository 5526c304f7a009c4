import { areasOf } from '../scatter/areas';
import { placeOn, type TriMesh } from '../triMesh';
import type { MaskField } from './field';
import { placesOn, type MaskGround } from './places';

/** A mask over a surface, to be looked at: a mesh of small triangles with what the mask gives each corner. */
export interface MaskShades {
  /** xyz a corner in the scene as the surface stands now. */
  positions: Float32Array;
  /** 0–1 a corner. */
  values: Float32Array;
  indices: Uint32Array;
  /** The same corners as the mask reads them: x and z, seen from above. */
  above: Float32Array;
  /** About how far it is from one corner to the next, metres. */
  cell: number;
}

/** About how many triangles a mask is shown in. */
const TRIANGLES = 60_000;
/** Most pieces that one side of a face is cut into. */
const MOST_PIECES = 200;

/** Cuts the faces of a surface so that all pieces are about alike, and reads the mask at their corners. */
export function shadesOf(field: MaskField, ground: MaskGround, triangles = TRIANGLES): MaskShades {
  const { read } = ground;
  const now = ground.now ?? read;
  const count = read.indices.length / 3;
  const each = areasOf(read).total / Math.max(1, triangles);
  const pieces = Uint8Array.from({ length: count }, (_, f) =>
    Math.min(MOST_PIECES, Math.max(1, Math.round(Math.sqrt(faceArea(read, f) / each)))),
  );
  const corners = pieces.reduce((sum, n) => sum + ((n + 1) * (n + 2)) / 2, 0);
  const face = new Int32Array(corners);
  const u = new Float64Array(corners);
  const v = new Float64Array(corners);
  const indices = new Uint32Array(pieces.reduce((sum, n) => sum + n * n, 0) * 3);
  let at = 0;
  let k = 0;
  for (let f = 0; f < count; f++) {
    const n = pieces[f];
    const first = at;
    // Row by row from the second corner's side to the third corner; row j has n − j + 1 of them.
    const rowAt = (j: number) => first + j * (n + 1) - (j * (j - 1)) / 2;
    for (let j = 0; j <= n; j++)
      for (let i = 0; i <= n - j; i++, at++) {
        face[at] = f;
        u[at] = i / n;
        v[at] = j / n;
      }
    for (let j = 0; j < n; j++)
      for (let i = 0; i < n - j; i++) {
        const [a, b] = [rowAt(j) + i, rowAt(j + 1) + i];
        indices.set([a, a + 1, b], k);
        k += 3;
        if (i < n - j - 1) {
          indices.set([a + 1, b + 1, b], k);
          k += 3;
        }
      }
  }
  const places = placesOn([ground], new Int32Array(corners), face, u, v);
  const positions = new Float32Array(corners * 3);
  for (let i = 0; i < corners; i++) positions.set(placeOn(now, face[i], u[i], v[i]), i * 3);
  const above = new Float32Array(corners * 2);
  for (let i = 0; i < corners; i++) {
    above[i * 2] = places.position[i * 3];
    above[i * 2 + 1] = places.position[i * 3 + 2];
  }
  const cell = Math.sqrt((2 * areasOf(read).total) / Math.max(1, indices.length / 3));
  return { positions, values: Float32Array.from(field.at(places)), indices, above, cell };
}

function faceArea(mesh: TriMesh, f: number): number {
  const { upTo } = areasOf(mesh);
  return f === 0 ? upTo[0] : upTo[f] - upTo[f - 1];
}
