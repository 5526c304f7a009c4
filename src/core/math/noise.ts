import { channel, randomBase, randomOf } from './random';

/** Corners of a cube as directions: twelve edges' middles, four of them twice (Perlin: Improving Noise, 2002). */
const DIRECTIONS = [
  [1, 1, 0],
  [-1, 1, 0],
  [1, -1, 0],
  [-1, -1, 0],
  [1, 0, 1],
  [-1, 0, 1],
  [1, 0, -1],
  [-1, 0, -1],
  [0, 1, 1],
  [0, -1, 1],
  [0, 1, -1],
  [0, -1, -1],
  [1, 1, 0],
  [-1, 1, 0],
  [0, -1, 1],
  [0, -1, -1],
] as const;
const KEY = channel('noise');

const fade = (t: number) => t * t * t * (t * (t * 6 - 15) + 10);

/**
 * Gradient noise in space: smooth, about −1 to 1, 0 at every whole place. The same seed gives the same everywhere.
 * @returns a function of a place in cells
 */
export function noise3(seed: number): (x: number, y: number, z: number) => number {
  const base = randomBase(seed, KEY);
  return (x, y, z) => {
    const ix = Math.floor(x);
    const iy = Math.floor(y);
    const iz = Math.floor(z);
    const fx = x - ix;
    const fy = y - iy;
    const fz = z - iz;
    const u = fade(fx);
    const v = fade(fy);
    const w = fade(fz);
    const near = mix(
      mix(slope(base, ix, iy, iz, fx, fy, fz), slope(base, ix + 1, iy, iz, fx - 1, fy, fz), u),
      mix(
        slope(base, ix, iy + 1, iz, fx, fy - 1, fz),
        slope(base, ix + 1, iy + 1, iz, fx - 1, fy - 1, fz),
        u,
      ),
      v,
    );
    const far = mix(
      mix(
        slope(base, ix, iy, iz + 1, fx, fy, fz - 1),
        slope(base, ix + 1, iy, iz + 1, fx - 1, fy, fz - 1),
        u,
      ),
      mix(
        slope(base, ix, iy + 1, iz + 1, fx, fy - 1, fz - 1),
        slope(base, ix + 1, iy + 1, iz + 1, fx - 1, fy - 1, fz - 1),
        u,
      ),
      v,
    );
    return mix(near, far, w);
  };
}

const mix = (a: number, b: number, t: number): number => a + (b - a) * t;

/** What the slope of a cell's corner comes to at a place seen from it. */
function slope(
  base: ReturnType<typeof randomBase>,
  ix: number,
  iy: number,
  iz: number,
  x: number,
  y: number,
  z: number,
): number {
  // 1000 cells either way and more: they repeat after 2^17, far beyond any scene.
  const cell = (ix & 0x1ffff) * 17179869184 + (iy & 0x1ffff) * 131072 + (iz & 0x1ffff);
  const d = DIRECTIONS[Math.floor(randomOf(base, cell) * 16)];
  return d[0] * x + d[1] * y + d[2] * z;
}

/** Several layers of noise, each half as strong and twice as fine as the one before; about −1 to 1. */
export function layered(
  seed: number,
  layers: number,
  roughness = 0.5,
): (x: number, y: number, z: number) => number {
  const parts = Array.from({ length: layers }, (_, i) => noise3(seed + i * 101));
  return (x, y, z) => {
    let sum = 0;
    let weight = 1;
    let scale = 1;
    for (const part of parts) {
      sum += weight * part(x * scale, y * scale, z * scale);
      weight *= roughness;
      scale *= 2;
    }
    return sum;
  };
}
