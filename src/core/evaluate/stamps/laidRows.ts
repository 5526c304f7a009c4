import { STATE, type Finding, type Placements } from '../../arrange/result';
import { writeAffine, writeProduct } from '../../math/affine';
import type { Stamp } from '../../mesh/meshRef';
import { layStamp, STAMP_STRIDE, type StampGround } from '../../mesh/stamp/laid';

/** The stamps that an arrangement has placed, as they lie in the textures of surfaces. */
export interface ArrangementStamps {
  /** By row: whether it is drawn into a surface, instead of as a card. */
  laid: Uint8Array;
  on: { surface: string; numbers: Float32Array; rows: Uint32Array }[];
  /** How many lie on no surface that has texture coordinates. */
  cards: number;
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
  const on = new Map<string, Growing>();
  const placed = new Float64Array(16);
  const m = new Float64Array(16);
  const stands = { middle: new Float64Array(3), right: new Float64Array(3), down: new Float64Array(3) };
  let cards = 0;
  let row = 0;
  let relief = 0;
  let strength = 1;
  const write = ({ id }: StampGround, numbers: ArrayLike<number>) => {
    let list = on.get(id);
    if (!list) on.set(id, (list = new Growing(p.count)));
    const o = list.next(row);
    const to = list.numbers;
    for (let k = 0; k < 6; k++) to[o + k] = numbers[k];
    to[o + 6] = p.prop[row];
    to[o + 7] = relief;
    for (let k = 0; k < 3; k++) to[o + 8 + k] = p.tint ? p.tint[row * 3 + k] : 1;
    to[o + 11] = strength;
  };
  for (row = 0; row < p.count; row++) {
    const own = p.state[row] === STATE.placed && p.prop[row] >= 0 ? of[p.prop[row]] : undefined;
    if (!own) continue;
    const { stamp } = own;
    writeAffine(placed, 0, p.position, row * 3, p.rotation, row * 4, p.scale, row * 3);
    writeProduct(m, 0, placed, 0, own.matrix, 0);
    for (let k = 0; k < 3; k++) {
      stands.right[k] = m[k] * stamp.width;
      stands.down[k] = m[8 + k] * stamp.length;
      stands.middle[k] = m[12 + k];
    }
    const c = stamp.reliefIs === 'normal' ? 0 : 4;
    const factor = Math.sqrt(m[c] * m[c] + m[c + 1] * m[c + 1] + m[c + 2] * m[c + 2]);
    strength = stamp.strength;
    relief = strength * factor * (stamp.reliefIs === 'normal' ? 1 : stamp.depth);
    if (layStamp(stands, surfaces, write)) laid[row] = 1;
    else cards++;
  }
  return {
    laid,
    on: [...on].map(([surface, list]) => ({ surface, ...list.whole() })),
    cards,
    stamps: of.map((o) => o?.stamp ?? null),
  };
}

/** What was found, and that stamps lie on nothing that they could be drawn into. */
export function withCards(findings: Finding[], node: string, count: number): Finding[] {
  if (count === 0 && findings.every((f) => f.kind !== 'stamps-cards')) return findings;
  const others = findings.filter((f) => f.kind !== 'stamps-cards');
  if (count === 0) return others;
  return [...others, { kind: 'stamps-cards', severity: 'warning', node, detail: { count } }];
}

/** Numbers of stamps and their rows, as many as there turn out to be. */
class Growing {
  numbers: Float32Array;
  private rows: Uint32Array;
  private count = 0;

  constructor(likely: number) {
    this.numbers = new Float32Array(likely * STAMP_STRIDE);
    this.rows = new Uint32Array(likely);
  }

  /** Takes another one in. @returns where its numbers begin */
  next(row: number): number {
    if (this.count === this.rows.length) {
      const [numbers, rows] = [this.numbers, this.rows];
      this.numbers = new Float32Array(numbers.length * 2);
      this.rows = new Uint32Array(rows.length * 2);
      this.numbers.set(numbers);
      this.rows.set(rows);
    }
    this.rows[this.count] = row;
    return this.count++ * STAMP_STRIDE;
  }

  whole(): { numbers: Float32Array; rows: Uint32Array } {
    return {
      numbers: this.numbers.slice(0, this.count * STAMP_STRIDE),
      rows: this.rows.slice(0, this.count),
    };
  }
}
