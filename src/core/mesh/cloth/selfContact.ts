import { hypot } from '../../math/portable';
import { faceCross } from '../face';

/**
 * Keeps a cloth from going through itself: corners stay on that side of a face on which they were, and so far from it
 * (Bridson, Fedkiw, Anderson 2002, corners against faces; as constraints of position, Müller et al. 2007).
 */

/** Faces so much wider than they are, of this share of their sides, are met by their rims too. */
const RIM = 0.02;

/** Which corners are near which faces of one cloth, on which side each was, and how they are kept there. */
export class SelfContact {
  private corner = new Int32Array(64);
  private face = new Int32Array(64);
  /** 1 on the side to which the face's normal points. */
  private side = new Int8Array(64);
  private count = 0;
  /** Sides of the frame before, by corner and face: who was found once keeps its side as long as it stays near. */
  private known = new Map<number, number>();
  private cross = new Float64Array(3);

  /**
   * @param faces three particles a face @param start xyz a particle: what lies so near to a face there goes with it
   * @param thickness metres
   */
  constructor(
    private faces: Uint32Array,
    private start: Float64Array,
    private thickness: number,
  ) {}

  /** Finds who may meet whom until the coming frame. @param v metres a second @param time seconds to that */
  find(p: Float64Array, v: Float64Array, time: number): void {
    const { faces } = this;
    const known = this.known;
    this.known = new Map();
    this.count = 0;
    const n = p.length / 3;
    const total = faces.length / 3;
    const speed = (i: number) => hypot(v[i * 3], v[i * 3 + 1], v[i * 3 + 2]);
    let fastest = 0;
    for (let i = 0; i < n; i++) fastest = Math.max(fastest, speed(i));
    let edge = 0;
    for (let f = 0; f < total; f++) edge += this.sizeOf(p, f) / Math.max(1, total);
    // No farther than a few faces: what is faster than that within a frame is no cloth any more.
    const reach = this.thickness + Math.min(2 * fastest * time, 4 * edge);
    const cell = Math.max(edge, reach);
    const key = (x: number, y: number, z: number) => (x * 73856093) ^ (y * 19349663) ^ (z * 83492791);
    const at = (value: number) => Math.floor(value / cell);
    const cells = new Map<number, number[]>();
    for (let f = 0; f < total; f++) {
      const low = [0, 0, 0];
      const high = [0, 0, 0];
      for (let a = 0; a < 3; a++) {
        const c = [0, 1, 2].map((k) => p[faces[f * 3 + k] * 3 + a]);
        low[a] = at(Math.min(...c) - reach);
        high[a] = at(Math.max(...c) + reach);
      }
      for (let x = low[0]; x <= high[0]; x++)
        for (let y = low[1]; y <= high[1]; y++)
          for (let z = low[2]; z <= high[2]; z++) {
            const k = key(x, y, z);
            const list = cells.get(k);
            if (list) list.push(f);
            else cells.set(k, [f]);
          }
    }
    for (let i = 0; i < n; i++) {
      const o = i * 3;
      for (const f of cells.get(key(at(p[o]), at(p[o + 1]), at(p[o + 2]))) ?? [])
        this.meet(p, i, f, reach, known);
    }
  }

  private sizeOf(p: Float64Array, f: number): number {
    const [a, b] = [this.faces[f * 3] * 3, this.faces[f * 3 + 1] * 3];
    return hypot(p[a] - p[b], p[a + 1] - p[b + 1], p[a + 2] - p[b + 2]);
  }

  private meet(
    p: Float64Array,
    i: number,
    f: number,
    reach: number,
    known: ReadonlyMap<number, number>,
  ): void {
    const { faces, start, thickness } = this;
    for (let k = 0; k < 3; k++) if (faces[f * 3 + k] === i) return;
    const away = this.over(p, i, f, 1);
    if (away === null || Math.abs(away) > reach) return;
    // What is sewn beside it lies that near from the beginning on.
    const was = this.over(start, i, f, 1);
    if (was !== null && Math.abs(was) < thickness * 1.5) return;
    const name = i * (faces.length / 3) + f;
    const side = known.get(name) ?? (away >= 0 ? 1 : -1);
    this.known.set(name, side);
    if (this.count === this.corner.length) this.grow();
    this.corner[this.count] = i;
    this.face[this.count] = f;
    this.side[this.count++] = side;
  }

  private grow(): void {
    const more = <T extends Int32Array | Int8Array>(a: T): T => {
      const out = new (a.constructor as new (n: number) => T)(a.length * 2);
      out.set(a);
      return out;
    };
    this.corner = more(this.corner);
    this.face = more(this.face);
    this.side = more(this.side);
  }

  private weights = new Float64Array(3);
  private normal = new Float64Array(3);

  /**
   * How far a particle is over the plane of a face, metres; null where it is beside it by more than `rim` of its sides.
   * Its weights and the normal stand in `weights` and `normal`.
   */
  private over(p: Float64Array, i: number, f: number, rim: number): number | null {
    const { faces, cross, weights, normal } = this;
    faceCross(p, faces, f, cross);
    const twice = Math.sqrt(cross[0] * cross[0] + cross[1] * cross[1] + cross[2] * cross[2]);
    if (!(twice > 1e-18)) return null;
    const [a, b, c] = [faces[f * 3] * 3, faces[f * 3 + 1] * 3, faces[f * 3 + 2] * 3];
    const o = i * 3;
    let away = 0;
    for (let k = 0; k < 3; k++) {
      normal[k] = cross[k] / twice;
      away += normal[k] * (p[o + k] - p[a + k]);
    }
    // The shares of the face that lie across from its second and third corner.
    const [x, y, z] = [p[o] - p[a], p[o + 1] - p[a + 1], p[o + 2] - p[a + 2]];
    const [ux, uy, uz] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
    const [vx, vy, vz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
    const share = (px: number, py: number, pz: number, qx: number, qy: number, qz: number) =>
      ((py * qz - pz * qy) * normal[0] + (pz * qx - px * qz) * normal[1] + (px * qy - py * qx) * normal[2]) /
      twice;
    weights[1] = share(x, y, z, vx, vy, vz);
    weights[2] = share(ux, uy, uz, x, y, z);
    weights[0] = 1 - weights[1] - weights[2];
    return weights[0] < -rim || weights[1] < -rim || weights[2] < -rim ? null : away;
  }

  /** Pushes all that are too near apart. @param inverse masses; 0 is held */
  push(p: Float64Array, inverse: Float64Array): void {
    const { faces, weights, normal, thickness } = this;
    for (let t = 0; t < this.count; t++) {
      const [i, f, side] = [this.corner[t], this.face[t], this.side[t]];
      const away = this.over(p, i, f, RIM);
      if (away === null) continue;
      const short = thickness - side * away;
      if (short <= 0) continue;
      let yields = inverse[i];
      for (let k = 0; k < 3; k++) yields += weights[k] * weights[k] * inverse[faces[f * 3 + k]];
      if (!(yields > 0)) continue;
      const by = (side * short) / yields;
      for (let a = 0; a < 3; a++) {
        p[i * 3 + a] += normal[a] * by * inverse[i];
        for (let k = 0; k < 3; k++) {
          const j = faces[f * 3 + k];
          p[j * 3 + a] -= normal[a] * by * weights[k] * inverse[j];
        }
      }
    }
  }
}
