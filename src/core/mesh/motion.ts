import { acos, sin } from '../math/portable';

/** How a mesh that was brought in moves by itself: morph targets, skins and moved nodes, in clips. */

interface MotionClip {
  name: string;
  /** Seconds. */
  duration: number;
  channels: MotionChannel[];
}

export interface MotionChannel {
  node: number;
  path: 'translation' | 'rotation' | 'scale' | 'weights';
  /** Seconds, rising. */
  times: Float32Array;
  /** Values of each time, one after the other; three of each (in, value, out) where it is cubic. */
  values: Float32Array;
  interpolation: 'LINEAR' | 'STEP' | 'CUBICSPLINE';
}

interface MotionNode {
  parent: number;
  translation: number[];
  rotation: number[];
  scale: number[];
}

/** The vertices of one primitive, in the order in which the mesh has them. */
export interface MotionPiece {
  node: number;
  /** xyz a vertex, in the node's own space. */
  positions: Float32Array;
  /** What each morph target adds. */
  targets: Float32Array[];
  weights: number[];
  /** Four (or more) joints and weights a vertex. */
  skin?: {
    joints: number[];
    inverseBind: Float32Array[];
    index: Uint16Array;
    weight: Float32Array;
    per: number;
  };
}

export interface MotionData {
  nodes: MotionNode[];
  pieces: MotionPiece[];
  clips: MotionClip[];
}

type Matrix = Float64Array;

/** Plays the clips of a mesh. */
export class Motion {
  constructor(readonly data: MotionData) {}

  get clips(): { name: string; duration: number }[] {
    return this.data.clips.map(({ name, duration }) => ({ name, duration }));
  }

  get vertexCount(): number {
    return this.data.pieces.reduce((sum, p) => sum + p.positions.length / 3, 0);
  }

  /** Whether all its values are numbers. */
  isFinite(): boolean {
    const finite = (list: ArrayLike<number>) => Array.prototype.every.call(list, Number.isFinite);
    const { nodes, pieces, clips } = this.data;
    return (
      nodes.every((n) => [n.translation, n.rotation, n.scale].every(finite)) &&
      pieces.every(
        (p) => p.targets.every(finite) && finite(p.weights) && (!p.skin || finite(p.skin.weight)),
      ) &&
      clips.every((c) => c.channels.every((ch) => finite(ch.times) && finite(ch.values)))
    );
  }

  /** Whether skins or morph weights shape it even without a clip. */
  get posesAtRest(): boolean {
    return this.data.pieces.some((p) => p.skin !== undefined || p.weights.some((w) => w !== 0));
  }

  /**
   * Positions of all vertices in the mesh's own space at a time of a clip; before its first key and after its last they
   * hold. Without a clip as the file has them at rest. @param out xyz a vertex
   */
  sample(clip: string | null, time: number, out: Float64Array | Float32Array): void {
    const playing = this.data.clips.find((c) => c.name === clip);
    const pose = this.data.nodes.map((n) => ({ ...n }));
    const weights = new Map<number, number[]>();
    for (const channel of playing?.channels ?? []) {
      const value = valueAt(channel, time);
      if (channel.path === 'weights') weights.set(channel.node, value);
      else pose[channel.node][channel.path] = value;
    }
    const worlds = worldsOf(pose);
    let o = 0;
    for (const piece of this.data.pieces) {
      placePiece(piece, weights.get(piece.node) ?? piece.weights, worlds, out, o);
      o += piece.positions.length;
    }
  }
}

/** The value of a channel at a time (glTF 2.0, appendix C: interpolation). */
function valueAt(c: MotionChannel, time: number): number[] {
  const n = c.times.length;
  const cubic = c.interpolation === 'CUBICSPLINE';
  const width = c.values.length / n / (cubic ? 3 : 1);
  const key = (i: number, part = 1) =>
    Array.from(
      c.values.subarray((cubic ? i * 3 + part : i) * width, (cubic ? i * 3 + part : i) * width + width),
    );
  let i = 0;
  while (i + 1 < n && c.times[i + 1] <= time) i++;
  if (time <= c.times[0]) return key(0);
  if (i + 1 >= n || c.interpolation === 'STEP') return key(i);
  const step = c.times[i + 1] - c.times[i];
  const u = step > 0 ? (time - c.times[i]) / step : 0;
  const [a, b] = [key(i), key(i + 1)];
  if (cubic) {
    const [u2, u3] = [u * u, u * u * u];
    const [leave, arrive] = [key(i, 2), key(i + 1, 0)];
    const mixed = a.map(
      (v, k) =>
        (2 * u3 - 3 * u2 + 1) * v +
        step * (u3 - 2 * u2 + u) * leave[k] +
        (-2 * u3 + 3 * u2) * b[k] +
        step * (u3 - u2) * arrive[k],
    );
    return c.path === 'rotation' ? unit(mixed) : mixed;
  }
  return c.path === 'rotation' ? turnBetween(a, b, u) : a.map((v, k) => v + (b[k] - v) * u);
}

