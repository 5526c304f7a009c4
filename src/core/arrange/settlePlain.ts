import type { Placements } from './result';
import type { Sites } from './sites';
import { turnTipRoll, writeHeading } from './steps/facing';
import type { Facing } from './steps/schema';
import { VARIED, type VariedColumns } from './steps/variation';

type Posing = Pick<
  Facing,
  'heading' | 'compassDeg' | 'alternate' | 'lift' | 'turnDeg' | 'tipDeg' | 'rollDeg' | 'size'
>;

/**
 * Whether what stands on a stretch just stands there: no way along a surface, no axes, nothing that is told or asked
 * slot by slot. With no hand, ground, target and waver in the recipe, {@link settlePlain} does for it.
 */
export const isPlain = (sites: Sites): boolean =>
  !sites.moved &&
  !sites.axes &&
  !sites.rotation &&
  !sites.scale &&
  !sites.turn &&
  !sites.faced &&
  !sites.settled;

/**
 * Position, size and turn of a whole stretch, one after the other for all of its slots: the same to the last bit as
 * slot by slot, and several times as fast, since nothing has to be asked in between.
 * @param varied values of the slots of the stretch; null where nothing varies
 * @param to the place that each slot moves to, where they have closed up
 * @param start the first row
 */
export function settlePlain(
  sites: Sites,
  posing: Posing,
  varied: VariedColumns | null,
  to: Int32Array | null,
  out: Placements,
  start: number,
): void {
  writePositions(sites, posing, varied, to, out, start);
  writeSizes(sites, posing, varied, to, out, start);
  writeTurns(sites, posing, varied, to, out, start);
}

function writePositions(
  { position: p, front: f, up: u, slot, endToEnd }: Sites,
  { lift }: Posing,
  varied: VariedColumns | null,
  to: Int32Array | null,
  { position }: Placements,
  start: number,
): void {
  const along = endToEnd ? undefined : varied?.[VARIED.along];
  const side = varied?.[VARIED.side];
  const lifts = varied?.[VARIED.lift];
  const n = slot.length;
  for (let i = 0, o = start * 3; i < n; i++, o += 3) {
    const r = (to === null ? i : to[i]) * 3;
    const on = along === undefined ? 0 : along[i];
    const right = side === undefined ? 0 : side[i];
    const above = lift + (lifts === undefined ? 0 : lifts[i]);
    const fx = f[r];
    const fy = f[r + 1];
    const fz = f[r + 2];
    const ux = u[r];
    const uy = u[r + 1];
    const uz = u[r + 2];
    position[o] = p[r] + fx * on + (fy * uz - fz * uy) * right + ux * above;
    position[o + 1] = p[r + 1] + fy * on + (fz * ux - fx * uz) * right + uy * above;
    position[o + 2] = p[r + 2] + fz * on + (fx * uy - fy * ux) * right + uz * above;
  }
}

function writeSizes(
  sites: Sites,
  { size: whole, alternate }: Posing,
  varied: VariedColumns | null,
  to: Int32Array | null,
  { scale }: Placements,
  start: number,
): void {
  const [sizes, xs, ys, zs] = [VARIED.size, VARIED.sizeX, VARIED.sizeY, VARIED.sizeZ].map((c) => varied?.[c]);
  const mirrored = varied?.[VARIED.mirrored];
  const flips = alternate === 'mirror';
  const n = sites.slot.length;
  for (let i = 0, o = start * 3; i < n; i++, o += 3) {
    const own = sites.size ? sites.size(i, to === null ? i : to[i]) : 1;
    const size = whole * own * (sizes === undefined ? 1 : sizes[i]);
    const turned = (flips && sites.odd(i)) !== (mirrored !== undefined && mirrored[i] > 0);
    scale[o] = size * (xs === undefined ? 1 : xs[i]) * (turned ? -1 : 1);
    scale[o + 1] = size * (ys === undefined ? 1 : ys[i]);
    scale[o + 2] = size * (zs === undefined ? 1 : zs[i]);
  }
}

function writeTurns(
  sites: Sites,
  posing: Posing,
  varied: VariedColumns | null,
  to: Int32Array | null,
  { rotation }: Placements,
  start: number,
): void {
  const n = sites.slot.length;
  for (let i = 0, o = start * 4; i < n; i++, o += 4)
    writeHeading(
      rotation,
      o,
      posing,
      sites,
      (to === null ? i : to[i]) * 3,
      null,
      sites.otherSide?.(i) ?? false,
    );
  const { turnDeg, tipDeg, rollDeg } = posing;
  const turns = posing.alternate === 'turn';
  if (turns || turnDeg !== 0 || tipDeg !== 0 || rollDeg !== 0)
    for (let i = 0, o = start * 4; i < n; i++, o += 4)
      turnTipRoll(rotation, o, turnDeg + (turns && sites.odd(i) ? 180 : 0), tipDeg, rollDeg);
  const own = [VARIED.turnDeg, VARIED.tipDeg, VARIED.rollDeg].map((c) => varied?.[c]);
  const [turn, tip, roll] = own;
  if (own.some((c) => c !== undefined))
    for (let i = 0, o = start * 4; i < n; i++, o += 4)
      turnTipRoll(
        rotation,
        o,
        turn === undefined ? 0 : turn[i],
        tip === undefined ? 0 : tip[i],
        roll === undefined ? 0 : roll[i],
      );
}
