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

/** How far a box reaches from its centre along an axis. */
function reach({ axes, half }: Boxes, i: number, x: number, y: number, z: number): number {
  let sum = 0;
  for (let a = 0; a < 3; a++) {
    const o = i * 9 + a * 3;
    sum += half[i * 3 + a] * Math.abs(axes[o] * x + axes[o + 1] * y + axes[o + 2] * z);
  }
  return sum;
}

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
  const apart = (x: number, y: number, z: number) =>
    Math.abs(dx * x + dy * y + dz * z) >= reach(a, i, x, y, z) + reach(b, j, x, y, z) - slack;
  const [u, v] = [a.axes, b.axes];
  for (let k = 0; k < 9; k += 3) {
    if (apart(u[i * 9 + k], u[i * 9 + k + 1], u[i * 9 + k + 2])) return false;
    if (apart(v[j * 9 + k], v[j * 9 + k + 1], v[j * 9 + k + 2])) return false;
  }
  for (let k = i * 9; k < i * 9 + 9; k += 3)
    for (let m = j * 9; m < j * 9 + 9; m += 3) {
      const x = u[k + 1] * v[m + 2] - u[k + 2] * v[m + 1];
      const y = u[k + 2] * v[m] - u[k] * v[m + 2];
      const z = u[k] * v[m + 1] - u[k + 1] * v[m];
      const l = Math.sqrt(x * x + y * y + z * z);
      if (l > 1e-9 && apart(x / l, y / l, z / l)) return false;
    }
  return true;
}
