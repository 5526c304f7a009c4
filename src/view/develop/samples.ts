/**
 * Where the camera, the sun and the sky are put for each frame that a picture is added up from: by Halton's sequences,
 * which fill what they are drawn from evenly however many of them are taken.
 */

type Vec3 = [number, number, number];

/** The i-th number (from 0) of Halton's sequence to a base: 0 to below 1. */
export function halton(i: number, base: number): number {
  let [out, share] = [0, 1];
  for (let n = i + 1; n > 0; n = Math.floor(n / base)) {
    share /= base;
    out += share * (n % base);
  }
  return out;
}

/** By how much of a pixel the picture is moved to the right and down, −0.5 to 0.5. */
export const pixelShift = (i: number): [number, number] => [halton(i, 2) - 0.5, halton(i, 3) - 0.5];

/** A direction of unit length on a cone about another one, evenly over its disc. @param wide radians from side to side */
export function inDisc(i: number, [x, y, z]: Vec3, wide: number): Vec3 {
  const length = Math.hypot(x, y, z);
  const w: Vec3 = [x / length, y / length, z / length];
  // Any two directions square to it and to each other.
  const helper: Vec3 = Math.abs(w[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0];
  const u = unit(cross(helper, w));
  const v = cross(w, u);
  const r = Math.sqrt(halton(i, 2)) * Math.tan(wide / 2);
  const angle = halton(i, 3) * 2 * Math.PI;
  const [a, b] = [r * Math.cos(angle), r * Math.sin(angle)];
  return unit([0, 1, 2].map((k) => w[k] + a * u[k] + b * v[k]) as Vec3);
}

/** The i-th place in a ball, evenly over what it fills. */
export function inBall(i: number, [x, y, z]: Vec3, radius: number): Vec3 {
  if (radius === 0) return [x, y, z];
  const up = 2 * halton(i, 2) - 1;
  const angle = halton(i, 3) * 2 * Math.PI;
  const away = radius * Math.cbrt(halton(i, 5));
  const across = Math.sqrt(1 - up * up) * away;
  return [x + across * Math.cos(angle), y + up * away, z + across * Math.sin(angle)];
}

/** The i-th place on a disc that looks along a direction, evenly over it. */
export function onDisc(i: number, at: Vec3, way: Vec3, radius: number): Vec3 {
  if (radius === 0) return [...at];
  const w = unit(way);
  const u = unit(cross(Math.abs(w[1]) < 0.9 ? [0, 1, 0] : [1, 0, 0], w));
  const v = cross(w, u);
  const away = radius * Math.sqrt(halton(i, 2));
  const angle = halton(i, 3) * 2 * Math.PI;
  const [a, b] = [away * Math.cos(angle), away * Math.sin(angle)];
  return [0, 1, 2].map((k) => at[k] + a * u[k] + b * v[k]) as Vec3;
}

/** The turn after which directions come to lie between all that there were before: the golden one. */
const GOLDEN = (Math.sqrt(5) - 1) / 2;

/**
 * The i-th of so many directions of unit length above the horizon, Y up, evenly over the dome. They come in pairs that
 * face each other, so that whatever hides half of the dome hides half of them; and all heights are taken once.
 * @param of twice a power of two
 */
export function onDome(i: number, of: number): Vec3 {
  const pairs = of / 2;
  const pair = i >> 1;
  const y = (pair === 0 ? 0 : halton(pair - 1, 2)) + 0.5 / pairs;
  const r = Math.sqrt(1 - y * y);
  const angle = (pair * GOLDEN + (i % 2) / 2) * 2 * Math.PI;
  return [r * Math.cos(angle), y, r * Math.sin(angle)];
}

const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];

function unit(v: Vec3): Vec3 {
  const l = Math.hypot(...v);
  return [v[0] / l, v[1] / l, v[2] / l];
}
