import { nearestPlace, noHit } from '../bvhQuery';
import { faceNormal, placeOn, type TriMesh } from '../triMesh';
import type { Topology } from '../lines/topology';
import { framesAround, RATE } from '../frames';
import { sameFaces, sameNumbers } from '../same';
import { Chain } from './chain';
import { FLATTEST, pushBy } from './press';
import { OnItself } from './onItself';
import type { Rings } from './rings';
import { Skin, STATE } from './skin';

const STEPS = 12;
/** Kilograms a cubic metre; it falls out of all but how tubes of unlike thickness push each other. */
const DENSITY = 1000;
/** Numbers kept of all frames together: 30 million are 120 MB. */
const MOST = 30_000_000;

/** The numbers that its motion follows from. */
interface RodNumbers {
  holdStart: boolean;
  holdEnd: boolean;
  soft: number;
  sticks: boolean;
  friction: number;
  itself: boolean;
  stiffness: number;
  gravity: number;
  drag: number;
}

/** What a tube that sags is simulated from; all in the scene. */
export interface RodSpec extends RodNumbers {
  /** xyz a welded vertex at the start. */
  start: Float64Array;
  topology: Topology;
  indices: Uint32Array;
  seconds: number;
  /** What it comes to lie on, at the start. */
  onto: readonly TriMesh[];
  /** How that stands at a frame, where any of it moves; what was told of another frame holds no longer. */
  around?: { key: string; at(frame: number): readonly (TriMesh | undefined)[] };
}

const NUMBERS = [
  'holdStart',
  'holdEnd',
  'soft',
  'sticks',
  'friction',
  'itself',
  'stiffness',
  'gravity',
  'drag',
] as const satisfies readonly (keyof RodNumbers)[];

/**
 * Tubes that sag, by position-based dynamics (XPBD, Macklin, Müller, Chentanez 2016; small steps, Macklin et al. 2019):
 * particles at the middles of their rings; lengths kept by one solve a chain; planes of contact that give by their own
 * weight, with Coulomb's friction or none to slide at all; and sections that widen by what they are flattened. Frames
 * follow from each other from time 0 on and are kept: a time has the same shape however it was come to.
 */
export class Rod {
  private frames: Float32Array[] = [];
  private skin: Skin;
  private p: Float64Array;
  private before: Float64Array;
  private v: Float64Array;
  private inverse: Float64Array;
  /** Metres a newton by which a section is flattened. */
  private yields: Float64Array;
  private chains: Chain[];
  /** Closing links: two particles and their length. */
  private closing: [number, number, number][] = [];
  private bends: { a: number; b: number; length: number }[] = [];
  /** Planes of contact of each particle with each surface: place and normal; how far these go in a step. */
  private contact: Float64Array;
  private drift: Float64Array;
  private touches: Uint8Array;
  private stuck: Uint8Array;
  private count: number;
  private self: OnItself | null;
  /** The way in which each ring is flattened, as long as the share. */
  private flat: Float64Array;

  constructor(
    private spec: RodSpec,
    private rings: Rings,
  ) {
    this.skin = new Skin(rings, spec.start, spec.topology, spec.indices);
    const n = rings.count;
    const { middle, radius } = this.skin;
    this.p = middle.slice();
    this.before = middle.slice();
    this.v = new Float64Array(n * 3);
    const length = lengths(rings, middle);
    this.inverse = new Float64Array(n);
    this.yields = new Float64Array(n);
    this.flat = new Float64Array(n * 3);
    for (const { from, to, closed } of rings.tubes)
      for (let k = from; k < to; k++) {
        const behind = k > from ? length[k - 1] : closed ? length[to - 1] : 0;
        const own = (behind + (k < to - 1 || closed ? length[k] : 0)) / 2;
        const mass = DENSITY * Math.PI * radius[k] * radius[k] * own;
        const held = (spec.holdStart && k === from) || (spec.holdEnd && k === to - 1);
        this.inverse[k] = held || !(mass > 0) ? 0 : 1 / mass;
        // So soft that its own weight flattens it by the share asked for.
        const weight = mass * Math.abs(spec.gravity);
        this.yields[k] = weight > 0 ? (spec.soft * radius[k]) / weight : 0;
      }
    this.chains = rings.tubes.map(({ from, to }) => new Chain(from, to, length.slice(from, to)));
    for (const { from, to, closed } of rings.tubes) {
      if (closed) this.closing.push([to - 1, from, length[to - 1]]);
      const last = closed ? to : to - 2;
      for (let k = from; k < last; k++) {
        const b = k + 2 < to ? k + 2 : k + 2 - to + from;
        this.bends.push({ a: k, b, length: between(middle, k, b) });
      }
    }
    const planes = n * spec.onto.length;
    this.contact = new Float64Array(planes * 6);
    this.drift = new Float64Array(spec.around ? planes * 6 : 0);
    this.touches = new Uint8Array(planes);
    this.stuck = new Uint8Array(planes);
    this.self = spec.itself ? new OnItself(rings, middle, radius) : null;
    this.count = countOf(spec.seconds, n);
    this.keep();
  }

