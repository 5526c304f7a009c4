import type { Vec3 } from '../../math/vec3';
import { buildBvh } from '../bvh';
import { fallerOf, type Faller } from './fall';
import type { Thing } from './rests';

/** What of a prop may touch, in its own space: metres from the foot, X left, Y up, Z front. */
export interface PropShape {
  /** The furthest that any of it is from its foot, and its greatest height over it. */
  reach: number;
  top: number;
  /** Its faces, nine numbers each; made when they are first asked for, like what follows. */
  triangles(): Float64Array;
  faller(): Faller;
  /** How it comes to rest. Fewer than three corners of its base: it balances on a point or an edge. */
  thing(): Thing;
}

/** Vertices this near above the lowest (share of the height) belong to the base. */
const BASE = 0.02;

/** @param m from the mesh to the prop's own space, column-major @param indices three a triangle */
export function propShape(
  positions: ArrayLike<number>,
  m: ArrayLike<number>,
  indices: ArrayLike<number>,
): PropShape {
  let faces: Float64Array | null = null;
  let made: Faller | null = null;
  let thing: Thing | null = null;
  const triangles = () => (faces ??= trianglesOf(positions, m, indices));
  let reach = 0;
  let top = -Infinity;
  const own: Vec3 = [0, 0, 0];
  for (let o = 0; o < positions.length; o += 3) {
    toOwn(positions, o, m, own);
    reach = Math.max(reach, Math.sqrt(own[0] * own[0] + own[1] * own[1] + own[2] * own[2]));
    top = Math.max(top, own[1]);
  }
  const faller = () => {
    const t = triangles();
    return (made ??= fallerOf(
      buildBvh(
        t,
        Uint32Array.from({ length: t.length / 3 }, (_, k) => k),
      ),
    ));
  };
  return {
    reach,
    top,
    triangles,
    faller,
    thing: () => (thing ??= { tree: faller().tree, base: baseOf(triangles()), reach }),
  };
}

function toOwn(p: ArrayLike<number>, o: number, m: ArrayLike<number>, out: Vec3): void {
  for (let r = 0; r < 3; r++) out[r] = m[r] * p[o] + m[4 + r] * p[o + 1] + m[8 + r] * p[o + 2] + m[12 + r];
}

function trianglesOf(p: ArrayLike<number>, m: ArrayLike<number>, indices: ArrayLike<number>): Float64Array {
  const out = new Float64Array(indices.length * 3);
  const own: Vec3 = [0, 0, 0];
  for (let i = 0; i < indices.length; i++) {
    toOwn(p, indices[i] * 3, m, own);
    out.set(own, i * 3);
  }
  return out.every(Number.isFinite) ? out : new Float64Array(0);
}

const HALF = Math.SQRT1_2;
/** Eight directions, round. */
const CIRCLE = [
  [1, 0],
  [HALF, HALF],
  [0, 1],
  [-HALF, HALF],
  [-1, 0],
  [-HALF, -HALF],
  [0, -1],
  [HALF, -HALF],
];

/** Up to eight corners of the outline of the lowest points as seen from above. */
function baseOf(points: Float64Array): Vec3[] {
  let low = Infinity;
  let high = -Infinity;
  for (let o = 1; o < points.length; o += 3) {
    low = Math.min(low, points[o]);
    high = Math.max(high, points[o]);
  }
  const under: Vec3[] = [];
  for (let o = 0; o < points.length; o += 3)
    if (points[o + 1] <= low + BASE * (high - low) + 1e-4)
      under.push([points[o], points[o + 1], points[o + 2]]);
  const corners: Vec3[] = [];
  // Between the eight directions, so that the corners of a square base are met and not its sides.
  for (let k = 0; k < CIRCLE.length; k++) {
    const [x, z] = CIRCLE[k];
    const [u, w] = CIRCLE[(k + 1) % CIRCLE.length];
    let most = -Infinity;
    let best: Vec3 | null = null;
    for (const p of under) {
      const along = p[0] * (x + u) + p[2] * (z + w);
      if (along > most) [most, best] = [along, p];
    }
    if (best && !corners.some((c) => c.every((v, a) => v === best[a]))) corners.push(best);
  }
  return corners;
}
