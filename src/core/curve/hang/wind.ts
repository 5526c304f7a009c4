import { noise3 } from '../../math/noise';
import { cos, hypot, sin } from '../../math/portable';
import { DEG } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import type { Wind } from './schema';

/** Metres over which a gust is about one. */
const GUST_WIDE = 12;

/**
 * Which way things hang at a place while the wind blows there: straight down, and so much of it to the side that push
 * and weight are in balance. Gusts are seeded noise that runs over the place with time, so that neighbours sway nearly
 * together.
 * @param time seconds @returns of unit length
 */
export function downIn(wind: Wind | null, [x, y, z]: Vec3, time: number): Vec3 {
  if (!wind || wind.strength === 0) return [0, -1, 0];
  const { strength, compassDeg, gusts, every, seed } = wind;
  const [wx, wz] = [sin(compassDeg * DEG), -cos(compassDeg * DEG)];
  // It comes from where it blows from: places farther on have the same gust later.
  const along = (x * wx + z * wz) / GUST_WIDE - time / every;
  const across = (x * wz - z * wx) / GUST_WIDE;
  const push = strength * (1 + gusts * noise3(seed)(along + 0.37, y / GUST_WIDE + 0.53, across + 0.19));
  const l = hypot(push, 1);
  return [(wx * push) / l, -1 / l, (wz * push) / l];
}
