import { cos, hypot, sin } from './portable';

/** A point or direction in metres, right-handed, Y up. */
export type Vec3 = [number, number, number];

/** a + b. */
export const add = (a: Vec3, b: Vec3): Vec3 => [a[0] + b[0], a[1] + b[1], a[2] + b[2]];
/** a − b. */
export const sub = (a: Vec3, b: Vec3): Vec3 => [a[0] - b[0], a[1] - b[1], a[2] - b[2]];
/** k·a. */
export const scale = (a: Vec3, k: number): Vec3 => [a[0] * k, a[1] * k, a[2] * k];
/** a + k·b. */
export const addScaled = (a: Vec3, b: Vec3, k: number): Vec3 => [
  a[0] + b[0] * k,
  a[1] + b[1] * k,
  a[2] + b[2] * k,
];
/** Dot product. */
export const dot = (a: Vec3, b: Vec3): number => a[0] * b[0] + a[1] * b[1] + a[2] * b[2];
/** Cross product a × b, right-handed. */
export const cross = (a: Vec3, b: Vec3): Vec3 => [
  a[1] * b[2] - a[2] * b[1],
  a[2] * b[0] - a[0] * b[2],
  a[0] * b[1] - a[1] * b[0],
];
/** Euclidean length. */
export const length = (a: Vec3): number => hypot(a[0], a[1], a[2]);
/** Euclidean distance from a to b. */
export const distance = (a: Vec3, b: Vec3): number => hypot(a[0] - b[0], a[1] - b[1], a[2] - b[2]);
/** From a (t = 0) to b (t = 1), linear. */
export const lerp = (a: Vec3, b: Vec3, t: number): Vec3 => [
  a[0] + (b[0] - a[0]) * t,
  a[1] + (b[1] - a[1]) * t,
  a[2] + (b[2] - a[2]) * t,
];

/** Unit vector along `a`; `fallback` where `a` has no direction (length below 1e-150). */
export function normalize(a: Vec3, fallback: Vec3 = [0, 0, 1]): Vec3 {
  const l = hypot(a[0], a[1], a[2]);
  return l > 1e-150 ? [a[0] / l, a[1] / l, a[2] / l] : fallback;
}

/** `v` turned by `angle` radians about the unit `axis` (Rodrigues). */
export function rotateAbout(v: Vec3, axis: Vec3, angle: number): Vec3 {
  const c = cos(angle);
  const s = sin(angle);
  const k = cross(axis, v);
  const d = dot(axis, v) * (1 - c);
  return [
    v[0] * c + k[0] * s + axis[0] * d,
    v[1] * c + k[1] * s + axis[1] * d,
    v[2] * c + k[2] * s + axis[2] * d,
  ];
}
