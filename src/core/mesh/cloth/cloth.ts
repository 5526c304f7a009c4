import { noise3 } from '../../math/noise';
import { cos, sin } from '../../math/portable';
import { DEG } from '../../math/quat';
import { nearestPlace, noHit } from '../bvhQuery';
import { framesAround, RATE } from '../frames';
import { faceCross } from '../face';
import { faceNormal, placeOn, type TriMesh } from '../triMesh';
import type { Topology } from '../lines/topology';
import { sameFaces, sameNumbers } from '../same';
import { SelfContact } from './selfContact';
import { threadsOf, type Threads } from './threads';

/** Steps in each frame. */
const STEPS = 12;
const AIR = 1.2;
/** Numbers kept of all frames together: 30 million are 120 MB. */
const MOST = 30_000_000;
/** How much of its sliding a vertex loses that lies on the collider, each step. */
const FRICTION = 0.3;

/** What cloth is simulated from; all in the scene. */
export interface ClothSpec {
  /** xyz a particle at the start, one each welded vertex. */
  start: Float64Array;
  topology: Topology;
  indices: Uint32Array;
  /** 1 where it is held. */
  held: Uint8Array;
  gravity: number;
  wind: number;
  windDeg: number;
  gusts: number;
  weight: number;
  stiffness: number;
  give: number;
  drag: number;
  thickness: number;
  /** Whether it keeps off itself, and by how many metres. */
  itself: boolean;
  apart: number;
  seconds: number;
  seed: number;
  /** What it falls on, at the start. */
  collider?: TriMesh;
  /** Instead of the three numbers of its wind, where they change. */
  weather?: ClothWeather;
  /** What of its surroundings moves; absent where nothing does. */
  around?: ClothAround;
}

/** Wind that changes while it is simulated. */
export interface ClothWeather {
  /** Changes whenever any of it would be otherwise. */
  key: string;
  at(time: number): { wind: number; windDeg: number; gusts: number };
}

/** What moves about a cloth, frame by frame. */
export interface ClothAround {
  /** Changes whenever any of it would move otherwise. */
  key: string;
  /** How it stands at a frame; what was told of another one holds no longer. */
  at(frame: number): {
    /** With the same faces at every frame. */
    collider?: TriMesh;
    /** Where some of the held particles are; xyz each. */
    held?: { particles: Uint32Array; places: Float64Array };
  };
}

/** The numbers of a cloth that its motion follows from. */
const NUMBERS = [
  'gravity',
  'wind',
  'windDeg',
  'gusts',
  'weight',
  'stiffness',
  'give',
  'drag',
  'thickness',
  'itself',
  'apart',
  'seed',
] as const;

/** How many frames there are of so many seconds, of `n` particles. */
const countOf = (seconds: number, n: number): number =>
  Math.max(2, Math.min(Math.round(seconds * RATE) + 1, Math.floor(MOST / Math.max(3, n * 3))));

/**
 * Cloth by position-based dynamics (XPBD, Macklin, Müller, Chentanez 2016; small steps, Macklin et al. 2019): particles
 * at the vertices, threads that keep their lengths, wind against every face, one surface that it falls on, and itself
 * where that is asked for. Frames follow from each other from time 0 on and are kept: a time has the same shape however it was
 * come to.
 */
export class Cloth {
  private frames: Float32Array[] = [];
  private p: Float64Array;
  private before: Float64Array;
  private v: Float64Array;
  private inverse: Float64Array;
  private threads: Threads;
  private faces: Uint32Array;
  private push: Float64Array;
  private lambda: Float64Array;
  private contact: Float64Array;
  /** Where what moves is met: its face and weights, and how far place and normal of each contact go in a frame. */
  private reached: Int32Array;
  private weights: Float64Array;
  private drift: Float64Array;
  private stood = new Float64Array(0);
  private held: { particles: Uint32Array; places: Float64Array } | undefined;
  private touches: Uint8Array;
  private blows = false;
  /** How far the wind has come since the beginning, along x and z. */
  private run: [number, number] = [0, 0];
  private gust: (x: number, y: number, z: number) => number;
  private count: number;
  private self: SelfContact | null;

