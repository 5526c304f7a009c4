import type { CompiledPath } from '../../curve/compile';
import { framesAlong } from '../../curve/frames';
import { samplePath } from '../../curve/sample';
import { DEG } from '../../math/quat';
import { cos, sin } from '../../math/portable';
import { cross, type Vec3 } from '../../math/vec3';
import type { Grid } from './grid';
import { borderOf, type Lid } from './lids';
import type { SurfaceShape } from './schema';

type Of<S extends SurfaceShape['shape']> = Extract<SurfaceShape, { shape: S }>;

const evenly = (path: CompiledPath, n: number) =>
  Float64Array.from({ length: n + 1 }, (_, i) => (path.length * i) / n);
const row = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/** A profile turned about its upright axis: v runs along the profile, u around. */
export function turned(s: Of<'turned'>, profile: CompiledPath): Grid[] {
  const { axis } = s;
  const { position } = samplePath(profile, evenly(profile, s.rows));
  return [
    {
      columns: s.columns,
      rows: s.rows,
      at: (u, v) => {
        const [x, y, z] = row(position, Math.round(v * s.rows));
        const a = s.sweepDeg * DEG * u;
        const [c, si] = u === 1 && s.sweepDeg === 360 ? [1, 0] : [cos(a), sin(a)];
        const [dx, dz] = [x - axis[0], z - axis[2]];
        return { position: [axis[0] + dx * c + dz * si, y, axis[2] - dx * si + dz * c] };
      },
    },
  ];
}

/**
 * What closes a turned profile: disks at its ends that are off the axis; where it is not turned all round, its profile
 * down to the axis at both sides too.
 */
export function turnedLids(s: Of<'turned'>, profile: CompiledPath, grid: Grid): Lid[] {
  const { axis } = s;
  const round = s.sweepDeg === 360;
  if (profile.closed) return round ? [] : [borderOf(grid, 'u0'), borderOf(grid, 'u1')];
  const onAxis = (v: number): Vec3 => [axis[0], grid.at(0, v).position[1], axis[2]];
  const [low, high] = [onAxis(0), onAxis(1)];
  const [first, last] = [borderOf(grid, 'v0'), borderOf(grid, 'v1')];
  if (round) return [first, last];
  return [
    [...first, low],
    [...last, high],
    [...borderOf(grid, 'u0'), high, low],
    [...borderOf(grid, 'u1'), low, high],
  ];
}

/** A round tube along each stroke of a path, without a twist: v runs along the stroke, u around. */
export const tube = (s: Of<'tube'>, strokes: CompiledPath[]): Grid[] =>
  strokes.flatMap((path) => tubeAlong({ ...s, rows: rowsFor(s.rows, path, strokes) }, path));

/** Rows by each stroke's share of the longest one's length. */
function rowsFor(rows: number, path: CompiledPath, strokes: CompiledPath[]): number {
  const longest = strokes.reduce((most, p) => Math.max(most, p.length), 0);
  return strokes.length === 1 ? rows : Math.max(2, Math.ceil((rows * path.length) / longest));
}

function tubeAlong(s: Of<'tube'>, path: CompiledPath): Grid[] {
  const lengths = evenly(path, s.rows);
  const { position, front, up } = framesAlong(path, lengths, 'bank');
  return [
    {
      columns: s.columns,
      rows: s.rows,
      at: (u, v) => {
        // A loop closes on the very ring that it began with.
        const i = path.closed && v === 1 ? 0 : Math.round(v * s.rows);
        const right = cross(row(front, i), row(up, i));
        const a = 2 * Math.PI * u;
        const [c, si] = u === 1 ? [1, 0] : [cos(a), sin(a)];
        const normal = [0, 1, 2].map((k) => up[i * 3 + k] * c + right[k] * si) as Vec3;
        const end = s.endRadius ?? s.radius;
        const r = s.radius + (end - s.radius) * v;
        return {
          position: [0, 1, 2].map((k) => position[i * 3 + k] + normal[k] * r) as Vec3,
          ...(end === s.radius && { normal }),
        };
      },
    },
  ];
}

/** A flat strip along each stroke of a path, without a twist: v runs along the stroke, u across. */
export const strip = (s: Of<'strip'>, strokes: CompiledPath[]): Grid[] =>
  strokes.map((path) => {
    const rows = rowsFor(s.rows, path, strokes);
    const { position, front, up } = framesAlong(path, evenly(path, rows), 'bank');
    const [c, si] = [cos(s.rollDeg * DEG), sin(s.rollDeg * DEG)];
    return {
      columns: s.columns,
      rows,
      at: (u, v) => {
        // A loop closes on the very line that it began with.
        const i = path.closed && v === 1 ? 0 : Math.round(v * rows);
        const right = cross(row(front, i), row(up, i));
        const along = (a: number, b: number) =>
          [0, 1, 2].map((k) => right[k] * a + up[i * 3 + k] * b) as Vec3;
        const [aside, normal] = [along(c, si), along(-si, c)];
        const far = (u - 0.5) * s.width;
        return { position: [0, 1, 2].map((k) => position[i * 3 + k] + aside[k] * far) as Vec3, normal };
      },
    };
  });

/** The first and the last path of a loft through closed ones. */
export const loftLids = (paths: CompiledPath[], grid: Grid): Lid[] =>
  paths.every((p) => p.closed) ? [borderOf(grid, 'v0'), borderOf(grid, 'v1')] : [];

/** A skin from one path to the next: u runs along the paths by their shares of length, v from path to path. */
export function loft(s: Of<'loft'>, paths: CompiledPath[]): Grid[] {
  const lines = paths.map((p) => samplePath(p, evenly(p, s.columns)).position);
  const n = lines.length;
  const line = (k: number, i: number): Vec3 => {
    const held = Math.min(n - 1, Math.max(0, k));
    const at = row(lines[held], paths[held].closed && i === s.columns ? 0 : i);
    if (k === held) return at;
    // Beyond the ends it goes on straight.
    const inner = row(lines[held + (k < 0 ? 1 : -1)], i);
    return at.map((c, a) => 2 * c - inner[a]) as Vec3;
  };
  return [
    {
      columns: s.columns,
      rows: s.rows,
      at: (u, v) => {
        const i = Math.round(u * s.columns);
        const w = v * (n - 1);
        const k = Math.min(n - 2, Math.floor(w));
        const t = w - k;
        const [a, b] = [line(k, i), line(k + 1, i)];
        if (!s.smooth || n === 2) return { position: [0, 1, 2].map((c) => a[c] + (b[c] - a[c]) * t) as Vec3 };
        const [before, after] = [line(k - 1, i), line(k + 2, i)];
        // Catmull and Rom's cubic through four lines.
        const position = [0, 1, 2].map((c) => {
          const m0 = (b[c] - before[c]) / 2;
          const m1 = (after[c] - a[c]) / 2;
          const d = b[c] - a[c];
          return a[c] + t * (m0 + t * (3 * d - 2 * m0 - m1 + t * (m0 + m1 - 2 * d)));
        }) as Vec3;
        return { position };
      },
    },
  ];
}
