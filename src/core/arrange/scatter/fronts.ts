import { noise3 } from '../../math/noise';
import { cos, sin } from '../../math/portable';
import type { Scatter } from './schema';
import type { SiteList } from './sites';

/** Ways that the fronts of scattered places point which no other kind has: away from the middle, or drifting. */

/** Which seed of noise drifts go by, beside the scatter's own. */
const DRIFT = 0x2545f491;
/** Noise seldom comes near its ends: so many whole turns from the least to the greatest. */
const TURNS = 1.6;

/**
 * Turns the fronts of a new list about its places' own up. Outward is away from the middle of all places; a drift is one
 * that neighbours nearly share, by noise over so many metres.
 */
export function turnFronts({ stand, seed }: Scatter, list: SiteList): SiteList {
  const { heading, driftSpan } = stand;
  if (heading !== 'outward' && heading !== 'drift') return list;
  const { position, front, up, count } = list;
  const middle = [0, 0, 0];
  for (let o = 0; o < count * 3; o++) middle[o % 3] += position[o] / count;
  const noise = noise3((seed ^ DRIFT) | 0);
  for (let i = 0, o = 0; i < count; i++, o += 3) {
    const [ux, uy, uz] = up.subarray(o, o + 3);
    let [x, y, z] = front.subarray(o, o + 3);
    if (heading === 'drift') {
      const [px, py, pz] = position.subarray(o, o + 3);
      const turn =
        TURNS * Math.PI * noise(px / driftSpan + 0.37, py / driftSpan + 0.19, pz / driftSpan + 0.53);
      const [c, s] = [cos(turn), sin(turn)];
      // Square to each other: a turn about up stays square to it.
      [x, y, z] = [
        x * c + (uy * z - uz * y) * s,
        y * c + (uz * x - ux * z) * s,
        z * c + (ux * y - uy * x) * s,
      ];
    } else {
      const away = [0, 1, 2].map((a) => position[o + a] - middle[a]);
      const along = away[0] * ux + away[1] * uy + away[2] * uz;
      const flat = away.map((v, a) => v - along * [ux, uy, uz][a]);
      const l = Math.sqrt(flat[0] * flat[0] + flat[1] * flat[1] + flat[2] * flat[2]);
      // In the very middle no way leads out: it stays as it lies.
      if (l > 1e-9) [x, y, z] = flat.map((v) => v / l);
    }
    front[o] = x;
    front[o + 1] = y;
    front[o + 2] = z;
  }
  return list;
}
