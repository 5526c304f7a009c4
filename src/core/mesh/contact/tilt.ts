import { dot, normalize, type Vec3 } from '../../math/vec3';
import { times3 } from './times3';

/** A thing that may tilt while its foot stays on its line. */
export interface Tilting {
  /** Rows of the 3 × 3 matrix from its own space to the scene, about its foot, before it tilts. */
  m: ArrayLike<number>;
  /** Unit: what tilts onto the normal that is looked for. */
  up: Vec3;
}

/** The normal of what has not been tilted yet. */
const NOWHERE: Vec3 = [NaN, NaN, NaN];

/** A thing tilted: how it stands, and how it changes when its normal tilts on along two directions. */
export class Tilt {
  normal: Vec3 = [0, 1, 0];
  /** Unit, square to the normal and to each other: the directions of a further tilt. */
  private readonly e: Vec3 = [0, 0, 0];
  private readonly f: Vec3 = [0, 0, 0];
  /** Rows of the matrix from the thing's own space to the scene. */
  readonly m = new Float64Array(9);
  /** The same to the frame of the fall. */
  readonly pose = new Float64Array(9);
  /** How the pose changes with a tilt by (x, y), as a tangent. */
  readonly alongX = new Float64Array(9);
  readonly alongY = new Float64Array(9);

  /** Counts the poses that it has come to: as long as this is the same, so is all of the above. */
  turns = 0;

  private m0: ArrayLike<number> = [];
  private up: Vec3 = [0, 1, 0];
  private frame: Float64Array = new Float64Array(9);

  /** @param frame rows of the matrix from the scene to the frame of the fall */
  of({ m, up }: Tilting, frame: Float64Array): this {
    this.m0 = m;
    this.up = up;
    this.frame = frame;
    this.normal = NOWHERE;
    return this;
  }

  /** Tilts the thing so that its up becomes a unit normal, by the shortest way. @param n not written to afterwards */
  to(n: Vec3): void {
    if (n === this.normal) return;
    this.normal = n;
    this.turns++;
    const { m0: m, up, m: out, e, f } = this;
    const cx = up[1] * n[2] - up[2] * n[1];
    const cy = up[2] * n[0] - up[0] * n[2];
    const cz = up[0] * n[1] - up[1] * n[0];
    const k = 1 / (1 + dot(up, n));
    for (let j = 0; j < 3; j++) {
      const x = m[j];
      const y = m[j + 3];
      const z = m[j + 6];
      const ax = cy * z - cz * y;
      const ay = cz * x - cx * z;
      const az = cx * y - cy * x;
      out[j] = x + ax + (cy * az - cz * ay) * k;
      out[j + 3] = y + ay + (cz * ax - cx * az) * k;
      out[j + 6] = z + az + (cx * ay - cy * ax) * k;
    }
    across(n, e, f);
    times3(this.frame, out, this.pose);
    // A tilt of the normal by e turns about n × e, and a little about the normal, since its up goes the shortest way.
    this.turning(e, (e[0] * cx + e[1] * cy + e[2] * cz) * k, this.alongX);
    this.turning(f, (f[0] * cx + f[1] * cy + f[2] * cz) * k, this.alongY);
  }

  /** How the pose changes when the thing turns about n × e − spin · n. */
  private turning(e: Vec3, spin: number, out: Float64Array): void {
    const { normal: n, m } = this;
    const wx = n[1] * e[2] - n[2] * e[1] - n[0] * spin;
    const wy = n[2] * e[0] - n[0] * e[2] - n[1] * spin;
    const wz = n[0] * e[1] - n[1] * e[0] - n[2] * spin;
    for (let j = 0; j < 3; j++) {
      const x = m[j];
      const y = m[j + 3];
      const z = m[j + 6];
      turned[j] = wy * z - wz * y;
      turned[j + 3] = wz * x - wx * z;
      turned[j + 6] = wx * y - wy * x;
    }
    times3(this.frame, turned, out);
  }

  /** The normal tilted on by (x, y), as a tangent. */
  further(x: number, y: number): Vec3 {
    const { normal: n, e, f } = this;
    return normalize([n[0] + e[0] * x + f[0] * y, n[1] + e[1] * x + f[1] * y, n[2] + e[2] * x + f[2] * y]);
  }
}

const turned = new Float64Array(9);

/** Two directions square to a normal and to each other. */
function across(n: Vec3, e: Vec3, f: Vec3): void {
  const flat = Math.abs(n[1]) < 0.9;
  const l = flat ? Math.sqrt(n[0] * n[0] + n[2] * n[2]) : Math.sqrt(n[0] * n[0] + n[1] * n[1]);
  e[0] = flat ? -n[2] / l : n[1] / l;
  e[1] = flat ? 0 : -n[0] / l;
  e[2] = flat ? n[0] / l : 0;
  f[0] = n[1] * e[2] - n[2] * e[1];
  f[1] = n[2] * e[0] - n[0] * e[2];
  f[2] = n[0] * e[1] - n[1] * e[0];
}
