import type { Mesh } from '@/core/mesh/mesh';
import { COLORS as C, Shape } from '../shape';

/** What a ship’s chandler keeps, and what it stands on. Metres, Y up, front +Z, base at y = 0. */

/** A tin with its label to the front. */
const tinOf = (label: string) => (): Mesh =>
  new Shape()
    .turned(
      [
        [0, 0],
        [0.05, 0],
        [0.05, 0.012],
        [0.048, 0.016],
        [0.048, 0.104],
        [0.05, 0.108],
        [0.05, 0.12],
        [0.044, 0.116],
        [0, 0.116],
      ],
      16,
      [C.iron, C.iron, C.iron, label, C.iron, C.iron, C.iron, C.stone],
      true,
    )
    .moveTo(0, 0.04, 0.0485)
    .box(0.034, 0.042, 0.003, C.linen)
    .mesh();

export const tin = tinOf(C.madder);
export const tarTin = tinOf(C.woad);

/** A jar with a lid and a label. */
export const jar = (): Mesh =>
  new Shape()
    .turned(
      [
        [0, 0],
        [0.055, 0],
        [0.062, 0.012],
        [0.062, 0.115],
        [0.046, 0.135],
        [0.046, 0.142],
        [0.053, 0.142],
        [0.053, 0.165],
        [0, 0.165],
      ],
      14,
      [C.water, C.water, C.water, C.water, C.water, C.weld, C.weld, C.weld],
      true,
    )
    .moveTo(0, 0.035, 0.0585)
    .box(0.05, 0.05, 0.006, C.white)
    .mesh();

/** A small coil of line, tied, standing on its flat side. */
export const lineCoil = (): Mesh => {
  const s = new Shape();
  for (let k = 0; k < 4; k++)
    s.moveTo(0, 0.018 + k * 0.03, 0).turned(
      [
        [0.055, -0.016],
        [0.105, -0.016],
        [0.112, 0],
        [0.105, 0.016],
        [0.055, 0.016],
        [0.055, -0.016],
      ],
      14,
      k % 2 ? C.paleWood : C.rope,
    );
  return s.moveTo(0, 0, 0.085).box(0.03, 0.124, 0.06, C.plum).mesh();
};

/** A shallow open crate for jars: four of them stand in it. */
export const jarCrate = (): Mesh => {
  const s = new Shape();
  s.moveTo(0, 0, 0).box(0.36, 0.012, 0.3, C.paleWood);
  for (const z of [-0.145, 0.145]) s.moveTo(0, 0, z).box(0.36, 0.1, 0.01, C.wood, 0.012);
  for (const x of [-0.175, 0.175]) s.moveTo(x, 0, 0).box(0.01, 0.1, 0.28, C.wood, 0.012);
  return s.mesh();
};

/** A deep box without a lid, for what comes off the boats: boards with gaps between them. */
export const fishBox = (): Mesh => {
  const s = new Shape();
  s.moveTo(0, 0, 0).box(1.2, 0.03, 0.8, C.paleWood);
  for (const y of [0.03, 0.23, 0.43]) {
    for (const z of [-0.385, 0.385]) s.moveTo(0, y, z).box(1.2, 0.17, 0.03, C.wood, 0.02);
    for (const x of [-0.585, 0.585]) s.moveTo(x, y, 0).box(0.03, 0.17, 0.74, C.wood, 0.02);
  }
  for (const x of [-0.55, 0.55])
    for (const z of [-0.35, 0.35]) s.moveTo(x, 0.03, z).box(0.04, 0.57, 0.04, C.paleWood);
  return s.mesh();
};

/** A rack: boards between four posts, open to the front. @param boards heights of their faces, from the lowest up */
const rackOf = (width: number, depth: number, boards: readonly number[], height: number) => (): Mesh => {
  const s = new Shape();
  for (const x of [-width / 2 + 0.025, width / 2 - 0.025])
    for (const z of [-depth / 2 + 0.02, depth / 2 - 0.02]) s.moveTo(x, 0, z).box(0.05, height, 0.04, C.wood);
  for (const y of boards) s.moveTo(0, y - 0.028, 0).box(width, 0.028, depth, C.paleWood);
  // Slats hold what stands deep.
  for (const x of [-width / 2 + 0.025, width / 2 - 0.025])
    for (const y of boards) s.moveTo(x, y + 0.09, 0).box(0.02, 0.03, depth - 0.08, C.wood);
  return s.mesh();
};

export const rack = rackOf(2, 0.45, [0.2, 0.7, 1.15, 1.6, 2.05], 2.1);
export const deepRack = rackOf(2.4, 0.75, [0.25, 1, 1.75], 2.2);
export const shallowRack = rackOf(1.6, 0.22, [0.5, 0.8, 1.1, 1.4, 1.7], 1.9);