  constructor(private spec: ClothSpec) {
    const n = spec.start.length / 3;
    this.p = spec.start.slice();
    this.before = spec.start.slice();
    this.v = new Float64Array(n * 3);
    this.threads = threadsOf(spec.topology, spec.indices, spec.start);
    this.faces = Uint32Array.from(spec.indices, (i) => spec.topology.weld[i]);
    this.push = new Float64Array(n * 3);
    this.lambda = new Float64Array(this.threads.length.length);
    this.contact = new Float64Array(n * 6);
    this.drift = new Float64Array(spec.around ? n * 6 : 0);
    this.reached = new Int32Array(spec.around ? n : 0);
    this.weights = new Float64Array(spec.around ? n * 2 : 0);
    this.touches = new Uint8Array(n);
    this.gust = noise3(spec.seed);
    this.inverse = this.inverseMasses();
    this.frames.push(new Float32Array(this.p));
    this.count = countOf(spec.seconds, n);
    this.self = spec.itself ? new SelfContact(this.faces, spec.start, spec.apart) : null;
  }

  /** Whether it is simulated from just these numbers, but for how long. */
  isOf(spec: ClothSpec): boolean {
    const [a, b] = [this.spec, spec];
    return (
      NUMBERS.every((name) => a[name] === b[name]) &&
      sameNumbers(a.start, b.start) &&
      sameNumbers(a.held, b.held) &&
      sameNumbers(a.indices, b.indices) &&
      sameNumbers(a.topology.weld, b.topology.weld) &&
      a.around?.key === b.around?.key &&
      a.weather?.key === b.weather?.key &&
      (a.around !== undefined ||
        a.collider === b.collider ||
        (a.collider !== undefined && b.collider !== undefined && sameFaces(a.collider, b.collider)))
    );
  }

  /** Simulates on for so many seconds; what is simulated already stays. */
  last(seconds: number): void {
    this.count = countOf(seconds, this.spec.start.length / 3);
  }

  /** Seconds that are simulated. */
  get seconds(): number {
    return (this.count - 1) / RATE;
  }

  /**
   * Particles at a time, between the two frames around it. @param out xyz a particle
   * @param progress called with the share done while frames are simulated
   */
  at(time: number, out: Float64Array, progress?: (done: number) => void): void {
    const [a, b, u] = framesAround(this.frames, this.count, time, () => this.advance(), progress);
    const { held, start, around } = this.spec;
    for (let i = 0; i < out.length; i++)
      out[i] = held[(i / 3) | 0] && !around ? start[i] : a[i] + (b[i] - a[i]) * u;
  }

  private inverseMasses(): Float64Array {
    const { start: p, held, weight } = this.spec;
    const mass = new Float64Array(held.length);
    for (let f = 0; f < this.faces.length; f += 3) {
      const third = this.crossOf(p, f)[3] / 6;
      for (let k = 0; k < 3; k++) mass[this.faces[f + k]] += third * weight;
    }
    // What no face has hangs on nothing: it stays.
    return mass.map((m, i) => (held[i] || !(m > 0) ? 0 : 1 / m));
  }

  private cross = new Float64Array(4);
  /** Cross product of a face's sides, and its length: twice the area. */
  private crossOf(p: Float64Array, f: number): Float64Array {
    const out = this.cross;
    faceCross(p, this.faces, f / 3, out);
    out[3] = Math.sqrt(out[0] * out[0] + out[1] * out[1] + out[2] * out[2]);
    return out;
  }

  /** One frame on. */
  private advance(): void {
    const h = 1 / RATE / STEPS;
    const frame = this.frames.length - 1;
    this.blow(frame / RATE);
    const { around, collider } = this.spec;
    if (around && frame === 0) this.hasMoved(around.at(1).collider);
    this.meet(around ? around.at(frame).collider : collider);
    if (around) this.follow(around.at(frame + 1));
    this.self?.find(this.p, this.v, 1 / RATE);
    for (let step = 0; step < STEPS; step++) this.step(h);
    this.frames.push(new Float32Array(this.p));
  }

  /** The wind at every particle, for the coming frame. */
  private blow(time: number): void {
    const { weather } = this.spec;
    const { wind, windDeg, gusts } = weather ? weather.at(time) : this.spec;
    this.blows = wind !== 0;
    const [wx, wz] = [sin(windDeg * DEG) * wind, -cos(windDeg * DEG) * wind];
    // Gusts run along with the wind: as far as it has come, where it was another before.
    const { run, p, push } = this;
    const [rx, rz] = weather ? run : [wx * time, wz * time];
    run[0] += wx / RATE;
    run[1] += wz / RATE;
    if (!this.blows) return;
    for (let o = 0; o < p.length; o += 3) {
      // They are a few metres wide.
      const x = (p[o] - rx * 0.6) * 0.35;
      const z = (p[o + 2] - rz * 0.6) * 0.35;
      const gust = gusts > 0 ? 1 + gusts * this.gust(x, p[o + 1] * 0.35 + time * 0.4, z) * 1.6 : 1;
      push[o] = wx * gust;
      push[o + 2] = wz * gust;
    }
  }

