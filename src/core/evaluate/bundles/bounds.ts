import { STATE } from '../../arrange/result';
import { writeAffine } from '../../math/affine';
import type { Vec3 } from '../../math/vec3';
import type { Bounds } from '../../mesh/mesh';
import type { Contents } from './contents';

/**
 * The box about what a bundle holds, from its origin; null where that is nothing. What is bent counts as its prop's box.
 * @param boundsOf of a prop in its own space, bundles too
 */
export function boundsOfContents(
  { members }: Contents,
  boundsOf: (prop: string) => Bounds | undefined,
  origin: Vec3 = [0, 0, 0],
): Bounds | null {
  const min: Vec3 = [Infinity, Infinity, Infinity];
  const max: Vec3 = [-Infinity, -Infinity, -Infinity];
  const m = new Float64Array(16);
  for (const { placements: p } of members) {
    const boxes = p.props.map(boundsOf);
    const grow = (x: number, y: number, z: number) => {
      for (const [a, v] of [x, y, z].entries()) {
        min[a] = Math.min(min[a], v);
        max[a] = Math.max(max[a], v);
      }
    };
    for (let row = 0; row < p.count; row++) {
      const box = p.prop[row] < 0 || p.state[row] !== STATE.placed ? undefined : boxes[p.prop[row]];
      if (!box) continue;
      const bent = p.bent?.[p.shape?.[row] ?? -1];
      if (bent) {
        writeAffine(m, 0, p.position, row * 3, p.rotation, row * 4, ONE, 0);
        for (let o = 0; o < bent.positions.length; o += 3) at(m, bent.positions, o, grow);
        continue;
      }
      writeAffine(m, 0, p.position, row * 3, p.rotation, row * 4, p.scale, row * 3);
      for (let c = 0; c < 8; c++) {
        const corner = [0, 1, 2].map((a) => ((c >> a) & 1 ? box.max[a] : box.min[a]));
        at(m, corner, 0, grow);
      }
    }
  }
  if (!(max[0] >= min[0])) return null;
  const from = (v: Vec3): Vec3 => [v[0] - origin[0], v[1] - origin[1], v[2] - origin[2]];
  return { min: from(min), max: from(max) };
}

const ONE = [1, 1, 1];

const at = (
  m: Float64Array,
  p: ArrayLike<number>,
  o: number,
  into: (x: number, y: number, z: number) => void,
) =>
  into(
    m[0] * p[o] + m[4] * p[o + 1] + m[8] * p[o + 2] + m[12],
    m[1] * p[o] + m[5] * p[o + 1] + m[9] * p[o + 2] + m[13],
    m[2] * p[o] + m[6] * p[o + 1] + m[10] * p[o + 2] + m[14],
  );
