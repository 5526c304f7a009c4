import { LIGHT } from '../../math/color';
import { STAMP_STRIDE } from './laid';
import type { StampLayers } from './layers';
import { STAMP_SIZE, type StampMaps } from './maps';

/** What stamps make of a place of their surface: the same as its material does on the screen, for maps that are baked. */
export interface StampedPlace {
  /** Light that they add over what is beneath, red, green, blue, and how much of that is covered, 0–1. */
  color: [number, number, number];
  cover: number;
  /** Metres that it rises along a whole unit of u, and of v. */
  slope: [number, number];
  /** Metres that it is raised. */
  height: number;
  /** The number of the uppermost one that is there; −1: none. */
  top: number;
}

/** A place where no stamp lies. */
export const unstamped = (): StampedPlace => ({
  color: [0, 0, 0],
  cover: 0,
  slope: [0, 0],
  height: 0,
  top: -1,
});

/** Writes what all stamps make of the place at u, v. @param maps by the number of the picture */
export function stampedAt(
  { domain, grid, cells, list, numbers }: StampLayers,
  maps: readonly StampMaps[],
  u: number,
  v: number,
  out: StampedPlace,
): void {
  out.color.fill(0);
  out.slope.fill(0);
  [out.cover, out.height, out.top] = [0, 0, -1];
  const x = Math.floor(((u - domain[0]) / domain[2]) * grid);
  const y = Math.floor(((v - domain[1]) / domain[3]) * grid);
  if (!(x >= 0 && y >= 0 && x < grid && y < grid)) return;
  const cell = (y * grid + x) * 2;
  for (let i = cells[cell]; i < cells[cell] + cells[cell + 1]; i++) {
    const o = list[i] * STAMP_STRIDE;
    const [du, dv] = [u - numbers[o], v - numbers[o + 1]];
    const [a, b, c, d] = [numbers[o + 2], numbers[o + 3], numbers[o + 4], numbers[o + 5]];
    const [p, q] = [a * du + b * dv, c * du + d * dv];
    if (!(Math.abs(p) <= 0.5 && Math.abs(q) <= 0.5)) continue;
    const map = maps[numbers[o + 6]];
    if (!map) continue;
    const [relief, strength] = [numbers[o + 7], numbers[o + 11]];
    corners(p + 0.5, q + 0.5);
    const alpha = mix(map.color, 4, 3, BYTE) * strength;
    for (let k = 0; k < 3; k++) {
      const light = mix(map.color, 4, k, LIGHT) * numbers[o + 8 + k] * strength;
      out.color[k] = out.color[k] * (1 - alpha) + light;
    }
    out.cover = out.cover * (1 - alpha) + alpha;
    const [sx, sy] = [mix(map.slope, 2, 0) * relief, mix(map.slope, 2, 1) * relief];
    out.slope[0] += sx * a + sy * c;
    out.slope[1] += sx * b + sy * d;
    if (map.height) out.height += mix(map.height, 1, 0) * relief;
    if (alpha > 0.5 || (map.height && mix(map.height, 1, 0) > 0)) out.top = list[i];
  }
}

const BYTE = Float32Array.from({ length: 256 }, (_, v) => v / 255);

const place = new Int32Array(4);
const share = new Float64Array(4);

/** The four places of a map about one, and how much each counts; those beyond its borders are as these. */
function corners(s: number, t: number): void {
  const held = (n: number) => (n < 0 ? 0 : n >= STAMP_SIZE ? STAMP_SIZE - 1 : n);
  const [x, y] = [s * STAMP_SIZE - 0.5, t * STAMP_SIZE - 0.5];
  const [i, j] = [Math.floor(x), Math.floor(y)];
  const [fx, fy] = [x - i, y - j];
  for (let k = 0; k < 4; k++) {
    place[k] = held(j + (k >> 1)) * STAMP_SIZE + held(i + (k & 1));
    share[k] = (k & 1 ? fx : 1 - fx) * (k >> 1 ? fy : 1 - fy);
  }
}

function mix(map: ArrayLike<number>, channels: number, channel: number, table?: Float32Array): number {
  let sum = 0;
  for (let k = 0; k < 4; k++) {
    const v = map[place[k] * channels + channel];
    sum += share[k] * (table ? table[v] : v);
  }
  return sum;
}
