import type { Inside } from '../arrange/inside';
import { membersOf } from '../arrange/inside';
import { STATE, type ArrangementResult, type Placements } from '../arrange/result';
import { writeAffine, writeProduct } from '../math/affine';
import { keptBounds, propMatrix, type Mesh } from '../mesh/mesh';
import type { PlacedMesh } from '../mesh/merged';
import type { Prop } from '../mesh/propSchema';

/** What placed meshes are made of. */
export interface PropLooks {
  /** A prop with its mesh; undefined where that is not at hand. Of bundles their whole mesh, where copies are not told apart. */
  prop(id: string): { prop: Prop; mesh: Mesh } | undefined;
  /** Id of the material that a prop wears which arrangements, from outside in, have placed. */
  wears(prop: Prop, placedBy: readonly string[]): string | undefined;
}

const ONE = [1, 1, 1];

/** The rows of an arrangement that are placed, each with its mesh; in the place of copies of bundles what those hold. */
export function placedMeshes(
  arrangement: string,
  { placements, inside }: Pick<ArrangementResult, 'placements' | 'inside'>,
  looks: PropLooks,
): PlacedMesh[] {
  const copies = new Set(inside?.copy);
  const rows = rowMeshes(arrangement, placements, looks, (row) => !copies.has(row));
  return inside ? [...rows, ...copiedMeshes(arrangement, inside, looks)] : rows;
}

/** The rows that are placed, each with its mesh where it stands. @param counts whether a row does */
export function rowMeshes(
  arrangement: string,
  p: Placements,
  { prop, wears }: PropLooks,
  counts: (row: number) => boolean = () => true,
): PlacedMesh[] {
  const found = p.props.map(prop);
  const out: PlacedMesh[] = [];
  for (let row = 0; row < p.count; row++) {
    const of = p.prop[row] < 0 || p.state[row] !== STATE.placed ? undefined : found[p.prop[row]];
    if (!of || !counts(row)) continue;
    const bent = p.bent?.[p.shape?.[row] ?? -1];
    const placed = new Float64Array(16);
    writeAffine(
      placed,
      0,
      p.position,
      row * 3,
      p.rotation,
      row * 4,
      bent ? ONE : p.scale,
      bent ? 0 : row * 3,
    );
    out.push({
      ...standing(of, placed, bent, p.posed?.[p.pose?.[row] ?? -1]),
      tint: p.tint?.subarray(row * 3, row * 3 + 3),
      wears: wears(of.prop, [arrangement]),
      of: `${arrangement} ${of.prop.id}`,
    });
  }
  return out;
}

/** What copies of bundles hold, each with its mesh where it stands. */
function copiedMeshes(arrangement: string, inside: Inside, { prop, wears }: PropLooks): PlacedMesh[] {
  const found = inside.props.map(prop);
  const out: PlacedMesh[] = [];
  for (let row = 0; row < inside.count; row++) {
    const of = inside.bundle[row] ? undefined : found[inside.prop[row]];
    if (!of) continue;
    const members = membersOf(inside, row);
    const placed = inside.matrix.subarray(row * 16, row * 16 + 16);
    const bent = inside.bent?.[inside.shape?.[row] ?? -1];
    out.push({
      ...standing(of, placed, bent, inside.posed?.[inside.pose?.[row] ?? -1]),
      tint: inside.tint?.subarray(row * 3, row * 3 + 3),
      wears: wears(of.prop, [arrangement, ...members]),
      of: `${[arrangement, ...members].join('/')} ${of.prop.id}`,
    });
  }
  return out;
}

/** A shape of its own and a pose are in the own space of the prop; its mesh has to be brought there. */
function standing(
  { prop, mesh }: { prop: Prop; mesh: Mesh },
  placed: Float64Array,
  bent: NonNullable<Placements['bent']>[number] | undefined,
  posed: NonNullable<Placements['posed']>[number] | undefined,
): Pick<PlacedMesh, 'mesh' | 'matrix'> {
  if (bent)
    return { mesh: { ...mesh, ...bent, positions: Float32Array.from(bent.positions) }, matrix: placed };
  if (posed) return { mesh: { ...mesh, positions: posed.positions, normals: posed.normals }, matrix: placed };
  const matrix = new Float64Array(16);
  writeProduct(matrix, 0, placed, 0, propMatrix(prop, keptBounds(mesh)), 0);
  return { mesh, matrix };
}
