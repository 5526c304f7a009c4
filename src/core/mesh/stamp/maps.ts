import { LIGHT, linearChannel, shownByte } from '../../math/color';
import type { GreyPicture } from '../make/picture';
import type { Stamp } from '../meshRef';

/** Places along each side of a stamp's maps: they are laid beside each other on the way to the screen. */
export const STAMP_SIZE = 256;

/** What a stamp is drawn from, the upper row of its pictures first. */
export interface StampMaps {
  /** sRGB red, green, blue, multiplied (as light) by the alpha that is the fourth: 0–255. */
  color: Uint8Array;
  /** How much it rises from its left to its right side and from its upper to its lower one, at each place, for a depth of 1 m. */
  slope: Float32Array;
  /** Its height, 0–1; of a normal map nothing. */
  height: Float32Array | null;
}

/** The maps of a stamp, out of pictures of any size; what is not at hand is as if it were not there. */
export function stampMaps(
  stamp: Stamp,
  picture: (hash: string) => GreyPicture | undefined,
  size = STAMP_SIZE,
): StampMaps {
  const colors = stamp.picture ? picture(stamp.picture.hash) : undefined;
  const relief = stamp.relief ? picture(stamp.relief.hash) : undefined;
  const color = new Uint8Array(size * size * 4);
  if (colors) colored(colors, size, color);
  if (relief && stamp.reliefIs === 'normal')
    return { color, slope: slopesOfNormals(relief, stamp, size), height: null };
  const height = relief ? resized(relief, 1, (i) => relief.values[i], size) : null;
  return { color, slope: height ? slopesOf(height, size) : new Float32Array(size * size * 2), height };
}

function colored({ colours, values, width, height }: GreyPicture, size: number, out: Uint8Array): void {
  const own = (i: number, k: number) => {
    const alpha = colours ? colours[i * 4 + 3] / 255 : 1;
    if (k === 3) return alpha;
    return alpha * (colours ? LIGHT[colours[i * 4 + k]] : linearChannel(values[i]));
  };
  const all = resized({ width, height }, 4, own, size);
  for (let i = 0; i < all.length; i++) out[i] = i % 4 === 3 ? Math.round(255 * all[i]) : shownByte(all[i]);
}

/** A normal map as slopes: what leans to a side falls off to it. Sizes turn them from metres to sides of the stamp. */
function slopesOfNormals(relief: GreyPicture, { width, length }: Stamp, size: number): Float32Array {
  const at = (i: number, k: number) => ((relief.colours ? relief.colours[i * 4 + k] : 128) / 255) * 2 - 1;
  return resized(
    relief,
    2,
    (i, k) => {
      const [x, y, z] = [at(i, 0), at(i, 1), Math.max(0.05, at(i, 2))];
      return k === 0 ? (-x / z) * width : (y / z) * length;
    },
    size,
  );
}

/** Central differences, one-sided at the borders. */
function slopesOf(height: Float32Array, size: number): Float32Array {
  const out = new Float32Array(size * size * 2);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++) {
      const [l, r] = [Math.max(0, x - 1), Math.min(size - 1, x + 1)];
      const [u, d] = [Math.max(0, y - 1), Math.min(size - 1, y + 1)];
      out[(y * size + x) * 2] = ((height[y * size + r] - height[y * size + l]) / (r - l)) * size;
      out[(y * size + x) * 2 + 1] = ((height[d * size + x] - height[u * size + x]) / (d - u)) * size;
    }
  return out;
}

/** Another number of places: the mean of those in each, or what is between them where there are fewer. */
function resized(
  { width, height }: Pick<GreyPicture, 'width' | 'height'>,
  channels: number,
  at: (i: number, channel: number) => number,
  size: number,
): Float32Array {
  const [across, down] = [weights(width, size), weights(height, size)];
  const out = new Float32Array(size * size * channels);
  for (let y = 0; y < size; y++)
    for (let x = 0; x < size; x++)
      for (let k = 0; k < channels; k++) {
        let sum = 0;
        for (const [j, b] of down[y]) for (const [i, a] of across[x]) sum += a * b * at(j * width + i, k);
        out[(y * size + x) * channels + k] = sum;
      }
  return out;
}

/** For each of `size` places those of `n` that it is made of, with how much each counts. */
function weights(n: number, size: number): [place: number, share: number][][] {
  const k = n / size;
  return Array.from({ length: size }, (_, i) => {
    const middle = (i + 0.5) * k - 0.5;
    if (k <= 1) {
      const low = Math.floor(middle);
      const share = middle - low;
      const held = (v: number) => Math.min(n - 1, Math.max(0, v));
      return [
        [held(low), 1 - share],
        [held(low + 1), share],
      ];
    }
    const [from, to] = [i * k, (i + 1) * k];
    const out: [number, number][] = [];
    for (let p = Math.floor(from); p < Math.min(n, Math.ceil(to)); p++)
      out.push([p, (Math.min(to, p + 1) - Math.max(from, p)) / k]);
    return out;
  });
}
