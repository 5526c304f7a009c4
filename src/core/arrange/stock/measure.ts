import { DEG, quatMultiply, quatTurnTipRoll, type Quat } from '../../math/quat';
import type { Bounds } from '../../mesh/mesh';
import { lessen } from '../steps/maskedSites';
import { unvaried, VARIED, varier } from '../steps/variation';
import type { Stock } from './schema';

/** What masks say of the place of a facing: how much of all ranges counts, and a factor of size. */
export interface FacingMasks {
  amount: number;
  size: number;
}

/** The box of a prop as it stands on the board, about its foot: x0, x1 along the edge, y0, y1 up, z0, z1 out. */
export type Standing = Float64Array;

/**
 * Tells how much room props take as they are turned and sized, slot by slot. What moves a prop by chance is room that
 * it takes: so far it may go either way without reaching into another.
 * @param masks of the facing that a slot belongs to; null where no mask counts
 */
export function measurer(
  { stand, variation, seed }: Pick<Stock, 'stand' | 'variation' | 'seed'>,
  props: readonly string[],
  bounds: readonly (Bounds | undefined)[],
) {
  const draws = varier(variation, seed, props);
  const posed = quatTurnTipRoll(stand.turnDeg * DEG, stand.tipDeg * DEG, stand.rollDeg * DEG);
  const varied = unvaried();
  const box: Standing = new Float64Array(6);
  const same = props.map((_, p) => {
    const own = bounds[p];
    if (!own || own.max.some((v, a) => !(v >= own.min[a]))) return null;
    const out = new Float64Array(6);
    boxOf(own, posed, stand.size, stand.size, stand.size, out);
    return out;
  });
  return {
    /** Whether every one of a prop takes the same room. */
    alike: draws === null,
    /** Whether a prop takes any: those without a mesh do not stand anywhere. */
    known: (prop: number) => prop >= 0 && same[prop] !== null,
    /** The same array every time. */
    of(slot: number, prop: number, masks: FacingMasks | null): Standing {
      const sized = masks ? masks.size : 1;
      if (!draws && sized === 1) return same[prop]!;
      if (draws) draws.vary(slot, prop, varied);
      if (masks && masks.amount !== 1) lessen(varied, masks.amount);
      const v = varied;
      const turns = v[VARIED.turnDeg] !== 0 || v[VARIED.tipDeg] !== 0 || v[VARIED.rollDeg] !== 0;
      const q = turns
        ? quatMultiply(
            posed,
            quatTurnTipRoll(v[VARIED.turnDeg] * DEG, v[VARIED.tipDeg] * DEG, v[VARIED.rollDeg] * DEG),
          )
        : posed;
      const size = stand.size * sized * v[VARIED.size];
      const mirrored = v[VARIED.mirrored] > 0 ? -1 : 1;
      boxOf(
        bounds[prop]!,
        q,
        size * v[VARIED.sizeX] * mirrored,
        size * v[VARIED.sizeY],
        size * v[VARIED.sizeZ],
        box,
      );
      const [along, side, lift] = [v[VARIED.along], v[VARIED.side], v[VARIED.lift]];
      // To the right of the way out is back along the edge.
      box[0] += Math.min(0, -side);
      box[1] += Math.max(0, -side);
      box[3] += Math.max(0, lift);
      box[4] += Math.min(0, along);
      box[5] += Math.max(0, along);
      return box;
    },
  };
}
export type Measurer = ReturnType<typeof measurer>;

/** The box about a box that is sized by axis and then turned. */
function boxOf(
  { min, max }: Bounds,
  [x, y, z, w]: Quat,
  sx: number,
  sy: number,
  sz: number,
  out: Standing,
): void {
  const cx = ((min[0] + max[0]) / 2) * sx;
  const cy = ((min[1] + max[1]) / 2) * sy;
  const cz = ((min[2] + max[2]) / 2) * sz;
  const hx = ((max[0] - min[0]) / 2) * Math.abs(sx);
  const hy = ((max[1] - min[1]) / 2) * Math.abs(sy);
  const hz = ((max[2] - min[2]) / 2) * Math.abs(sz);
  const ax = 1 - 2 * (y * y + z * z);
  const ay = 2 * (x * y - z * w);
  const az = 2 * (x * z + y * w);
  const bx = 2 * (x * y + z * w);
  const by = 1 - 2 * (x * x + z * z);
  const bz = 2 * (y * z - x * w);
  const dx = 2 * (x * z - y * w);
  const dy = 2 * (y * z + x * w);
  const dz = 1 - 2 * (x * x + y * y);
  const x0 = ax * cx + ay * cy + az * cz;
  const y0 = bx * cx + by * cy + bz * cz;
  const z0 = dx * cx + dy * cy + dz * cz;
  const ex = Math.abs(ax) * hx + Math.abs(ay) * hy + Math.abs(az) * hz;
  const ey = Math.abs(bx) * hx + Math.abs(by) * hy + Math.abs(bz) * hz;
  const ez = Math.abs(dx) * hx + Math.abs(dy) * hy + Math.abs(dz) * hz;
  out[0] = x0 - ex;
  out[1] = x0 + ex;
  out[2] = y0 - ey;
  out[3] = y0 + ey;
  out[4] = z0 - ez;
  out[5] = z0 + ez;
}
