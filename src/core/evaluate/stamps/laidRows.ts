import { STATE, type Placements } from '../../arrange/result';
import { writeAffine, writeProduct } from '../../math/affine';
import type { Stamp } from '../../mesh/meshRef';
import { layStamp, type StampGround } from '../../mesh/stamp/laid';

/** The stamps that an arrangement has placed, as they lie in the textures of surfaces. */
export interface ArrangementStamps {
  /** By row: whether it is drawn into a surface, instead of as a card. */
  laid: Uint8Array;
  on: { surface: string; numbers: Float32Array; rows: Uint32Array }[];
  /** By the number of the prop; null for one that is none. */
  stamps: (Stamp | null)[];
}

/** A stamp as a prop: what it is, and its map from its card to its own space. */
export interface StampProp {
  stamp: Stamp;
  matrix: Float64Array;
}

/**
 * Lays the stamps of an arrangement on the surfaces that it stands on.
 * @returns undefined where it has placed none @param prop undefined for a prop that is no stamp
 */
export function stampsOf(
  p: Placements,
  prop: (id: string) => StampProp | undefined,
  grounds: () => readonly StampGround[],
): ArrangementStamps | undefined {
  const of = p.props.map(prop);
  if (of.every((o) => !o)) return undefined;
  const surfaces = grounds();
  const laid = new Uint8Array(p.count);
  const on = new Map<string, { numbers: number[]; rows: number[] }>();
  const [placed, m] = [new Float64Array(16), new Float64Array(16)];
  const [right, down, middle] = [new Float64Array(3), new Float64Array(3), new Float64Array(3)];
  for (let row = 0; row < p.count; row++) {
    const own = p.state[row] === STATE.placed && p.prop[row] >= 0 ? of[p.prop[row]] : undefined;
    if (!own) continue;
    const { stamp } = own;
    writeAffine(placed, 0, p.position, row * 3, p.rotation, row * 4, p.scale, row * 3);
    writeProduct(m, 0, placed, 0, own.matrix, 0);
    for (let k = 0; k < 3; k++) {
      right[k] = m[k] * stamp.width;
      down[k] = m[8 + k] * stamp.length;
      middle[k] = m[12 + k];
    }
    const [wide, high] = [0, 4].map((c) =>
      Math.sqrt(m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]),
    );
    const relief = stamp.strength * (stamp.reliefIs === 'normal' ? wide : high * stamp.depth);
    const tint = p.tint ? p.tint.subarray(row * 3, row * 3 + 3) : WHITE;
    const found = layStamp({ middle, right, down }, surfaces, ({ id }, numbers) => {
      let list = on.get(id);
      if (!list) on.set(id, (list = { numbers: [], rows: [] }));
      for (let k = 0; k < 6; k++) list.numbers.push(numbers[k]);
      list.numbers.push(p.prop[row], relief, tint[0], tint[1], tint[2], stamp.strength);
      list.rows.push(row);
    });
    if (found) laid[row] = 1;
  }
  return {
    laid,
    on: [...on].map(([surface, { numbers, rows }]) => ({
      surface,
      numbers: Float32Array.from(numbers),
      rows: Uint32Array.from(rows),
    })),
    stamps: of.map((o) => o?.stamp ?? null),
  };
}

const WHITE = [1, 1, 1];
