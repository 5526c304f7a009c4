/** Oriented boxes as arrays: what things are before one looks closer. */
export interface Boxes {
  count: number;
  /** xyz a box, metres. */
  centre: Float64Array;
  /** Three unit axes a box, nine numbers, and half its size along each. */
  axes: Float64Array;
  half: Float64Array;
  /** Of the ball around it. */
  radius: Float64Array;
}

/** Room for so many boxes. */
export const newBoxes = (count: number): Boxes => ({
  count,
  centre: new Float64Array(count * 3),
  axes: new Float64Array(count * 9),
  half: new Float64Array(count * 3),
  radius: new Float64Array(count),
});

/** What stands somewhere, a row a thing: places, unit quaternions, and a factor for each own axis. */
interface Standing {
  position: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
}

/**
 * Writes the box `k` of a thing.
 * @param own its least and greatest corner in its own space @param sized whether its sizes are in that box already
 */
export function writeBox(
  to: Boxes,
  k: number,
  own: { min: readonly number[]; max: readonly number[] },
  p: Standing,
  row: number,
  sized = false,
): void {
  const x = p.rotation[row * 4];
  const y = p.rotation[row * 4 + 1];
  const z = p.rotation[row * 4 + 2];
  const w = p.rotation[row * 4 + 3];
  const { axes, centre, half } = to;
  const o = k * 9;
  axes[o] = 1 - 2 * (y * y + z * z);
  axes[o + 1] = 2 * (x * y + z * w);
  axes[o + 2] = 2 * (x * z - y * w);
  axes[o + 3] = 2 * (x * y - z * w);
  axes[o + 4] = 1 - 2 * (x * x + z * z);
  axes[o + 5] = 2 * (y * z + x * w);
  axes[o + 6] = 2 * (x * z + y * w);
  axes[o + 7] = 2 * (y * z - x * w);
  axes[o + 8] = 1 - 2 * (x * x + y * y);
  let square = 0;
  for (let r = 0; r < 3; r++) centre[k * 3 + r] = p.position[row * 3 + r];
  for (let a = 0; a < 3; a++) {
    const size = sized ? 1 : p.scale[row * 3 + a];
    const h = (Math.abs(size) * (own.max[a] - own.min[a])) / 2;
    const middle = (size * (own.max[a] + own.min[a])) / 2;
    half[k * 3 + a] = h;
    square += h * h;
    for (let r = 0; r < 3; r++) centre[k * 3 + r] += axes[o + a * 3 + r] * middle;
  }
  to.radius[k] = Math.sqrt(square);
}

/** Of the two boxes that are looked at: how each axis of the one lies along each of the other, and its size. */
const along = new Float64Array(9);
const across = new Float64Array(9);

/**
 * Whether two boxes reach into each other by more than `slack` metres along every one of the fifteen separating axes
 * (Gottschalk, Lin, Manocha: OBBTree, SIGGRAPH 1996).
 */
export function boxesOverlap(a: Boxes, i: number, b: Boxes, j: number, slack: number): boolean {
  const dx = b.centre[j * 3] - a.centre[i * 3];
  const dy = b.centre[j * 3 + 1] - a.centre[i * 3 + 1];
  const dz = b.centre[j * 3 + 2] - a.centre[i * 3 + 2];
  const balls = a.radius[i] + b.radius[j];
  if (dx * dx + dy * dy + dz * dz >= balls * balls) return false;
  const { axes: u, half: g } = a;
  const { axes: v, half: h } = b;
  const [o, q, m, n] = [i * 9, j * 9, i * 3, j * 3];
  for (let k = 0; k < 3; k++)
    for (let l = 0; l < 3; l++) {
      const r =
        u[o + k * 3] * v[q + l * 3] +
        u[o + k * 3 + 1] * v[q + l * 3 + 1] +
        u[o + k * 3 + 2] * v[q + l * 3 + 2];
      along[k * 3 + l] = r;
      across[k * 3 + l] = Math.abs(r);
    }
  // From the middle of the one to that of the other, along the axes of the one.
  const tx = dx * u[o] + dy * u[o + 1] + dz * u[o + 2];
  const ty = dx * u[o + 3] + dy * u[o + 4] + dz * u[o + 5];
  const tz = dx * u[o + 6] + dy * u[o + 7] + dz * u[o + 8];
  for (let k = 0; k < 3; k++) {
    const t = k === 0 ? tx : k === 1 ? ty : tz;
    const reach = h[n] * across[k * 3] + h[n + 1] * across[k * 3 + 1] + h[n + 2] * across[k * 3 + 2];
    if (Math.abs(t) >= g[m + k] + reach - slack) return false;
  }
  for (let l = 0; l < 3; l++) {
    const t = tx * along[l] + ty * along[3 + l] + tz * along[6 + l];
    const reach = g[m] * across[l] + g[m + 1] * across[3 + l] + g[m + 2] * across[6 + l];
    if (Math.abs(t) >= h[n + l] + reach - slack) return false;
  }
  // Along what is square to an axis of either.
  for (let k = 0; k < 3; k++) {
    const k1 = k === 2 ? 0 : k + 1;
    const k2 = k === 0 ? 2 : k - 1;
    const t1 = k1 === 0 ? tx : k1 === 1 ? ty : tz;
    const t2 = k2 === 0 ? tx : k2 === 1 ? ty : tz;
    for (let l = 0; l < 3; l++) {
      const r = along[k * 3 + l];
      const size = Math.sqrt(Math.max(0, 1 - r * r));
      // Two that run alike have no such axis.
      if (!(size > 1e-7)) continue;
      const l1 = l === 2 ? 0 : l + 1;
      const l2 = l === 0 ? 2 : l - 1;
      const t = t2 * along[k1 * 3 + l] - t1 * along[k2 * 3 + l];
      const own = g[m + k1] * across[k2 * 3 + l] + g[m + k2] * across[k1 * 3 + l];
      const other = h[n + l1] * across[k * 3 + l2] + h[n + l2] * across[k * 3 + l1];
      if (Math.abs(t) >= own + other - slack * size) return false;
    }
  }
  return true;
}
