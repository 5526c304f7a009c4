import type { Vec3 } from '../math/vec3';

/**
 * The colour of what glows at a temperature: linear red, green and blue (sRGB), the strongest of them 1.
 * Chromaticity by the cubics of Kim, Kim, Lee and Kim (2002).
 * @param kelvin 1,667 to 25,000
 */
export function colorOfWarmth(kelvin: number): Vec3 {
  const [x, y] = chromaticity(kelvin);
  const [X, Z] = [x / y, (1 - x - y) / y];
  const rgb: Vec3 = [
    3.2404542 * X - 1.5371385 - 0.4985314 * Z,
    -0.969266 * X + 1.8760108 + 0.041556 * Z,
    0.0556434 * X - 0.2040259 + 1.0572252 * Z,
  ];
  const most = Math.max(...rgb);
  return rgb.map((c) => Math.max(0, c) / most) as Vec3;
}

/** CIE 1931 x and y of a black body. @param kelvin 1,667 to 25,000 */
export function chromaticity(kelvin: number): [x: number, y: number] {
  const t = 1000 / Math.min(25000, Math.max(1667, kelvin));
  const x =
    t > 0.25
      ? ((-0.2661239 * t - 0.2343589) * t + 0.8776956) * t + 0.17991
      : ((-3.0258469 * t + 2.1070379) * t + 0.2226347) * t + 0.24039;
  const y =
    t > 0.45
      ? ((-1.1063814 * x - 1.3481102) * x + 2.18555832) * x - 0.20219683
      : t > 0.25
        ? ((-0.9549476 * x - 1.37418593) * x + 2.09137015) * x - 0.16748867
        : ((3.081758 * x - 5.8733867) * x + 3.75112997) * x - 0.37001483;
  return [x, y];
}
