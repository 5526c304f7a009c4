import { cross, dot, normalize, rotateAbout, scale, sub, type Vec3 } from '../math/vec3';
import { DEG } from '../math/quat';
import type { CompiledPath } from './compile';
import { alongPoints, onPath, samplePath, type Samples } from './sample';
import { acos, atan2, cos, sin } from '../math/portable';

/** How a prop's up axis stands along a path. */
export type Posture = 'upright' | 'slope' | 'bank';

/** One frame a row: where, the way along (tangent), and unit front and up at right angles to each other. */
export interface Frames extends Samples {
  front: Float64Array;
  up: Float64Array;
}

const read = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/**
 * Carries the direction `r` from (x0, t0) to (x1, t1) with the least rotation: double reflection
 * (Wang, Jüttler, Zheng, Liu: Computation of Rotation Minimizing Frames, ACM TOG 27(1), 2008). Exact for circles,
 * global error of fourth order. Works where the points coincide (a corner) and where the tangent turns back.
 */
export function doubleReflect(x0: Vec3, t0: Vec3, r: Vec3, x1: Vec3, t1: Vec3): Vec3 {
  const v1 = sub(x1, x0);
  const c1 = dot(v1, v1);
  let rl = r;
  let tl = t0;
  if (c1 > 1e-300) {
    rl = sub(r, scale(v1, (2 / c1) * dot(v1, r)));
    tl = sub(t0, scale(v1, (2 / c1) * dot(v1, t0)));
    const v2 = sub(t1, tl);
    const c2 = dot(v2, v2);
    const out = c2 > 1e-300 ? sub(rl, scale(v2, (2 / c2) * dot(v2, rl))) : rl;
    return squareTo(out, t1);
  }
  // No step: the smallest rotation that takes t0 to t1. Straight back: r is kept.
  const axis = cross(t0, t1);
  const s = Math.hypot(axis[0], axis[1], axis[2]);
  if (s < 1e-12) return squareTo(r, t1);
  return squareTo(rotateAbout(r, scale(axis, 1 / s), atan2(s, dot(t0, t1))), t1);
}