  /** What of the collider each particle may meet in the coming frame: a plane. */
  private meet(collider: TriMesh | undefined): void {
    const { thickness, around } = this.spec;
    this.touches.fill(0);
    if (!collider) return;
    const speed = around ? this.hasMoved(collider) : 0;
    const hit = noHit();
    for (let i = 0; i < this.touches.length; i++) {
      if (this.inverse[i] === 0) continue;
      const o = i * 3;
      const { p, v } = this;
      const own = Math.sqrt(v[o] * v[o] + v[o + 1] * v[o + 1] + v[o + 2] * v[o + 2]);
      const reach = thickness + 0.05 + ((own + speed) * 2) / RATE;
      if (!nearestPlace(collider.tree(), p[o], p[o + 1], p[o + 2], reach, hit)) continue;
      const at = placeOn(collider, hit.face, hit.u, hit.v);
      const n = faceNormal(collider, hit.face);
      this.touches[i] = 1;
      this.contact.set([...at, ...n], i * 6);
      if (!around) continue;
      this.reached[i] = hit.face;
      this.weights[i * 2] = hit.u;
      this.weights[i * 2 + 1] = hit.v;
    }
  }

  /** The greatest speed of any of its vertices since it was asked last, metres a second. */
  private hasMoved(collider: TriMesh | undefined): number {
    const { stood } = this;
    const now = collider?.positions ?? new Float64Array(0);
    let most = 0;
    if (stood.length === now.length)
      for (let o = 0; o < now.length; o += 3) {
        const [x, y, z] = [now[o] - stood[o], now[o + 1] - stood[o + 1], now[o + 2] - stood[o + 2]];
        most = Math.max(most, x * x + y * y + z * z);
      }
    this.stood = now.slice();
    return Math.sqrt(most) * RATE;
  }

  /** How far contacts and held particles go until the coming frame. */
  private follow({ collider, held }: ReturnType<ClothAround['at']>): void {
    const { touches, reached, weights, contact, drift, p, v } = this;
    for (let i = 0; i < touches.length; i++) {
      if (!touches[i] || !collider) continue;
      const to = [
        ...placeOn(collider, reached[i], weights[i * 2], weights[i * 2 + 1]),
        ...faceNormal(collider, reached[i]),
      ];
      for (let k = 0; k < 6; k++) drift[i * 6 + k] = (to[k] - contact[i * 6 + k]) / STEPS;
    }
    this.held = held;
    held?.particles.forEach((i, n) => {
      // Its speed is what the wind meets.
      for (let a = 0; a < 3; a++) v[i * 3 + a] = (held.places[n * 3 + a] - p[i * 3 + a]) * RATE;
    });
  }

  /** Carries contacts and held particles on by one step. */
  private carry(h: number): void {
    const { touches, contact, drift, held, p, v } = this;
    for (let i = 0; i < touches.length; i++)
      if (touches[i]) for (let k = i * 6; k < i * 6 + 6; k++) contact[k] += drift[k];
    held?.particles.forEach((i) => {
      for (let o = i * 3; o < i * 3 + 3; o++) p[o] += v[o] * h;
    });
  }

  private step(h: number): void {
    const { p, before, v, inverse, spec } = this;
    this.accelerate(h);
    if (spec.around) this.carry(h);
    for (let i = 0; i < inverse.length; i++) {
      if (inverse[i] === 0) continue;
      for (let o = i * 3; o < i * 3 + 3; o++) {
        before[o] = p[o];
        p[o] += v[o] * h;
      }
    }
    this.tighten(h);
    this.self?.push(p, inverse);
    if (spec.collider) this.keepOut();
    const keep = 1 - Math.min(1, spec.drag * h);
    for (let i = 0; i < inverse.length; i++)
      if (inverse[i] > 0) for (let o = i * 3; o < i * 3 + 3; o++) v[o] = ((p[o] - before[o]) / h) * keep;
  }

