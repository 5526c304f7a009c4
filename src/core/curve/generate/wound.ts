import type { Generator } from '../schema';
import { DEG } from '../../math/quat';
import { cross, type Vec3 } from '../../math/vec3';
import type { CompiledPath } from '../compile';
import { framesAlong } from '../frames';
import type { Generated } from './flat';
import { through } from './points';
import { cos, sin } from '../../math/portable';

/** Curves that wind. Hermite cubics of 1/24 turn: within 1.3e-5 of the radius. */

type Of<S extends Generator['shape']> = Extract<Generator, { shape: S }>;
const PIECES = 24;
/** The most points that a generated path may have. */
const MOST_POINTS = 20000;

function wind(turns: number, at: (turn: number) => { p: Vec3; d: Vec3 }): Generated | 'too-fine' {
  const pieces = Math.max(2, Math.ceil(Math.abs(turns) * PIECES));
  if (!(pieces <= MOST_POINTS)) return 'too-fine';
  const step = turns / pieces;
  const points = Array.from({ length: pieces + 1 }, (_, k) => {
    const { p, d } = at(step * k);
    return through(p, [d[0] * step, d[1] * step, d[2] * step]);
  });
  return { points, closed: false };
}

/** A radius that runs evenly from one end to the other, and a height that rises evenly. */
function screw(turns: number, r0: number, r1: number, rise: number): Generated | 'too-fine' {
  const grow = turns === 0 ? 0 : (r1 - r0) / turns;
  const way = Math.sign(turns) || 1;
  return wind(turns, (turn) => {
    const a = 2 * Math.PI * turn;
    const r = r0 + grow * turn;
    const [c, s] = [cos(a), sin(a)];
    return {
      p: [r * c, rise * turn * way, -r * s],
      d: [grow * c - 2 * Math.PI * r * s, rise * way, -grow * s - 2 * Math.PI * r * c],
    };
  });
}

/** A helix about Y, rising evenly; its radius may change evenly too. */
export const helix = (g: Of<'helix'>): Generated | 'too-fine' =>
  screw(g.turns, g.radius, g.endRadius ?? g.radius, g.rise);

/** A flat spiral about Y whose radius changes evenly (Archimedes). */
export const spiral = (g: Of<'spiral'>): Generated | 'too-fine' => screw(g.turns, g.inner, g.outer, 0);

/**
 * A coil around another path, carried by its rotation-minimising frames. Around a loop the turns are rounded to
 * whole ones, so that it closes. @param g its radius in metres, its turns over the whole base
 */
export function coil(g: Of<'coil'>, base: CompiledPath): Generated | 'too-fine' {
  const turns = base.closed ? Math.round(g.turns) : g.turns;
  const pieces = Math.max(8, Math.ceil(Math.abs(turns) * PIECES), base.segmentCount * 8);
  if (!(pieces <= MOST_POINTS)) return 'too-fine';
  const step = base.length / pieces;
  const h = step * 1e-3;
  const count = base.closed ? pieces : pieces + 1;
  // Three rows a point: itself, and a hair before and after it for the derivative. At an open end one side stops.
  const s = new Float64Array(count * 3);
  for (let k = 0; k < count; k++) {
    const at = step * k;
    s[k * 3] = at;
    s[k * 3 + 1] = base.closed ? at - h : Math.max(0, at - h);
    s[k * 3 + 2] = base.closed ? at + h : Math.min(base.length, at + h);
  }
  const frames = framesAlong(base, s, 'bank');
  const on = (row: number): Vec3 => {
    const phase = (2 * Math.PI * turns * s[row]) / base.length + g.startDeg * DEG;
    const read = (a: Float64Array): Vec3 => [a[row * 3], a[row * 3 + 1], a[row * 3 + 2]];
    const up = read(frames.up);
    const side = cross(read(frames.front), up);
    const [c, q] = [cos(phase) * g.radius, sin(phase) * g.radius];
    return read(frames.position).map((v, a) => v + up[a] * c + side[a] * q) as Vec3;
  };
  const points = Array.from({ length: count }, (_, k) => {
    const [a, b] = [on(k * 3 + 1), on(k * 3 + 2)];
    const width = s[k * 3 + 2] - s[k * 3 + 1];
    const d = b.map((v, i) => ((v - a[i]) / width) * step) as Vec3;
    return through(on(k * 3), d);
  });
  return { points, closed: base.closed };
}
