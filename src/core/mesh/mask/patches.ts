import { noise3 } from '../../math/noise';
import { random01, channel } from '../../math/random';

/** Values of noise that are drawn once to know how they lie; any seed's lie alike. */
const DRAWN = 32_768;
const STEPS = 512;
const KEY = channel('mask.noise');

let levels: Float64Array | null = null;

/** The values below which each share of all noise lies. */
function quantiles(): Float64Array {
  if (levels) return levels;
  const noise = noise3(1);
  const drawn = Float64Array.from({ length: DRAWN }, (_, i) => {
    const at = [0, 1, 2].map((a) => 4096 * random01(a, i, KEY));
    return noise(at[0], at[1], at[2]);
  }).sort();
  return (levels = Float64Array.from({ length: STEPS + 1 }, (_, k) =>
    k === 0 ? -1 : k === STEPS ? 1 : drawn[Math.round((k / STEPS) * DRAWN)],
  ));
}

/**
 * Noise evened out: of a large area as much lies below a value as that value says, so that half of it is below 0.5.
 * @returns a function of a place in cells, 0–1
 */
export function shareOfNoise(seed: number): (x: number, y: number, z: number) => number {
  const noise = noise3(seed);
  const at = quantiles();
  return (x, y, z) => {
    // Whole places have none at all: level ground would lie in its one plane where noise is weakest.
    const value = noise(x + 0.31, y + 0.43, z + 0.17);
    let low = 0;
    let high = STEPS;
    while (high - low > 1) {
      const mid = (low + high) >> 1;
      if (at[mid] <= value) low = mid;
      else high = mid;
    }
    const width = at[high] - at[low];
    const within = width > 0 ? (value - at[low]) / width : 0;
    return Math.min(1, Math.max(0, (low + within) / STEPS));
  };
}
