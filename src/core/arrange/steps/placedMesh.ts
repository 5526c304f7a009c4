import { boxMesh } from '../../mesh/boxMesh';
import { makeTriMesh, type TriMesh } from '../../mesh/triMesh';
import { boxOf, shapeOf, type ArrangeContext } from '../context';
import { STATE, type Placements } from '../result';

/** More triangles than this in all, and the boxes of the props stand for them. */
const MOST_TRIANGLES = 2_000_000;

const made = new WeakMap<Placements, TriMesh>();

/** All that is placed as one mesh in the scene, without normals: what stands above something, or near it. Made once. */
export function placedMesh(placements: Placements, context: ArrangeContext): TriMesh {
  let found = made.get(placements);
  if (!found) made.set(placements, (found = meshOf(placements, context)));
  return found;
}

function meshOf(p: Placements, context: ArrangeContext): TriMesh {
  const own = p.props.map((id) => shapeOf(context, id)?.triangles());
  const rows = [...p.state.keys()].filter((i) => p.state[i] === STATE.placed && own[p.prop[i]]);
  const isBent = (row: number) => p.shape !== undefined && p.shape[row] >= 0;
  const total = rows.reduce((sum, row) => sum + (isBent(row) ? 0 : own[p.prop[row]]!.length / 9), 0);
  const boxes = total > MOST_TRIANGLES ? p.props.map((id) => boxTriangles(boxOf(context, id))) : null;
  const faces: number[][] = [];
  let length = 0;
  const parts: { row: number; from: ArrayLike<number>; indices?: ArrayLike<number> }[] = [];
  for (const row of rows) {
    const bent = isBent(row) ? p.bent![p.shape![row]] : null;
    const from = bent ? bent.positions : boxes ? boxes[p.prop[row]] : own[p.prop[row]]!;
    parts.push({ row, from, ...(bent && { indices: bent.indices }) });
    length += from.length;
  }
  const positions = new Float64Array(length);
  let at = 0;
  for (const { row, from, indices } of parts) {
    const first = at / 3;
    at = carry(p, row, from, positions, at, indices !== undefined);
    const count = indices ? indices.length : from.length / 3;
    faces.push(Array.from({ length: count }, (_, i) => first + (indices ? indices[i] : i)));
  }
  const indices = new Uint32Array(faces.reduce((sum, f) => sum + f.length, 0));
  let k = 0;
  for (const f of faces) {
    indices.set(f, k);
    k += f.length;
  }
  return makeTriMesh({ positions, normals: new Float64Array(length), indices });
}

/** Writes places of a row's own space as they stand in the scene. @param sized whether they are at their size already */
function carry(
  p: Placements,
  row: number,
  from: ArrayLike<number>,
  out: Float64Array,
  at: number,
  sized: boolean,
): number {
  const [x, y, z, w] = p.rotation.subarray(row * 4, row * 4 + 4);
  const m = [
    [1 - 2 * (y * y + z * z), 2 * (x * y - z * w), 2 * (x * z + y * w)],
    [2 * (x * y + z * w), 1 - 2 * (x * x + z * z), 2 * (y * z - x * w)],
    [2 * (x * z - y * w), 2 * (y * z + x * w), 1 - 2 * (x * x + y * y)],
  ];
  const size = [0, 1, 2].map((a) => (sized ? 1 : p.scale[row * 3 + a]));
  for (let o = 0; o < from.length; o += 3, at += 3)
    for (let a = 0; a < 3; a++)
      out[at + a] =
        p.position[row * 3 + a] +
        m[a][0] * from[o] * size[0] +
        m[a][1] * from[o + 1] * size[1] +
        m[a][2] * from[o + 2] * size[2];
  return at;
}

/** The twelve triangles of a box, nine numbers each. */
function boxTriangles(box: ReturnType<typeof boxOf>): Float64Array {
  if (!box) return new Float64Array(0);
  const { positions, indices } = boxMesh(box);
  return Float64Array.from([...indices].flatMap((i) => [...positions.subarray(i * 3, i * 3 + 3)]));
}
