import type { Meeting } from './overlap';
import { planeOf } from './planeOf';
import type { Tilt } from './tilt';

/** More than these are not kept at a time; of more, those go that leave the most room. */
const MOST = 96;
/** So far beside its end (as a share) a side or a face still counts as met. */
const BESIDE = 1e-7;

type Kind = Meeting['kind'];

/**
 * What holds a thing: pairs of what of it and what of the ground meet, each with the room that it leaves, as if its
 * faces and sides went on without an end. What is of the thing is in its own space, what is of the ground in the frame
 * of the fall. What is said of each was said for the pose of the last {@link Holds.look}.
 */
export class Holds {
  count = 0;
  private kind: Kind[] = [];
  /** Up to three corners each: one of a corner, two of a side, three of a face. */
  private own = new Float64Array(MOST * 9);
  private ground = new Float64Array(MOST * 9);
  /** Metres; Infinity where it holds nothing. */
  readonly room = new Float64Array(MOST);
  /** How the room changes with the tilt along both of its directions. */
  readonly x = new Float64Array(MOST);
  readonly y = new Float64Array(MOST);
  /** What it was found as, where that has a number. */
  private key = new Float64Array(MOST);
  /** Of a corner's face h = a·x + b·y + c: a, b and c. */
  private planes = new Float64Array(MOST * 3);
  /** Shares along the sides where they cross, or of a face's second and third corner; of a corner where it is. */
  private s = new Float64Array(MOST);
  private t = new Float64Array(MOST);
  /** So many, the first ones, are as they were said to be at this tilt when it had come to so many turns. */
  private looked = 0;
  private at: Tilt | null = null;
  private turns = 0;

  /** Whether what a hold is made of really meets there. */
  reaches(k: number): boolean {
    return this.within(k) > -BESIDE;
  }

  /** How far within its ends what a hold is made of meets, as a share; below zero it does not, only without an end. */
  within(k: number): number {
    const s = this.s[k];
    const t = this.t[k];
    const kind = this.kind[k];
    if (kind === 'sides') return Math.min(s, 1 - s, t, 1 - t);
    if (kind === 'face-corner') return Math.min(s, t, 1 - s - t);
    const { ground: c } = this;
    const o = k * 9;
    share(c[o + 3] - c[o], c[o + 4] - c[o + 1], c[o] - c[o + 6], c[o + 1] - c[o + 7], s - c[o], t - c[o + 1]);
    return Math.min(shares.s, shares.t, 1 - shares.s - shares.t);
  }

  /** Whether what has this number is there. */
  has(key: number): boolean {
    for (let k = 0; k < this.count; k++) if (this.key[k] === key) return true;
    return false;
  }

  /**
   * Takes up a hold.
   * @param own corners in the thing's own space, one after the other: one of a corner, two of a side, three of a face
   * @param ground the same of the ground, in the frame, from `g` on @param key a number to know it by; NaN for none
   */
  add(kind: Kind, own: ArrayLike<number>, ground: ArrayLike<number>, g: number, key: number): void {
    const at = this.count < MOST ? this.count++ : this.roomiest();
    this.kind[at] = kind;
    this.key[at] = key;
    const mine = kind === 'corner-face' ? 3 : kind === 'sides' ? 6 : 9;
    const theirs = 12 - mine;
    for (let i = 0; i < mine; i++) this.own[at * 9 + i] = own[i];
    for (let i = 0; i < theirs; i++) this.ground[at * 9 + i] = ground[g + i];
    this.room[at] = -Infinity;
    this.looked = Math.min(this.looked, at);
    if (kind !== 'corner-face') return;
    if (!planeOf(this.ground, at * 9, this.planes, at * 3)) this.planes.fill(NaN, at * 3, at * 3 + 3);
  }

  private roomiest(): number {
    let most = 0;
    for (let k = 1; k < this.count; k++) if (this.room[k] > this.room[most]) most = k;
    return most;
  }

  /** Keeps those only for which `keeps` holds. */
  keep(keeps: (k: number) => boolean): void {
    let n = 0;
    let looked = 0;
    for (let k = 0; k < this.count; k++) {
      if (!keeps(k)) continue;
      if (n < k) this.copy(k, n);
      n++;
      if (k < this.looked) looked = n;
    }
    this.count = n;
    this.looked = looked;
  }

  private copy(from: number, to: number): void {
    this.kind[to] = this.kind[from];
    this.own.copyWithin(to * 9, from * 9, from * 9 + 9);
    this.ground.copyWithin(to * 9, from * 9, from * 9 + 9);
    this.planes.copyWithin(to * 3, from * 3, from * 3 + 3);
    this.key[to] = this.key[from];
    this.room[to] = this.room[from];
    this.x[to] = this.x[from];
    this.y[to] = this.y[from];
    this.s[to] = this.s[from];
    this.t[to] = this.t[from];
  }

  /** Says of each what it does at a tilt: of those that it is known of already it is. @returns the least room */
  look(tilt: Tilt): number {
    if (this.at !== tilt || this.turns !== tilt.turns) this.looked = 0;
    for (let k = this.looked; k < this.count; k++) {
      const kind = this.kind[k];
      if (kind === 'corner-face') this.corner(k, tilt);
      else if (kind === 'sides') this.sides(k, tilt);
      else this.face(k, tilt);
    }
    this.looked = this.count;
    this.at = tilt;
    this.turns = tilt.turns;
    let least = Infinity;
    for (let k = 0; k < this.count; k++) if (this.room[k] < least) least = this.room[k];
    return least;
  }

