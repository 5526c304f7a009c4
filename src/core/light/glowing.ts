import { linearColor } from '../math/color';
import type { Vec3 } from '../math/vec3';
import type { Glow } from './lampSchema';

/** The lamps that glowing props are: a structure of arrays, as many as there are, xyz and linear rgb each. */
export interface Lamps {
  count: number;
  at: Float64Array;
  /** Strength times colour. */
  light: Float64Array;
}

/** Placed copies of one prop that glows. */
export interface GlowingCopies {
  glow: Glow;
  /** Where its light comes from, in the prop's own space. */
  middle: Vec3;
  /** Column-major, 16 a copy. */
  matrices: Float32Array;
  count: number;
  /** Linear rgb a copy: what is tinted glows in that colour. */
  tints?: Float32Array;
}

/** One lamp a copy of a prop that glows, in the middle of it. */
export function lampsOf(copies: readonly GlowingCopies[]): Lamps {
  const count = copies.reduce((n, c) => n + c.count, 0);
  const lamps: Lamps = { count, at: new Float64Array(count * 3), light: new Float64Array(count * 3) };
  let o = 0;
  for (const { glow, middle, matrices: m, count: n, tints } of copies) {
    const color = linearColor(glow.color);
    for (let i = 0; i < n; i++)
      for (let k = 0; k < 3; k++, o++) {
        const e = i * 16 + k;
        lamps.at[o] = m[e] * middle[0] + m[e + 4] * middle[1] + m[e + 8] * middle[2] + m[e + 12];
        lamps.light[o] = color[k] * glow.strength * (tints ? tints[i * 3 + k] : 1);
      }
  }
  return lamps;
}

/**
 * Lamps of which at most so many are left: those that share a cell of space become one, at the middle of their light and
 * as strong as they are together. The cells are as small as that allows, to a factor of two.
 */
export function gathered(lamps: Lamps, most: number): Lamps {
  if (lamps.count <= most) return lamps;
  let cell = reach(lamps) / 1024;
  for (;;) {
    const cells = inCells(lamps, cell, most);
    if (cells) return merged(lamps, cells);
    cell *= 2;
  }
}

/** The longest side of the box around all of them; never nothing. */
function reach({ at, count }: Lamps): number {
  let longest = 1e-6;
  for (let k = 0; k < 3; k++) {
    let [low, high] = [Infinity, -Infinity];
    for (let i = 0; i < count; i++) {
      low = Math.min(low, at[i * 3 + k]);
      high = Math.max(high, at[i * 3 + k]);
    }
    longest = Math.max(longest, high - low);
  }
  return longest;
}

/** Lamps by the cell that they are in; null where there are more cells than may be. */
function inCells({ at, count }: Lamps, cell: number, most: number): number[][] | null {
  const cells = new Map<string, number[]>();
  for (let i = 0; i < count; i++) {
    const key = [0, 1, 2].map((k) => Math.floor(at[i * 3 + k] / cell)).join();
    const have = cells.get(key);
    if (have) have.push(i);
    else if (cells.size === most) {
      // The cells about the origin are eight at any size: so few are kept as one.
      if (cell < 1e9) return null;
      cells.values().next().value!.push(i);
    } else cells.set(key, [i]);
  }
  return [...cells.values()];
}

function merged({ at, light }: Lamps, cells: number[][]): Lamps {
  const out: Lamps = {
    count: cells.length,
    at: new Float64Array(cells.length * 3),
    light: new Float64Array(cells.length * 3),
  };
  cells.forEach((members, c) => {
    let weight = 0;
    for (const i of members) {
      const bright = light[i * 3] + light[i * 3 + 1] + light[i * 3 + 2] + 1e-12;
      weight += bright;
      for (let k = 0; k < 3; k++) {
        out.at[c * 3 + k] += bright * at[i * 3 + k];
        out.light[c * 3 + k] += light[i * 3 + k];
      }
    }
    for (let k = 0; k < 3; k++) out.at[c * 3 + k] /= weight;
  });
  return out;
}

/**
 * Which of so many lamps a frame of a picture has, if a few of them are in each and all frames are added up. Each is in
 * as many frames as any other, give or take one, and is the stronger for it, so that the mean of all frames is just the
 * light of all lamps at once.
 * @param few lamps of a frame, at least @param n the frame, from 0 to below `frames`
 */
export function lampsInFrame(
  count: number,
  frames: number,
  few: number,
  n: number,
): { lamps: number[]; times: number } {
  if (count === 0) return { lamps: [], times: 0 };
  const groups = Math.min(frames, Math.ceil(count / few));
  const group = n % groups;
  const lamps: number[] = [];
  // Every so many of them, so that those of one frame are all over the scene.
  for (let i = group; i < count; i += groups) lamps.push(i);
  return { lamps, times: frames / (Math.floor((frames - 1 - group) / groups) + 1) };
}

/** The most lamps that a frame may have to hold. */
export const mostInFrame = (count: number, frames: number, few: number): number =>
  count === 0 ? 0 : Math.ceil(count / Math.min(frames, Math.ceil(count / few)));
