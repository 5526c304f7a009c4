import { add, cross, dot, normalize, scale, type Vec3 } from '@/core/math/vec3';

/** How a camera has to stand to see all of a box, as large as it can be, clear of what lies over the view. */

export interface Box {
  min: Vec3;
  max: Vec3;
}

/** What is left free at each border, as shares of the width or the height of the view. */
export interface Insets {
  top: number;
  bottom: number;
  left: number;
  right: number;
}

/** The box around some places, at least one. */
export function boxOf(places: readonly (readonly number[])[]): Box {
  const edge = (of: (...v: number[]) => number) =>
    [0, 1, 2].map((k) => places.reduce((best, p) => of(best, p[k]), places[0][k])) as Vec3;
  return { min: edge(Math.min), max: edge(Math.max) };
}

/**
 * A box that is no thinner than a tenth of its longest side: a line that is seen from its end shows something of what is
 * around it.
 */
export function broadened({ min, max }: Box): Box {
  const long = Math.max(...max.map((v, a) => v - min[a]));
  const more = max.map((v, a) => Math.max(0, long / 10 - (v - min[a])) / 2);
  return { min: min.map((v, a) => v - more[a]) as Vec3, max: max.map((v, a) => v + more[a]) as Vec3 };
}

/** The axes of a camera that looks against `way`: to its right, up, and back to it. */
function axesOf(way: Vec3, upward: Vec3): [right: Vec3, up: Vec3, back: Vec3] {
  const back = normalize(way, [0, 0, 1]);
  const right = normalize(cross(upward, back), [1, 0, 0]);
  return [right, cross(back, right), back];
}

function cornersOf({ min, max }: Box): Vec3[] {
  return Array.from({ length: 8 }, (_, k) => [0, 1, 2].map((a) => (k & (1 << a) ? max[a] : min[a])) as Vec3);
}

/**
 * The nearest that lets two borders at once hold everything: each place has to be inside both of their planes.
 * @param at across and back of each place @param low, high slopes of the two planes, positive
 */
function between(
  at: [number, number][],
  low: number,
  high: number,
): { back: number; from: number; to: number } {
  const most = Math.max(...at.map(([x, z]) => x + high * z));
  const least = Math.max(...at.map(([x, z]) => -x + low * z));
  return { back: (most + least) / (high + low), from: most, to: least };
}

/**
 * Where the eye of a perspective camera stands, and the place in the middle of the view as far away as the box is.
 * @param way unit, from what is seen to the eye @param half tangent of half the angle of view, up and down
 */
export function fitEye(
  box: Box,
  way: Vec3,
  { half, aspect, insets, up = [0, 1, 0] }: { half: number; aspect: number; insets: Insets; up?: Vec3 },
): { eye: Vec3; target: Vec3 } {
  const [right, above, back] = axesOf(way, up);
  const seen = cornersOf(box).map((p): Vec3 => [dot(p, right), dot(p, above), dot(p, back)]);
  const wide = half * aspect;
  const [l, r] = [wide * (1 - 2 * insets.left), wide * (1 - 2 * insets.right)];
  const [b, t] = [half * (1 - 2 * insets.bottom), half * (1 - 2 * insets.top)];
  const across = between(
    seen.map(([x, , z]) => [x, z]),
    l,
    r,
  );
  const tall = between(
    seen.map(([, y, z]) => [y, z]),
    b,
    t,
  );
  const z = Math.max(across.back, tall.back);
  // In the middle of what room there is to either side.
  const x = (across.from - r * z + l * z - across.to) / 2;
  const y = (tall.from - t * z + b * z - tall.to) / 2;
  const place = (depth: number) => add(add(scale(right, x), scale(above, y)), scale(back, depth));
  const middle = (Math.min(...seen.map((p) => p[2])) + Math.max(...seen.map((p) => p[2]))) / 2;
  return { eye: place(z), target: place(Math.min(middle, z - 1e-3)) };
}

/** The middle of the view of a camera without perspective, and half of its height, metres. */
export function fitStraight(
  box: Box,
  way: Vec3,
  { aspect, insets, up = [0, 1, 0] }: { aspect: number; insets: Insets; up?: Vec3 },
): { target: Vec3; half: number } {
  const [right, above, back] = axesOf(way, up);
  const reach = (axis: Vec3): [number, number] => {
    const at = cornersOf(box).map((p) => dot(p, axis));
    return [Math.min(...at), Math.max(...at)];
  };
  const [[x0, x1], [y0, y1], [z0, z1]] = [reach(right), reach(above), reach(back)];
  const half = Math.max(
    (y1 - y0) / 2 / (1 - insets.top - insets.bottom),
    (x1 - x0) / 2 / aspect / (1 - insets.left - insets.right),
    0.05,
  );
  const x = (x0 + x1) / 2 + (insets.right - insets.left) * half * aspect;
  const y = (y0 + y1) / 2 + (insets.top - insets.bottom) * half;
  return { target: add(add(scale(right, x), scale(above, y)), scale(back, (z0 + z1) / 2)), half };
}