  private corner(k: number, tilt: Tilt): void {
    const { own: p, planes } = this;
    const o = k * 9;
    see(tilt.pose, p, o, 0);
    const x = seen[0];
    const y = seen[1];
    this.s[k] = x;
    this.t[k] = y;
    rise[0] = planes[k * 3];
    rise[1] = planes[k * 3 + 1];
    this.say(k, tilt, seen[2] - rise[0] * x - rise[1] * y - planes[k * 3 + 2], p[o], p[o + 1], p[o + 2]);
  }

  private face(k: number, tilt: Tilt): void {
    const { own: p, ground } = this;
    const o = k * 9;
    for (let c = 0; c < 9; c += 3) see(tilt.pose, p, o + c, c);
    planeOf(seen, 0, rise, 0);
    const gx = ground[o];
    const gy = ground[o + 1];
    share(
      seen[3] - seen[0],
      seen[4] - seen[1],
      seen[0] - seen[6],
      seen[1] - seen[7],
      gx - seen[0],
      gy - seen[1],
    );
    const { s, t } = shares;
    const height = seen[2] + (seen[5] - seen[2]) * s + (seen[8] - seen[2]) * t;
    const r = 1 - s - t;
    this.say(
      k,
      tilt,
      height - ground[o + 2],
      p[o] * r + p[o + 3] * s + p[o + 6] * t,
      p[o + 1] * r + p[o + 4] * s + p[o + 7] * t,
      p[o + 2] * r + p[o + 5] * s + p[o + 8] * t,
    );
    this.s[k] = s;
    this.t[k] = t;
  }

  private sides(k: number, tilt: Tilt): void {
    const { own: p, ground } = this;
    const o = k * 9;
    see(tilt.pose, p, o, 0);
    see(tilt.pose, p, o + 3, 3);
    const ux = seen[3] - seen[0];
    const uy = seen[4] - seen[1];
    const uh = seen[5] - seen[2];
    const vx = ground[o + 3] - ground[o];
    const vy = ground[o + 4] - ground[o + 1];
    const vh = ground[o + 5] - ground[o + 2];
    share(ux, uy, vx, vy, ground[o] - seen[0], ground[o + 1] - seen[1]);
    const { s, t } = shares;
    // Both sides lie in the plane that they touch in.
    const det = ux * vy - uy * vx;
    rise[0] = (uh * vy - uy * vh) / det;
    rise[1] = (ux * vh - uh * vx) / det;
    this.say(
      k,
      tilt,
      seen[2] + uh * s - ground[o + 2] - vh * t,
      p[o] + (p[o + 3] - p[o]) * s,
      p[o + 1] + (p[o + 4] - p[o + 1]) * s,
      p[o + 2] + (p[o + 5] - p[o + 2]) * s,
    );
    this.s[k] = s;
    this.t[k] = t;
  }

  /** @param x where the thing is met, in its own space; it is met in a plane that rises by `rise` */
  private say(k: number, { alongX, alongY }: Tilt, room: number, x: number, y: number, z: number): void {
    // Lines that run alike hold nothing.
    const holds = room < Infinity;
    this.room[k] = holds ? room : Infinity;
    this.x[k] = holds ? changeOf(alongX, x, y, z, rise[0], rise[1]) : 0;
    this.y[k] = holds ? changeOf(alongY, x, y, z, rise[0], rise[1]) : 0;
  }
}

/** How much higher over a plane that rises by a and b a place comes when the pose changes by m. */
function changeOf(m: Float64Array, x: number, y: number, z: number, a: number, b: number): number {
  return (
    (m[6] - a * m[0] - b * m[3]) * x + (m[7] - a * m[1] - b * m[4]) * y + (m[8] - a * m[2] - b * m[5]) * z
  );
}

const seen = new Float64Array(9);
/** Shares along two lines where they cross, or of a triangle's second and third corner. */
const shares = { s: 0, t: 0 };
/** How a plane rises along x and y, and its height at (0, 0). */
const rise = new Float64Array(3);

function see(m: Float64Array, p: Float64Array, o: number, w: number): void {
  const x = p[o];
  const y = p[o + 1];
  const z = p[o + 2];
  seen[w] = m[0] * x + m[1] * y + m[2] * z;
  seen[w + 1] = m[3] * x + m[4] * y + m[5] * z;
  seen[w + 2] = m[6] * x + m[7] * y + m[8] * z;
}

/** Where s·u and d + t·v cross: NaN where they run alike. */
function share(ux: number, uy: number, vx: number, vy: number, dx: number, dy: number): void {
  const det = ux * vy - uy * vx;
  const runsAlike = !(Math.abs(det) > 1e-12 * (ux * ux + uy * uy + vx * vx + vy * vy));
  shares.s = runsAlike ? NaN : (dx * vy - dy * vx) / det;
  shares.t = runsAlike ? NaN : (dx * uy - dy * ux) / det;
}
