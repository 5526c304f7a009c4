import { cross, dot, normalize, type Vec3 } from '../math/vec3';
import { DEG } from '../math/quat';
import type { CompiledPath } from './compile';
import { doubleReflect, read, reflectRow, rotationMinimising, squareTo } from './reflect';
import { alongPoints, onPath, samplePath, type Samples } from './sample';
import { acos, atan2, cos, hypot, sin } from '../math/portable';

/** How a prop's up axis stands along a path. */
export type Posture = 'upright' | 'slope' | 'bank';

/** One frame a row: where, and unit front and up at right angles to each other. */
export interface Frames {
  position: Float64Array;
  /** The way along; level where it stands upright. */
  front: Float64Array;
  up: Float64Array;
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
    if (hypot(x, z) < STEEP) continue;
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

/** {@link slopeUp} into row `i`, without an allocation where the tangent is not nearly upright. */
function slopeUpRow(
  up: Float64Array,
  i: number,
  tx: number,
  ty: number,
  tz: number,
  hx: number,
  hz: number,
): void {
  const flat = Math.sqrt(Math.max(0, 1 - ty * ty));
  let x = -hx * ty;
  let y = flat;
  let z = -hz * ty;
  const d = x * tx + y * ty + z * tz;
  x -= tx * d;
  y -= ty * d;
  z -= tz * d;
  const l = Math.sqrt(x * x + y * y + z * z);
  if (l > 1e-9) {
    up[i * 3] = x / l;
    up[i * 3 + 1] = y / l;
    up[i * 3 + 2] = z / l;
  } else up.set(slopeUp([tx, ty, tz], [hx, 0, hz]), i * 3);
}

/** Level heading at `s`: the tangent's own, blended into the carried one where the path is steep. */
function levelHeading(path: CompiledPath, t: Vec3, s: number, hint: { node: number }): Vec3 {
  const flat = hypot(t[0], t[2]);
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
 * @param bankDeg bank: how far all are rolled, degrees, up towards the right of the path
 */
export function framesAlong(path: CompiledPath, s: ArrayLike<number>, posture: Posture, bankDeg = 0): Frames {
  const samples = samplePath(path, s);
  const n = s.length;
  // Fronts are the tangents, in their own list: what is shorter in memory is quicker.
  const front = samples.tangent;
  const up = new Float64Array(n * 3);
  const hint = { node: 0 };
  if (posture === 'bank') bankFrames(path, s, samples, up, bankDeg * DEG);
  else
    for (let i = 0; i < n; i++) {
      const tx = front[i * 3];
      const ty = front[i * 3 + 1];
      const tz = front[i * 3 + 2];
      const flat = Math.sqrt(tx * tx + tz * tz);
      let hx = tx / flat;
      let hz = tz / flat;
      if (!(flat >= FLAT_ENOUGH)) [hx, , hz] = levelHeading(path, [tx, ty, tz], s[i], hint);
      if (posture === 'upright') {
        front[i * 3] = hx;
        front[i * 3 + 1] = 0;
        front[i * 3 + 2] = hz;
        up[i * 3 + 1] = 1;
      } else slopeUpRow(up, i, tx, ty, tz, hx, hz);
    }
  return { position: samples.position, front, up };
}

function bankFrames(
  path: CompiledPath,
  s: ArrayLike<number>,
  samples: Samples,
  up: Float64Array,
  roll: number,
): void {
  const carrier = carrierOf(path);
  const rolls = path.rollDeg.some((r) => r !== 0);
  let node = 0;
  for (let i = 0; i < s.length; i++) {
    const at = onPath(path, s[i]);
    node = nodeBefore(carrier, at, node);
    reflectRow(carrier.samples, carrier.bank, node, samples, i, up);
    const angle = roll + carrier.untwist * at + (rolls ? alongPoints(path, path.rollDeg, at) * DEG : 0);
    if (angle !== 0) turnRow(up, samples.tangent, i, angle);
  }
}

/** Turns the direction in row `i` of `r` about the unit tangent that it is square to. */
function turnRow(r: Float64Array, tangent: Float64Array, i: number, angle: number): void {
  const o = i * 3;
  const c = cos(angle);
  const s = sin(angle);
  const x = r[o];
  const y = r[o + 1];
  const z = r[o + 2];
  const tx = tangent[o];
  const ty = tangent[o + 1];
  const tz = tangent[o + 2];
  r[o] = x * c + (ty * z - tz * y) * s;
  r[o + 1] = y * c + (tz * x - tx * z) * s;
  r[o + 2] = z * c + (tx * y - ty * x) * s;
}
