import type { Mesh } from '@/core/mesh/mesh';
import type { Vec3 } from '@/core/math/vec3';
import { cos, sin } from '@/core/math/portable';
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

/** An open wicker basket with two grips. */
export const creel = (): Mesh => {
  const s = new Shape().turned(
    [
      [0, 0],
      [0.13, 0],
      [0.15, 0.07],
      [0.165, 0.13],
      [0.18, 0.2],
      [0.165, 0.2],
      [0.13, 0.03],
      [0, 0.03],
    ],
    10,
    [C.wood, C.rope, C.paleWood, C.rope, C.wood, C.paleWood, C.wood],
    true,
  );
  for (const x of [-0.19, 0.19]) s.moveTo(x, 0.15, 0).box(0.03, 0.03, 0.1, C.wood);
  return s.mesh();
};

/** A wheel about an axle from left to right, with a mark on its rim; its inner side is not seen. */
function wheel(s: Shape, x: number, radius: number, z: number): void {
  const [sides, half] = [8, 0.035];
  const out = Math.sign(x);
  s.moveTo(x, radius, z);
  const rim = (k: number, side: number): Vec3 => {
    const a = (2 * Math.PI * k) / sides;
    return [side * half, sin(a) * radius, cos(a) * radius];
  };
  for (let k = 0; k < sides; k++) {
    s.face([rim(k, 1), rim(k, -1), rim(k + 1, -1), rim(k + 1, 1)], k === 0 ? C.white : C.deepInk);
    const corners: Vec3[] = [[out * (half + 0.012), 0, 0], rim(k, out), rim(k + 1, out)];
    s.face(out === 1 ? corners.reverse() : corners, k % 2 === 0 ? C.weld : C.madder);
  }
}

/** A wagon for the quay, drawn by hand, with four wheels that are named by its snap points. */
export const wagon = (): Mesh => {
  const s = new Shape();
  const [radius, wide, long] = [0.17, 0.36, 0.42];
  s.moveTo(0, 0, 0).box(0.62, 0.05, 1.2, C.paleWood, 0.36);
  for (const x of [-0.295, 0.295]) s.moveTo(x, 0, 0).box(0.03, 0.16, 1.2, C.woad, 0.41);
  for (const z of [-0.585, 0.585]) s.moveTo(0, 0, z).box(0.56, 0.16, 0.03, C.woad, 0.41);
  for (const z of [-long, long]) s.moveTo(0, 0, z).box(0.08, 0.16, 0.1, C.wood, 0.2);
  s.moveTo(0, 0, 0.95).box(0.04, 0.04, 0.72, C.wood, 0.3);
  const places = [-1, 1].flatMap((x) => [-1, 1].map((z) => [x * wide, z * long] as const));
  for (const [x, z] of places) wheel(s, x, radius, z);
  return s.mesh([
    ...places.map(([x, z]) => ({
      name: `wheel ${z > 0 ? 'front' : 'back'} ${x > 0 ? 'left' : 'right'}`,
      position: [x, radius, z] as Vec3,
    })),
    { name: 'bed', position: [0, 0.41, 0] as Vec3, direction: [0, 1, 0] as Vec3 },
  ]);
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
