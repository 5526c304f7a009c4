import type { Heights } from './heights';

/** A thousandth of a square is not seen. */
const NEAR = 1e-3;
const MOST_SWEEPS = 600;

/**
 * A sheet over heights that it cannot go below: of all such sheets the one for which ∫ softness² |∇h|² + (h − ground)² is
 * least, so that beside an upright wall of height H over flat ground it hangs as H · e^(−x / softness). By red-black
 * over-relaxation, each step held to the heights (projected SOR: Cryer 1971).
 * @returns heights that are nowhere lower than those given
 */
export function softened(heights: Heights, softness: number): Heights {
  const { columns, rows, cell } = heights;
  const ground = heights.y;
  const k = (softness / cell) * (softness / cell);
  if (!(k > 1e-6)) return heights;
  const y = ground.slice();
  const [width, height] = [columns + 1, rows + 1];
  // As over-relaxed as is best for waves as long as the softness.
  const mean = (4 * k) / (1 + 4 * k);
  const omega = 2 / (1 + Math.sqrt(1 - mean * mean));
  for (let sweep = 0; sweep < MOST_SWEEPS; sweep++) {
    let moved = 0;
    for (let colour = 0; colour < 2; colour++)
      for (let v = 0; v < height; v++)
        for (let u = (v + colour) & 1; u < width; u += 2) {
          const i = v * width + u;
          // At the rim it ends free: as if the neighbour beyond were as high.
          const sum =
            (u > 0 ? y[i - 1] : y[i]) +
            (u < columns ? y[i + 1] : y[i]) +
            (v > 0 ? y[i - width] : y[i]) +
            (v < rows ? y[i + width] : y[i]);
          const rest = (ground[i] + k * sum) / (1 + 4 * k);
          const next = Math.max(ground[i], y[i] + omega * (rest - y[i]));
          moved = Math.max(moved, Math.abs(next - y[i]));
          y[i] = next;
        }
    if (moved < cell * NEAR) break;
  }
  return { ...heights, y };
}