/** `r` made exactly perpendicular to the unit `t` and of length one. */
function squareTo(r: Vec3, t: Vec3): Vec3 {
  const d = dot(r, t);
  const out: Vec3 = [r[0] - t[0] * d, r[1] - t[1] * d, r[2] - t[2] * d];
  if (Math.hypot(out[0], out[1], out[2]) > 1e-9) return normalize(out);
  const other: Vec3 = Math.abs(t[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1];
  return normalize(cross(cross(t, other), t));
}

/**
 * Rotation-minimising directions through given samples.
 * @param samples positions and unit tangents, three numbers each @param r0 first direction, perpendicular to t0
 */
export function rotationMinimising(samples: Samples, r0: Vec3): Float64Array {
  const n = samples.position.length / 3;
  const out = new Float64Array(n * 3);
  let r = r0;
  for (let i = 0; i < n; i++) {
    if (i > 0)
      r = doubleReflect(
        read(samples.position, i - 1),
        read(samples.tangent, i - 1),
        r,
        read(samples.position, i),
        read(samples.tangent, i),
      );
    out.set(r, i * 3);
  }
  return out;
}

/** Nodes along the path that the bank and the headings of steep stretches are carried over. */
interface Carrier {
  s: Float64Array;
  samples: Samples;
  bank: Float64Array;
  /** Twist in radians a metre that closes the loop; 0 on an open path. */
  untwist: number;
  /** Unwrapped heading angle at each node, steep stretches filled in. */
  heading: Float64Array;
}

const carriers = new WeakMap<CompiledPath, Carrier>();
const STEEP = 0.02;
const FLAT_ENOUGH = 0.15;

/** Lengths of the nodes: both sides of every joint, and inside each span pieces of little turn. */
function carrierLengths(path: CompiledPath): { s: number[]; samples: Samples } {
  const { table } = path;
  const s: number[] = [];
  for (let i = 0; i < table.spanCount; i++) {
    const h = table.s1[i] - table.s0[i];
    if (!(h > 1e-7 * path.length)) continue;
    const mid = samplePath(path, [
      table.s0[i] + h * 1e-7,
      table.s0[i] + h / 2,
      table.s1[i] - h * 1e-7,
    ]).tangent;
    const turn = (a: number, b: number) => acos(Math.min(1, Math.max(-1, dot(read(mid, a), read(mid, b)))));
    const pieces = Math.min(128, Math.max(2, Math.ceil((turn(0, 1) + turn(1, 2)) / 0.035)));
    // Just inside both ends, so that a corner has a node on either side of it.
    const inner = path.length * 1e-9;
    for (let k = 0; k <= pieces; k++) s.push(table.s0[i] + inner + ((h - 2 * inner) * k) / pieces);
  }
  return { s, samples: samplePath(path, s) };
}

function carrierOf(path: CompiledPath): Carrier {
  const have = carriers.get(path);
  if (have) return have;
  const { s, samples } = carrierLengths(path);
  const n = s.length;
  const heading = fillHeadings(samples, s);
  const t0 = read(samples.tangent, 0);
  const start = slopeUp(t0, headingVector(heading[0]));
  const bank = rotationMinimising(samples, start);
  let untwist = 0;
  if (path.closed) {
    const last = n - 1;
    const round = doubleReflect(
      read(samples.position, last),
      read(samples.tangent, last),
      read(bank, last),
      read(samples.position, 0),
      t0,
    );
    untwist = atan2(dot(cross(round, start), t0), dot(round, start)) / path.length;
  }
  const made = { s: Float64Array.from(s), samples, bank, untwist, heading };
  carriers.set(path, made);
  return made;
}

const headingVector = (angle: number): Vec3 => [sin(angle), 0, cos(angle)];

/** Heading angles of the nodes, unwrapped; where the path is steep they run evenly between the flat neighbours. */
function fillHeadings(samples: Samples, s: number[]): Float64Array {
  const n = s.length;
  const out = new Float64Array(n);
  let known = -1;
  for (let i = 0; i < n; i++) {
    const [x, , z] = read(samples.tangent, i);
    if (Math.hypot(x, z) < STEEP) continue;
    let angle = atan2(x, z);
    if (known >= 0) angle += 2 * Math.PI * Math.round((out[known] - angle) / (2 * Math.PI));
    out[i] = angle;
    for (let k = known + 1; k < i; k++) {
      const u = known < 0 || s[i] === s[known] ? 1 : (s[k] - s[known]) / (s[i] - s[known]);
      out[k] = known < 0 ? angle : out[known] + (angle - out[known]) * u;
    }
    known = i;
  }
  for (let k = known + 1; k < n; k++) out[k] = known < 0 ? 0 : out[known];
  return out;
}

/** Index of the last node at or before `s`. */
function nodeBefore(carrier: Carrier, s: number, hint: number): number {
  const nodes = carrier.s;
  if (nodes[hint] <= s && (hint + 1 >= nodes.length || nodes[hint + 1] > s)) return hint;
  if (hint + 2 < nodes.length && nodes[hint + 1] <= s && nodes[hint + 2] > s) return hint + 1;
  let low = 0;
  let high = nodes.length - 1;
  while (low < high) {
    const mid = Math.ceil((low + high) / 2);
    if (nodes[mid] <= s) low = mid;
    else high = mid - 1;
  }
  return low;
}

/** Up of a frame that pitches with the tangent and never rolls; `h` is the level heading. */
function slopeUp(t: Vec3, h: Vec3): Vec3 {
  const rise = t[1];
  const flat = Math.sqrt(Math.max(0, 1 - rise * rise));
  return squareTo([-h[0] * rise, flat, -h[2] * rise], t);
}

/** Level heading at `s`: the tangent's own, blended into the carried one where the path is steep. */
function levelHeading(path: CompiledPath, t: Vec3, s: number, hint: { node: number }): Vec3 {
  const flat = Math.hypot(t[0], t[2]);
  if (flat >= FLAT_ENOUGH) return [t[0] / flat, 0, t[2] / flat];
  const carrier = carrierOf(path);
  const at = onPath(path, s);
  const i = (hint.node = nodeBefore(carrier, at, hint.node));
  const j = Math.min(i + 1, carrier.s.length - 1);
  const width = carrier.s[j] - carrier.s[i];
  const u = width > 0 ? Math.min(1, Math.max(0, (at - carrier.s[i]) / width)) : 0;
  const carried = headingVector(carrier.heading[i] + (carrier.heading[j] - carrier.heading[i]) * u);
  const w = Math.max(0, (flat - STEEP) / (FLAT_ENOUGH - STEEP));
  const ease = w * w * (3 - 2 * w);
  const own: Vec3 = flat > 1e-12 ? [t[0] / flat, 0, t[2] / flat] : carried;
  const mixed: Vec3 = [
    carried[0] + (own[0] - carried[0]) * ease,
    0,
    carried[2] + (own[2] - carried[2]) * ease,
  ];
  return normalize(mixed, carried);
}

/**
 * Frames at many lengths, without flips, in time proportional to their number.
 * upright: up is world up. slope: front follows the tangent, up never rolls. bank: rotation-minimising, the
 * leftover twist of a closed path spread evenly, plus the points' roll (degrees, eased between the points).
 */
export function framesAlong(path: CompiledPath, s: ArrayLike<number>, posture: Posture): Frames {
  const samples = samplePath(path, s);
  const n = s.length;
  const front = new Float64Array(n * 3);
  const up = new Float64Array(n * 3);
  const hint = { node: 0 };
  if (posture === 'bank') bankFrames(path, s, samples, front, up);
  else
    for (let i = 0; i < n; i++) {
      const tx = samples.tangent[i * 3];
      const ty = samples.tangent[i * 3 + 1];
      const tz = samples.tangent[i * 3 + 2];
      const flat = Math.sqrt(tx * tx + tz * tz);
      let hx = tx / flat;
      let hz = tz / flat;
      if (!(flat >= FLAT_ENOUGH)) [hx, , hz] = levelHeading(path, [tx, ty, tz], s[i], hint);
      if (posture === 'upright') {
        front[i * 3] = hx;
        front[i * 3 + 2] = hz;
        up[i * 3 + 1] = 1;
      } else {
        front[i * 3] = tx;
        front[i * 3 + 1] = ty;
        front[i * 3 + 2] = tz;
        up.set(slopeUp([tx, ty, tz], [hx, 0, hz]), i * 3);
      }
    }
  return { ...samples, front, up };
}

function bankFrames(
  path: CompiledPath,
  s: ArrayLike<number>,
  samples: Samples,
  front: Float64Array,
  up: Float64Array,
): void {
  const carrier = carrierOf(path);
  const rolls = path.rollDeg.some((r) => r !== 0);
  let node = 0;
  for (let i = 0; i < s.length; i++) {
    const at = onPath(path, s[i]);
    node = nodeBefore(carrier, at, node);
    const t = read(samples.tangent, i);
    const r = doubleReflect(
      read(carrier.samples.position, node),
      read(carrier.samples.tangent, node),
      read(carrier.bank, node),
      read(samples.position, i),
      t,
    );
    const angle = carrier.untwist * at + (rolls ? alongPoints(path, path.rollDeg, at) * DEG : 0);
    up.set(angle === 0 ? r : rotateAbout(r, t, angle), i * 3);
    front.set(t, i * 3);
  }
}
