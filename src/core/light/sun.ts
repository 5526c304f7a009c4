import { cos, sin } from '../math/portable';
import { DEG } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import type { Sun } from './schema';

/** The tilt of the earth's axis, degrees. */
const TILT = 23.44;
/** Below the horizon by so much, as a sine, it is wholly gone; over it by as much it is wholly there. */
const RIM = 0.03;

/**
 * Which way the sun stands, as a direction of length 1: up is Y, north −Z, east X.
 * By the hour: declination after Cooper (1969), in the sun's own time, which is at noon when it is highest.
 */
export function sunWay({ by, compassDeg, heightDeg, latitudeDeg, day, hour }: Sun): Vec3 {
  if (by === 'angles') {
    const flat = cos(heightDeg * DEG);
    return [sin(compassDeg * DEG) * flat, sin(heightDeg * DEG), -cos(compassDeg * DEG) * flat];
  }
  const declination = TILT * DEG * sin((2 * Math.PI * (284 + day)) / 365);
  const [sinD, cosD] = [sin(declination), cos(declination)];
  const [sinL, cosL] = [sin(latitudeDeg * DEG), cos(latitudeDeg * DEG)];
  const turn = 15 * (hour - 12) * DEG;
  const up = sinL * sinD + cosL * cosD * cos(turn);
  const north = cosL * sinD - sinL * cosD * cos(turn);
  return [-cosD * sin(turn), up, -north];
}

/** How much of the sun is over the horizon, 0–1, by how high it stands. @param up the height of its way */
export function sunShare(up: number): number {
  const t = Math.min(1, Math.max(0, (up + RIM) / (2 * RIM)));
  return t * t * (3 - 2 * t);
}