  /** Whether it is simulated from just these numbers, but for how long. */
  isOf(spec: RodSpec): boolean {
    const { spec: own } = this;
    return (
      NUMBERS.every((name) => own[name] === spec[name]) &&
      sameNumbers(own.start, spec.start) &&
      sameNumbers(own.indices, spec.indices) &&
      own.around?.key === spec.around?.key &&
      own.onto.length === spec.onto.length &&
      (own.around !== undefined || own.onto.every((mesh, i) => sameFaces(mesh, spec.onto[i])))
    );
  }

  /** Simulates on for so many seconds; what is simulated already stays. */
  last(seconds: number): void {
    this.count = countOf(seconds, this.rings.count);
  }

  /** Seconds that are simulated. */
  get seconds(): number {
    return (this.count - 1) / RATE;
  }

  /**
   * The vertices at a time, between the two frames around it. @param out xyz a welded vertex
   * @param progress called with the share done while frames are simulated
   */
  at(time: number, out: Float64Array, progress?: (done: number) => void): void {
    const [a, b, u] = framesAround(this.frames, this.count, time, () => this.advance(), progress);
    this.skin.write(
      Float64Array.from(a, (x, i) => x + (b[i] - x) * u),
      out,
    );
  }

  private keep(): void {
    const { p, flat, rings } = this;
    const frame = new Float32Array(rings.count * STATE);
    for (let k = 0; k < rings.count; k++)
      for (let a = 0; a < 3; a++) {
        frame[k * STATE + a] = p[k * 3 + a];
        frame[k * STATE + 3 + a] = flat[k * 3 + a];
      }
    this.frames.push(frame);
  }

  /** One frame on. */
  private advance(): void {
    const frame = this.frames.length - 1;
    const { around, onto } = this.spec;
    // The next frame is asked first: what was told of a frame holds but until another one is asked for.
    const next = around?.at(frame + 1).map((mesh) => mesh && Float64Array.from(mesh.positions));
    this.meet(around ? around.at(frame) : onto, next);
    this.self?.find(this.p, this.v, 1 / RATE);
    for (let step = 0; step < STEPS; step++) this.step(1 / RATE / STEPS);
    this.flatten();
    this.keep();
  }

