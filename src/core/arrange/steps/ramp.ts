import type { Ramp, Spacing } from './schema';
import { expm1, log } from '../../math/portable';
import { rampAt } from '../../math/ramp';

/** Ramps along a path: how dense a run is, and where a length lies on them. */

/** A pitch factor is held to this. */
const LEAST = 0.05;
const MOST = 20;

/**
 * Counts slots where the pitch is multiplied by a ramp: how many pitches of 1 fit between 0 and `u`, in closed form
 * (∫ du / (a + b·u) is a logarithm), and back.
 */
export interface DensityScale {
  /** Total for u = 1. */
  total: number;
  /** The share of the length at which `n` of the total are reached. */
  shareAt(n: number): number;
}

/** Prepares a density curve for spacing: the integral of 1/value, there and back. */
export function densityScale(ramp: Ramp): DensityScale {
  const held = (v: number) => Math.min(MOST, Math.max(LEAST, v));
  const stops = [0, ...ramp.map(([u]) => u).filter((u) => u > 0 && u < 1), 1];
  const pieces: { u0: number; u1: number; v0: number; v1: number; n0: number; n1: number }[] = [];
  let n = 0;
  for (let i = 1; i < stops.length; i++) {
    const [u0, u1] = [stops[i - 1], stops[i]];
    if (!(u1 > u0)) continue;
    // Just inside, so that a step (two points in one place) keeps its sides apart.
    const hair = (u1 - u0) * 1e-9;
    const [v0, v1] = [held(rampAt(ramp, u0 + hair, 1)), held(rampAt(ramp, u1 - hair, 1))];
    const width = u1 - u0;
    const flat = Math.abs(v1 - v0) < 1e-9 * v0;
    const amount = flat ? width / v0 : (width / (v1 - v0)) * log(v1 / v0);
    pieces.push({ u0, u1, v0, v1, n0: n, n1: (n += amount) });
  }
  return {
    total: n,
    shareAt(wanted) {
      const piece = pieces.find((p) => wanted <= p.n1) ?? pieces[pieces.length - 1];
      const { u0, u1, v0, v1, n0 } = piece;
      const slope = (v1 - v0) / (u1 - u0);
      const d = wanted - n0;
      if (Math.abs(v1 - v0) < 1e-9 * v0) return u0 + d * v0;
      return u0 + (v0 / slope) * expm1(slope * d);
    },
  };
}

/** Where a length lies between the insets, 0–1: what ramps along a path run over. @param length metres of the path */
export function shareBetween(
  { insetStart, insetEnd }: Pick<Spacing, 'insetStart' | 'insetEnd'>,
  length: number,
): (s: number) => number {
  const start = Math.max(0, insetStart);
  const usable = length - start - Math.max(0, insetEnd);
  return (s) => (usable > 0 ? (s - start) / usable : 0);
}