  private accelerate(h: number): void {
    const { p, v, inverse, faces, push, spec } = this;
    for (let i = 0; i < inverse.length; i++) if (inverse[i] > 0) v[i * 3 + 1] -= spec.gravity * h;
    if (!this.blows) return;
    for (let f = 0; f < faces.length; f += 3) {
      const [nx, ny, nz, twice] = this.crossOf(p, f);
      if (!(twice > 0)) continue;
      const i = faces[f];
      const j = faces[f + 1];
      const k = faces[f + 2];
      const [a, b, c] = [i * 3, j * 3, k * 3];
      const across =
        ((push[a] + push[b] + push[c] - v[a] - v[b] - v[c]) * nx +
          (push[a + 1] + push[b + 1] + push[c + 1] - v[a + 1] - v[b + 1] - v[c + 1]) * ny +
          (push[a + 2] + push[b + 2] + push[c + 2] - v[a + 2] - v[b + 2] - v[c + 2]) * nz) /
        (3 * twice);
      // Pressure on the face, a third of it at each corner; its way is that of the normal, whose length falls out.
      let force = (0.25 * AIR * Math.abs(across) * across * h) / 3;
      // In one step it brings the face to the speed of the air at the most: never beyond, or light cloth would shake apart.
      const yields = (twice * (inverse[i] + inverse[j] + inverse[k])) / 3;
      if (Math.abs(force) * yields > Math.abs(across)) force = across / yields;
      const [u, s, t] = [force * inverse[i], force * inverse[j], force * inverse[k]];
      v[a] += nx * u;
      v[a + 1] += ny * u;
      v[a + 2] += nz * u;
      v[b] += nx * s;
      v[b + 1] += ny * s;
      v[b + 2] += nz * s;
      v[c] += nx * t;
      v[c + 1] += ny * t;
      v[c + 2] += nz * t;
    }
  }

  /** Brings the threads back to their lengths, one after the other. */
  private tighten(h: number): void {
    const { p, inverse, lambda, threads, spec } = this;
    const { ends, length, folds } = threads;
    const soft = (1 - spec.stiffness) * (1 - spec.stiffness);
    const alongEdges = (spec.give * 2e-3) / (h * h);
    const overFolds = (0.02 * soft) / (spec.stiffness * spec.stiffness + 1e-4) / (h * h);
    lambda.fill(0);
    for (let t = 0; t < length.length; t++) {
      const [i, j] = [ends[t * 2], ends[t * 2 + 1]];
      const weight = inverse[i] + inverse[j];
      if (weight === 0) continue;
      const [a, b] = [i * 3, j * 3];
      const x = p[a] - p[b];
      const y = p[a + 1] - p[b + 1];
      const z = p[a + 2] - p[b + 2];
      const l = Math.sqrt(x * x + y * y + z * z);
      if (!(l > 1e-12)) continue;
      const yields = t < folds ? alongEdges : overFolds;
      const by = (-(l - length[t]) - yields * lambda[t]) / (weight + yields);
      lambda[t] += by;
      const k = by / l;
      p[a] += x * k * inverse[i];
      p[a + 1] += y * k * inverse[i];
      p[a + 2] += z * k * inverse[i];
      p[b] -= x * k * inverse[j];
      p[b + 1] -= y * k * inverse[j];
      p[b + 2] -= z * k * inverse[j];
    }
  }

  /** Moves what is below its plane of contact onto it, and slows its sliding. */
  private keepOut(): void {
    const { p, before, contact: c, drift, touches, spec } = this;
    for (let i = 0; i < touches.length; i++) {
      if (!touches[i]) continue;
      const [o, q] = [i * 3, i * 6];
      const above =
        (p[o] - c[q]) * c[q + 3] + (p[o + 1] - c[q + 1]) * c[q + 4] + (p[o + 2] - c[q + 2]) * c[q + 5];
      const short = spec.thickness - above;
      if (short <= 0) continue;
      for (let a = 0; a < 3; a++) p[o + a] += c[q + 3 + a] * short;
      // As seen from what it lies on.
      const slid = [0, 1, 2].map((a) => p[o + a] - before[o + a] - (spec.around ? drift[q + a] : 0));
      const up = slid[0] * c[q + 3] + slid[1] * c[q + 4] + slid[2] * c[q + 5];
      for (let a = 0; a < 3; a++) p[o + a] -= (slid[a] - c[q + 3 + a] * up) * FRICTION;
    }
  }
}
