import { propShape, type PropShape } from '../../mesh/contact/support';
import { shapeOf, type ArrangeContext } from '../context';
import { STATE, type Placements } from '../result';
import { matrixOf } from './groundContact';

/**
 * What lands as one with what it sits on is part of what touches the ground: the lowest of all holds all of them.
 */

/** Rows of a 3 × 4 matrix. */
type Affine = Float64Array;

/** Places nearer to each other than this, metres, are one: what sits alike has one shape. */
const ALIKE = 1e-9;
/** Shapes that are kept; where all sit otherwise, each is made when its row is asked for. */
const MOST = 64;

/**
 * The shapes of rows with all that sits on each.
 * @param bare the rows as they stand before they land @param sitting what sits on them there, by their slot ids
 * @param shapes of the props that the rows count @returns of one row; undefined where its own mesh is not at hand
 */
export function shapesAsOne(
  bare: Placements,
  sitting: readonly Placements[],
  shapes: readonly (PropShape | undefined)[],
  context: ArrangeContext,
): (row: number) => PropShape | undefined {
  const onSlot = new Map<number, { of: Placements; row: number }[]>();
  for (const of of sitting)
    for (let row = 0; row < of.count; row++) {
      if (of.state[row] !== STATE.placed) continue;
      const there = onSlot.get(of.slot[row]);
      if (there) there.push({ of, row });
      else onSlot.set(of.slot[row], [{ of, row }]);
    }
  const made = new Map<string, PropShape>();
  let last: { row: number; shape: PropShape } | null = null;
  return (row) => {
    const own = shapes[bare.prop[row]];
    const pieces = own && onSlot.get(bare.slot[row]);
    if (!pieces) return own;
    if (last?.row === row) return last.shape;
    const seats = pieces.map((p) => ({
      id: p.of.props[p.of.prop[p.row]],
      to: seatOf(bare, row, p.of, p.row),
    }));
    const key = [bare.prop[row], ...seats.map(({ id, to }) => `${id} ${to.join(' ')}`)].join('|');
    let shape = made.get(key);
    if (!shape) {
      if (made.size >= MOST) made.clear();
      made.set(key, (shape = joined(own, seats, context)));
    }
    last = { row, shape };
    return shape;
  };
}

/** From the own space of what sits there to that of the row it sits on. */
function seatOf(bare: Placements, row: number, of: Placements, rider: number): Affine {
  const m = matrixOf(of, rider);
  const under = matrixOf(bare, row);
  const out = new Float64Array(12);
  // The inverse of a turn and sizes: its columns, each by the square of its length.
  for (let r = 0; r < 3; r++) {
    const [x, y, z] = [under[r], under[3 + r], under[6 + r]];
    const square = x * x + y * y + z * z;
    for (let c = 0; c < 4; c++) {
      const [a, b, d] =
        c < 3
          ? [m[c], m[3 + c], m[6 + c]]
          : [0, 1, 2].map((k) => of.position[rider * 3 + k] - bare.position[row * 3 + k]);
      out[r * 4 + c] = Math.round((x * a + y * b + z * d) / square / ALIKE) * ALIKE;
    }
  }
  return out;
}

function joined(own: PropShape, seats: { id: string; to: Affine }[], context: ArrangeContext): PropShape {
  const parts = [own.triangles()];
  for (const { id, to } of seats) {
    const t = shapeOf(context, id)?.triangles() ?? new Float64Array(0);
    const turned = new Float64Array(t.length);
    for (let o = 0; o < t.length; o += 3)
      for (let r = 0; r < 3; r++)
        turned[o + r] =
          to[r * 4] * t[o] + to[r * 4 + 1] * t[o + 1] + to[r * 4 + 2] * t[o + 2] + to[r * 4 + 3];
    parts.push(turned);
  }
  const all = new Float64Array(parts.reduce((n, p) => n + p.length, 0));
  let at = 0;
  for (const part of parts) {
    all.set(part, at);
    at += part.length;
  }
  return propShape(
    all,
    SAME,
    Uint32Array.from({ length: all.length / 3 }, (_, i) => i),
  );
}

const SAME = [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1];
