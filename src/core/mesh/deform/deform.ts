import { noise3 } from '../../math/noise';
import { cos, sin } from '../../math/portable';
import { DEG } from '../../math/quat';
import { triMeshBounds } from '../triMesh';
import type { Deformer } from './schema';

const AXIS = { x: 0, y: 1, z: 2 } as const;
const TURN = 2 * Math.PI;

/** Whether a stack of deformers changes with time. */
export const deformersMove = (stack: readonly Deformer[]): boolean =>
  stack.some((d) => {
    if (!d.on) return false;
    if (d.kind === 'cloth' || d.kind === 'sag') return !d.settled;
    return 'speed' in d ? d.speed !== 0 : d.sway !== 0;
  });

/** How much of its amount a swaying deformer has at a time. */
const swing = (d: { sway: number; period: number }, time: number): number =>
  d.sway === 0 ? 1 : 1 + d.sway * sin((TURN * time) / d.period);

/**
 * Moves the places of a surface through a stack of deformers, each on what the one before it made.
 * @param positions xyz a vertex in the surface's own frame; changed in place
 * @param normals at rest, for what pushes along them @param time seconds
 * @param strength how much of a deformer counts at each vertex, 0–1; absent or undefined: all of it
 */
export function deform(
  positions: Float64Array,
  normals: ArrayLike<number>,
  stack: readonly Deformer[],
  time: number,
  strength?: Strength,
): void {
  for (const d of stack) {
    if (!d.on) continue;
    const held = strength?.(d);
    const before = held && positions.slice();
    apply(positions, normals, d, time);
    if (held && before)
      for (let o = 0; o < positions.length; o++)
        positions[o] = before[o] + (positions[o] - before[o]) * held[Math.floor(o / 3)];
  }
}

/** How much of a deformer counts at each vertex. */
export type Strength = (d: Deformer) => Float64Array | undefined;

function apply(p: Float64Array, normals: ArrayLike<number>, d: Deformer, time: number): void {
  switch (d.kind) {
    case 'bend':
      return bend(p, d, swing(d, time));
    case 'twist':
      return twist(p, d, swing(d, time));
    case 'taper':
      return taper(p, d, swing(d, time));
    case 'wave':
      return wave(p, d, time);
    case 'noise':
      return bumps(p, normals, d, time);
    case 'bulge':
      return bulge(p, d, swing(d, time));
    case 'pulley':
      // It goes by the whole mesh, before anything else: see `goRound`.
      return undefined;
    case 'cloth':
    case 'sag':
      // It has a history: the surface itself simulates it, between what comes before and after.
      return undefined;
  }
}

type Of<K extends Deformer['kind']> = Extract<Deformer, { kind: K }>;

/** Least and length of the places along an axis. */
function extent(p: Float64Array, axis: number): { low: number; length: number } {
  const bounds = triMeshBounds({ positions: p });
  return bounds
    ? { low: bounds.min[axis], length: bounds.max[axis] - bounds.min[axis] }
    : { low: 0, length: 0 };
}

/** Lays the axis on an arc that turns by the angle over the whole length; the fixed share stays in place. */
function bend(p: Float64Array, d: Of<'bend'>, amount: number): void {
  const a = AXIS[d.along];
  const b = AXIS[d.towards];
  const { low, length } = extent(p, a);
  const angle = d.angleDeg * DEG * amount;
  if (a === b || !(length > 0) || angle === 0) return;
  const k = angle / length;
  const from = low + d.fixed * length;
  for (let o = 0; o < p.length; o += 3) {
    const s = p[o + a] - from;
    const phi = s * k;
    const h = p[o + b];
    // Written so that a bend of next to nothing is next to nothing: sin φ / φ and (1 − cos φ) / φ.
    const half = sin(phi / 2);
    const small = Math.abs(phi) < 1e-5;
    p[o + a] = from + s * (small ? 1 - (phi * phi) / 6 : sin(phi) / phi) - sin(phi) * h;
    p[o + b] = h * cos(phi) + s * (small ? phi / 2 : (2 * half * half) / phi);
  }
}

function twist(p: Float64Array, d: Of<'twist'>, amount: number): void {
  const a = AXIS[d.along];
  const [b, c] = [(a + 1) % 3, (a + 2) % 3];
  const { low, length } = extent(p, a);
  if (!(length > 0)) return;
  for (let o = 0; o < p.length; o += 3) {
    const phi = ((p[o + a] - low) / length - d.fixed) * d.angleDeg * DEG * amount;
    const [co, si] = [cos(phi), sin(phi)];
    const [x, y] = [p[o + b], p[o + c]];
    p[o + b] = x * co - y * si;
    p[o + c] = x * si + y * co;
  }
}

function taper(p: Float64Array, d: Of<'taper'>, amount: number): void {
  const a = AXIS[d.along];
  const { low, length } = extent(p, a);
  if (!(length > 0)) return;
  for (let o = 0; o < p.length; o += 3) {
    const k = 1 + ((p[o + a] - low) / length) * (d.factor - 1) * amount;
    p[o + ((a + 1) % 3)] *= k;
    p[o + ((a + 2) % 3)] *= k;
  }
}

function wave(p: Float64Array, d: Of<'wave'>, time: number): void {
  const push = AXIS[d.push];
  const [b, c] = push === 1 ? [0, 2] : [(push + 1) % 3, (push + 2) % 3];
  const [co, si] = [cos(d.directionDeg * DEG), sin(d.directionDeg * DEG)];
  let low = Infinity;
  let high = -Infinity;
  for (let o = 0; o < p.length; o += 3) {
    const s = p[o + b] * co + p[o + c] * si;
    low = Math.min(low, s);
    high = Math.max(high, s);
  }
  const length = high - low;
  for (let o = 0; o < p.length; o += 3) {
    const s = p[o + b] * co + p[o + c] * si;
    const t = length > 0 ? (s - low) / length : 0;
    const hold =
      d.pinned === 'start' ? t : d.pinned === 'end' ? 1 - t : d.pinned === 'both' ? 4 * t * (1 - t) : 1;
    p[o + push] += d.height * hold * sin((TURN * (s - d.speed * time)) / d.length + d.phaseDeg * DEG);
  }
}

function bumps(p: Float64Array, normals: ArrayLike<number>, d: Of<'noise'>, time: number): void {
  const noise = noise3(d.seed);
  const drift = (d.speed * time) / d.span;
  for (let o = 0; o < p.length; o += 3) {
    const h = d.height * 1.6 * noise(p[o] / d.span + drift, p[o + 1] / d.span + 0.37, p[o + 2] / d.span);
    if (d.push !== 'normal') p[o + AXIS[d.push]] += h;
    else for (let a = 0; a < 3; a++) p[o + a] += h * normals[o + a];
  }
}

/** A soft move: whole in the middle, none at the radius, smooth between (1 − r²)². */
function bulge(p: Float64Array, d: Of<'bulge'>, amount: number): void {
  for (let o = 0; o < p.length; o += 3) {
    const x = p[o] - d.at[0];
    const y = p[o + 1] - d.at[1];
    const z = p[o + 2] - d.at[2];
    const r = (x * x + y * y + z * z) / (d.radius * d.radius);
    if (r >= 1) continue;
    const w = (1 - r) * (1 - r) * amount;
    for (let a = 0; a < 3; a++) p[o + a] += w * d.by[a];
  }
}