  /** What each particle may meet until the coming frame: a plane of each surface. @param next where their vertices go */
  private meet(onto: readonly (TriMesh | undefined)[], next?: (Float64Array | undefined)[]): void {
    const { p, v, touches, stuck, contact, drift } = this;
    const { radius } = this.skin;
    const m = onto.length;
    const hit = noHit();
    touches.fill(0);
    onto.forEach((mesh, j) => {
      if (!mesh) return;
      const to = next?.[j];
      const speed = to ? fastest(mesh.positions, to) : 0;
      for (let k = 0; k < this.rings.count; k++) {
        if (this.inverse[k] === 0) continue;
        const o = k * 3;
        const own = Math.sqrt(v[o] * v[o] + v[o + 1] * v[o + 1] + v[o + 2] * v[o + 2]);
        const reach = radius[k] * 2 + 0.01 + ((own + speed * RATE) * 2) / RATE;
        const c = k * m + j;
        if (!nearestPlace(mesh.tree(), p[o], p[o + 1], p[o + 2], reach, hit)) {
          stuck[c] = 0;
          continue;
        }
        touches[c] = 1;
        const at = placeOn(mesh, hit.face, hit.u, hit.v);
        const n = outOf(p, o, at, faceNormal(mesh, hit.face));
        contact.set([...at, ...n], c * 6);
        if (!to) continue;
        const [a, b, d] = [0, 1, 2].map((x) => mesh.indices[hit.face * 3 + x] * 3);
        for (let x = 0; x < 3; x++) {
          const then = to[a + x] * (1 - hit.u - hit.v) + to[b + x] * hit.u + to[d + x] * hit.v;
          drift[c * 6 + x] = (then - at[x]) / STEPS;
        }
      }
    });
  }

  private step(h: number): void {
    const { p, before, v, inverse, spec } = this;
    for (let k = 0; k < inverse.length; k++) {
      const o = k * 3;
      for (let a = 0; a < 3; a++) before[o + a] = p[o + a];
      if (inverse[k] === 0) continue;
      v[o + 1] -= spec.gravity * h;
      for (let a = 0; a < 3; a++) p[o + a] += v[o + a] * h;
    }
    for (let c = 0; c < this.drift.length; c++) this.contact[c] += this.drift[c];
    this.bend();
    for (const chain of this.chains) chain.tighten(p, inverse);
    for (const [a, b, length] of this.closing) pull(p, inverse, a, b, length, 1);
    this.self?.push(p, before, inverse, this.yields, spec.sticks ? Infinity : spec.friction, h);
    this.rest(h);
    const keep = 1 - Math.min(1, spec.drag * h);
    for (let k = 0; k < inverse.length; k++)
      if (inverse[k] > 0) for (let o = k * 3; o < k * 3 + 3; o++) v[o] = ((p[o] - before[o]) / h) * keep;
  }

  /** Keeps it from bending: ends of two links that follow each other go back to their distance, softly. */
  private bend(): void {
    const by = this.spec.stiffness * this.spec.stiffness;
    if (by === 0) return;
    for (const { a, b, length } of this.bends) pull(this.p, this.inverse, a, b, length, by);
  }

  /** Moves what is too near to its planes of contact off them, and holds it back from sliding. */
  private rest(h: number): void {
    const { p, before, inverse, contact: c, drift, touches, stuck, yields, spec } = this;
    const { radius } = this.skin;
    const m = spec.onto.length;
    for (let i = 0; i < touches.length; i++) {
      if (!touches[i]) continue;
      const k = (i / m) | 0;
      const [o, q, w] = [k * 3, i * 6, inverse[k]];
      const [nx, ny, nz] = [c[q + 3], c[q + 4], c[q + 5]];
      const away = (p[o] - c[q]) * nx + (p[o + 1] - c[q + 1]) * ny + (p[o + 2] - c[q + 2]) * nz;
      let short = radius[k] - away;
      if (short <= 0 && !(stuck[i] && short > -radius[k])) {
        stuck[i] = 0;
        continue;
      }
      if (spec.sticks) stuck[i] = 1;
      const [sx, sy, sz] = spec.around ? [drift[q], drift[q + 1], drift[q + 2]] : [0, 0, 0];
      // What it did in this step, as seen from what it lies on: towards that, and over it.
      let [x, y, z] = [p[o] - before[o] - sx, p[o + 1] - before[o + 1] - sy, p[o + 2] - before[o + 2] - sz];
      const up = x * nx + y * ny + z * nz;
      [x, y, z] = [x - nx * up, y - ny * up, z - nz * up];
      short = pushBy(short, radius[k], w, yields[k], h, Math.max(0, -up));
      p[o] += nx * short;
      p[o + 1] += ny * short;
      p[o + 2] += nz * short;
      const slid = Math.sqrt(x * x + y * y + z * z);
      if (!(slid > 0)) continue;
      const back = spec.sticks ? 1 : Math.min(1, (spec.friction * Math.max(0, short)) / slid);
      p[o] -= x * back;
      p[o + 1] -= y * back;
      p[o + 2] -= z * back;
    }
  }