const unit = (q: number[]): number[] => {
  const l = Math.sqrt(q.reduce((sum, v) => sum + v * v, 0)) || 1;
  return q.map((v) => v / l);
};

/** Spherical interpolation of unit quaternions, the shorter way. */
function turnBetween(a: number[], b: number[], u: number): number[] {
  let d = a.reduce((sum, v, k) => sum + v * b[k], 0);
  const to = d < 0 ? b.map((v) => -v) : b;
  d = Math.min(1, Math.abs(d));
  if (d > 0.9999995) return unit(a.map((v, k) => v + (to[k] - v) * u));
  const angle = acos(d);
  const [p, q] = [sin((1 - u) * angle) / sin(angle), sin(u * angle) / sin(angle)];
  return a.map((v, k) => v * p + to[k] * q);
}

function worldsOf(pose: MotionNode[]): Matrix[] {
  const out: (Matrix | undefined)[] = new Array(pose.length);
  const worldOf = (i: number): Matrix => {
    const have = out[i];
    if (have) return have;
    const own = matrixOf(pose[i]);
    return (out[i] = pose[i].parent >= 0 ? product(worldOf(pose[i].parent), own) : own);
  };
  return pose.map((_, i) => worldOf(i));
}

function matrixOf({ translation: t, rotation: [x, y, z, w], scale: s }: MotionNode): Matrix {
  return Float64Array.of(
    (1 - 2 * (y * y + z * z)) * s[0],
    2 * (x * y + z * w) * s[0],
    2 * (x * z - y * w) * s[0],
    0,
    2 * (x * y - z * w) * s[1],
    (1 - 2 * (x * x + z * z)) * s[1],
    2 * (y * z + x * w) * s[1],
    0,
    2 * (x * z + y * w) * s[2],
    2 * (y * z - x * w) * s[2],
    (1 - 2 * (x * x + y * y)) * s[2],
    0,
    t[0],
    t[1],
    t[2],
    1,
  );
}

/** a·b, column-major: first b, then a. */
function product(a: ArrayLike<number>, b: ArrayLike<number>): Matrix {
  const out = new Float64Array(16);
  for (let c = 0; c < 4; c++)
    for (let r = 0; r < 4; r++) for (let k = 0; k < 4; k++) out[c * 4 + r] += a[k * 4 + r] * b[c * 4 + k];
  return out;
}

function placePiece(
  piece: MotionPiece,
  weights: number[],
  worlds: Matrix[],
  out: Float64Array | Float32Array,
  o: number,
): void {
  const n = piece.positions.length;
  const p = Float64Array.from(piece.positions);
  piece.targets.forEach((target, t) => {
    const w = weights[t] ?? 0;
    if (w !== 0) for (let i = 0; i < n; i++) p[i] += target[i] * w;
  });
  const { skin } = piece;
  // A skinned mesh goes where its joints are, wherever its own node is.
  const joints = skin?.joints.map((j, k) => product(worlds[j], skin.inverseBind[k]));
  const m = new Float64Array(16);
  for (let i = 0; i < n; i += 3) {
    let by: ArrayLike<number> = worlds[piece.node];
    if (skin && joints) {
      m.fill(0);
      let whole = 0;
      for (let k = 0; k < skin.per; k++) {
        const w = skin.weight[(i / 3) * skin.per + k];
        const joint = joints[skin.index[(i / 3) * skin.per + k]];
        if (!(w > 0) || !joint) continue;
        whole += w;
        for (let a = 0; a < 16; a++) m[a] += joint[a] * w;
      }
      if (whole > 0) for (let a = 0; a < 16; a++) m[a] /= whole;
      if (whole > 0) by = m;
    }
    const [x, y, z] = [p[i], p[i + 1], p[i + 2]];
    for (let r = 0; r < 3; r++) out[o + i + r] = by[r] * x + by[4 + r] * y + by[8 + r] * z + by[12 + r];
  }
}
