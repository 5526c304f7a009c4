/**
 * A halo around what is bright: what lies above white is spread by a sum of bells, each twice as wide as the one before,
 * and added. The bells are worked out on pictures of half the size each (a pyramid), so that wide ones cost no more.
 */

/** Levels of the pyramid, below the picture itself. */
export const HALO_LEVELS = 6;
/** A bell of five: its shares of a pixel and of two on each side. */
export const HALO_BELL = [0.375, 0.25, 0.0625] as const;

/** How much each level has, for a halo that reaches so far; together one. @param reach 0–1: small to wide */
export function haloShares(reach: number): number[] {
  const middle = reach * (HALO_LEVELS - 1);
  const bells = Array.from({ length: HALO_LEVELS }, (_, k) => Math.max(0, 1.5 - Math.abs(k - middle)) + 0.05);
  const sum = bells.reduce((a, b) => a + b, 0);
  return bells.map((b) => b / sum);
}

/** What of a pixel's light spreads. @param exposure so many times its light is seen */
export const spreads = (light: number, exposure: number): number =>
  Math.max(0, light * exposure - 1) / exposure;

interface Level {
  width: number;
  height: number;
  /** rgb a pixel. */
  light: Float32Array;
}

/**
 * Adds a halo to a picture, in place.
 * @param rgba linear, alpha multiplied in, `width` × `height` pixels
 * @param amount how much of what is brighter than white spreads
 */
export function addHalo(
  rgba: Float32Array,
  width: number,
  height: number,
  exposure: number,
  amount: number,
  reach: number,
): void {
  if (amount <= 0) return;
  const shares = haloShares(reach);
  let level = halved(width, height, (i, c) => spreads(rgba[i * 4 + c], exposure));
  const levels: Level[] = [];
  for (let k = 0; k < HALO_LEVELS; k++) {
    levels.push(blurred(level));
    const { width: w, height: h, light } = levels[k];
    level = halved(w, h, (i, c) => light[i * 3 + c]);
  }
  // From the widest up, each laid over the next.
  let sum = scaled(levels[HALO_LEVELS - 1], shares[HALO_LEVELS - 1]);
  for (let k = HALO_LEVELS - 2; k >= 0; k--) {
    const { light, ...own } = scaled(levels[k], shares[k]);
    eachBetween(sum, own.width, own.height, (i, rgb) => {
      for (let c = 0; c < 3; c++) light[i * 3 + c] += rgb[c];
    });
    sum = { ...own, light };
  }
  eachBetween(sum, width, height, (i, rgb) => {
    for (let c = 0; c < 3; c++) rgba[i * 4 + c] += amount * rgb[c];
    // Where nothing is behind it the halo itself is what is there.
    rgba[i * 4 + 3] = Math.min(1, rgba[i * 4 + 3] + amount * Math.max(rgb[0], rgb[1], rgb[2]));
  });
}

/** Half as wide and high, rounded up; each pixel the mean of the four that it lies over. @param at of pixel i, channel c */
function halved(width: number, height: number, at: (i: number, c: number) => number): Level {
  const [w, h] = [Math.ceil(width / 2), Math.ceil(height / 2)];
  const light = new Float32Array(w * h * 3);
  for (let y = 0, o = 0; y < h; y++) {
    const [top, bottom] = [2 * y * width, Math.min(height - 1, 2 * y + 1) * width];
    for (let x = 0; x < w; x++) {
      const [left, right] = [2 * x, Math.min(width - 1, 2 * x + 1)];
      for (let c = 0; c < 3; c++)
        light[o++] =
          (at(top + left, c) + at(top + right, c) + at(bottom + left, c) + at(bottom + right, c)) / 4;
    }
  }
  return { width: w, height: h, light };
}

function blurred(level: Level): Level {
  return along(along(level, 1, 0), 0, 1);
}

function along({ width, height, light }: Level, dx: number, dy: number): Level {
  const out = new Float32Array(light.length);
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      for (let s = -2; s <= 2; s++) {
        const px = Math.max(0, Math.min(width - 1, x + s * dx));
        const py = Math.max(0, Math.min(height - 1, y + s * dy));
        const share = HALO_BELL[Math.abs(s)];
        for (let c = 0; c < 3; c++) out[(y * width + x) * 3 + c] += share * light[(py * width + px) * 3 + c];
      }
  return { width, height, light: out };
}

const scaled = ({ width, height, light }: Level, by: number): Level => ({
  width,
  height,
  light: light.map((v) => v * by),
});

/**
 * Reads a picture as one twice as large, pixel by pixel, as a card does: between the four nearest middles.
 * @param put told of each pixel of the larger one, and of its colour there
 */
function eachBetween(
  { width, height, light }: Level,
  wide: number,
  high: number,
  put: (i: number, rgb: Float64Array) => void,
): void {
  const rgb = new Float64Array(3);
  for (let y = 0, i = 0; y < high; y++) {
    const [top, bottom, down] = nearest(y, height);
    for (let x = 0; x < wide; x++, i++) {
      const [left, right, across] = nearest(x, width);
      const [a, b] = [(top * width + left) * 3, (top * width + right) * 3];
      const [d, e] = [(bottom * width + left) * 3, (bottom * width + right) * 3];
      for (let c = 0; c < 3; c++)
        rgb[c] =
          (light[a + c] * (1 - across) + light[b + c] * across) * (1 - down) +
          (light[d + c] * (1 - across) + light[e + c] * across) * down;
      put(i, rgb);
    }
  }
}

/**
 * The two pixels of a row of so many that one of a row twice as long lies between, and how far on it is. Twice, and not as
 * the lengths are: where they are odd all would be moved to one side.
 */
function nearest(i: number, count: number): [number, number, number] {
  const at = (i + 0.5) / 2 - 0.5;
  const first = Math.floor(at);
  return [Math.max(0, Math.min(count - 1, first)), Math.max(0, Math.min(count - 1, first + 1)), at - first];
}
