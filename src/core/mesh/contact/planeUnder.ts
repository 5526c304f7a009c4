import { normalize, type Vec3 } from '../../math/vec3';
import type { Fall, Faller } from './fall';

/** Corners of a thing in the frame of a fall, put onto the ground: x, y and height each. */
const under = new Float64Array(3 * 8);
const NONE = 1e-12;

/**
 * The plane through the ground under a ring of a thing's points that fits it best (Newell's method: areas seen along
 * each axis).
 * @param m rows of the matrix from its own space to the scene, about its foot @param ring of up to eight points, in its
 * own space @param reach metres over and under a point within which there is ground
 * @returns its unit normal; null where fewer than three points have ground
 */
export function planeUnder(
  fall: Fall,
  faller: Faller,
  m: ArrayLike<number>,
  ring: readonly Vec3[],
  reach: number,
): Vec3 | null {
  const { frame } = fall;
  fall.about(faller, m);
  const { posed } = fall;
  let n = 0;
  for (const [x, y, z] of ring) {
    const px = posed[0] * x + posed[1] * y + posed[2] * z;
    const py = posed[3] * x + posed[4] * y + posed[5] * z;
    const pz = posed[6] * x + posed[7] * y + posed[8] * z;
    const height = fall.height(px, py, pz + reach);
    if (height < pz - 2 * reach || n === under.length) continue;
    under[n++] = px;
    under[n++] = py;
    under[n++] = height;
  }
  if (n < 9) return null;
  let ax = 0;
  let ay = 0;
  let az = 0;
  for (let i = 0; i < n; i += 3) {
    const j = i + 3 === n ? 0 : i + 3;
    ax += (under[i + 1] - under[j + 1]) * (under[i + 2] + under[j + 2]);
    ay += (under[i + 2] - under[j + 2]) * (under[i] + under[j]);
    az += (under[i] - under[j]) * (under[i + 1] + under[j + 1]);
  }
  // Seen edge on they say nothing.
  if (!(Math.abs(az) > NONE) || Math.abs(az) < 1e-3 * Math.sqrt(ax * ax + ay * ay)) return null;
  const rise = [-ax / az, -ay / az];
  return normalize([0, 1, 2].map((a) => frame[6 + a] - rise[0] * frame[a] - rise[1] * frame[3 + a]) as Vec3);
}