  /** How each section is flattened now: where it is pressed most, and by what share. */
  private flatten(): void {
    const { p, flat, contact: c, touches, spec } = this;
    const { radius } = this.skin;
    const m = spec.onto.length;
    flat.fill(0);
    const press = (k: number, nx: number, ny: number, nz: number, share: number) => {
      const o = k * 3;
      const have = flat[o] * flat[o] + flat[o + 1] * flat[o + 1] + flat[o + 2] * flat[o + 2];
      const by = Math.min(1 - FLATTEST, share);
      if (by * by <= have) return;
      flat[o] = nx * by;
      flat[o + 1] = ny * by;
      flat[o + 2] = nz * by;
    };
    for (let i = 0; i < touches.length; i++) {
      if (!touches[i]) continue;
      const k = (i / m) | 0;
      const [o, q] = [k * 3, i * 6];
      const away = [0, 1, 2].reduce((sum, a) => sum + (p[o + a] - c[q + a]) * c[q + 3 + a], 0);
      if (away < radius[k]) press(k, c[q + 3], c[q + 4], c[q + 5], 1 - away / radius[k]);
    }
    this.self?.pressed(p, press);
  }
}

/** How many frames there are of so many seconds, of so many rings. */
const countOf = (seconds: number, rings: number): number =>
  Math.max(2, Math.min(Math.round(seconds * RATE) + 1, Math.floor(MOST / (rings * STATE))));

/** How far each ring is from the next; the last of a closed tube from the first. */
function lengths({ tubes, count }: Rings, p: ArrayLike<number>): Float64Array {
  const out = new Float64Array(count);
  for (const { from, to, closed } of tubes)
    for (let k = from; k < to; k++)
      if (k < to - 1 || closed) out[k] = between(p, k, k < to - 1 ? k + 1 : from);
  return out;
}

function between(p: ArrayLike<number>, a: number, b: number): number {
  const [x, y, z] = [0, 1, 2].map((k) => p[a * 3 + k] - p[b * 3 + k]);
  return Math.sqrt(x * x + y * y + z * z);
}

/** Brings two particles towards a distance, by a share of what is missing. */
function pull(
  p: Float64Array,
  inverse: Float64Array,
  a: number,
  b: number,
  length: number,
  share: number,
): void {
  const w = inverse[a] + inverse[b];
  const [i, j] = [a * 3, b * 3];
  const [x, y, z] = [p[i] - p[j], p[i + 1] - p[j + 1], p[i + 2] - p[j + 2]];
  const l = Math.sqrt(x * x + y * y + z * z);
  if (!(w > 0) || !(l > 1e-12)) return;
  const k = (share * (length - l)) / l / w;
  for (let c = 0; c < 3; c++) {
    const d = [x, y, z][c] * k;
    p[i + c] += d * inverse[a];
    p[j + c] -= d * inverse[b];
  }
}

/** From the nearest place of a surface to what lies over it; where that is under it, its normal. */
function outOf(
  p: Float64Array,
  o: number,
  at: readonly number[],
  normal: readonly number[],
): readonly number[] {
  const way = [p[o] - at[0], p[o + 1] - at[1], p[o + 2] - at[2]];
  const long = Math.sqrt(way[0] * way[0] + way[1] * way[1] + way[2] * way[2]);
  const over = way[0] * normal[0] + way[1] * normal[1] + way[2] * normal[2];
  return long > 1e-9 && over > 1e-6 * long ? way.map((x) => x / long) : normal;
}

/** How far the vertex goes that goes farthest. */
function fastest(now: ArrayLike<number>, then: ArrayLike<number>): number {
  let most = 0;
  if (now.length === then.length)
    for (let o = 0; o < now.length; o += 3) {
      const [x, y, z] = [then[o] - now[o], then[o + 1] - now[o + 1], then[o + 2] - now[o + 2]];
      most = Math.max(most, x * x + y * y + z * z);
    }
  return Math.sqrt(most);
}
