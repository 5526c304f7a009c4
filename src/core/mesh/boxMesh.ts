import type { Bounds } from './mesh';

/** Corners of each side of a box going round outside; a corner's bits say at which end of each axis it lies. */
const SIDES = [
  [0, 4, 6, 2],
  [1, 3, 7, 5],
  [0, 1, 5, 4],
  [2, 6, 7, 3],
  [0, 2, 3, 1],
  [4, 5, 7, 6],
];

/** A box as a closed mesh: eight corners, two triangles a side, counter-clockwise outside. */
export function boxMesh({ min, max }: Bounds): { positions: Float64Array; indices: Uint32Array } {
  const corner = (i: number) => [0, 1, 2].map((a) => (i & (1 << a) ? max : min)[a]);
  return {
    positions: Float64Array.from(Array.from({ length: 8 }, (_, i) => corner(i)).flat()),
    indices: Uint32Array.from(SIDES.flatMap(([a, b, c, d]) => [a, b, c, a, c, d])),
  };
}
