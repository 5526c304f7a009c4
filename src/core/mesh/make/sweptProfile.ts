import type { CompiledPath } from '../../curve/compile';
import { framesAlong } from '../../curve/frames';
import { polyline, samplePath } from '../../curve/sample';
import { DEG } from '../../math/quat';
import { cos, hypot, sin } from '../../math/portable';
import { cross, type Vec3 } from '../../math/vec3';
import { plainMaterial } from '../material';
import type { Mesh } from '../mesh';
import { profilePlane } from './profilePlane';
import { outlineArea, plainProfile, type Outline } from './profiles';
import { flatFaces } from './flatFaces';
import { BESIDE } from './lids';
import { MOST_TRIANGLES } from './limits';
import type { SurfaceShape } from './schema';

type Swept = Extract<SurfaceShape, { shape: 'swept' }>;

/** Where a profile turns by more than so much it has an edge. */
const EDGE = cos(25 * DEG);

/**
 * A profile swept along strokes of a path: rolled, twisted, and growing or shrinking on its way, closed at its ends. A
 * stroke that is closed goes round, its twist by whole turns of what meets itself.
 * @param profile a path whose own plane is that in which it is drawn; null: the plain one
 */
export function sweptProfile(
  s: Swept,
  strokes: CompiledPath[],
  profile: CompiledPath | null,
  color: string,
): Mesh | 'surface-no-profile' | 'surface-too-fine' {
  const outline = profile ? drawn(profile) : sized(plainProfile(s.plain), s.width, s.height);
  if (!(outlineArea(outline) > 0)) return 'surface-no-profile';
  const around = outline.reduce((n, side) => n + side.length, 0);
  if (around * s.rows * 2 * strokes.length > MOST_TRIANGLES) return 'surface-too-fine';
  const parts: Part = { positions: [], normals: [], uvs: [], indices: [] };
  const longest = strokes.reduce((most, p) => Math.max(most, p.length), 0);
  for (const path of strokes)
    sweep(parts, s, path, outline, Math.max(2, Math.ceil((s.rows * path.length) / (longest || 1))));
  const count = parts.indices.length;
  return {
    positions: Float32Array.from(parts.positions),
    normals: Float32Array.from(parts.normals),
    uvs: Float32Array.from(parts.uvs),
    indices: Uint32Array.from(parts.indices),
    groups: [{ start: 0, count, material: 0 }],
    materials: [plainMaterial('Surface', color, !s.ends)],
  };
}

interface Part {
  positions: number[];
  normals: number[];
  uvs: number[];
  indices: number[];
}

const sized = (outline: Outline, width: number, height: number): Outline =>
  outline.map((side) => side.map(([x, y]): [number, number] => [x * width, y * height]));

/** The outline of a path in its own plane; parted where it turns sharply, its middle at 0. */
function drawn(path: CompiledPath): Outline {
  const { position: p } = polyline(path, 0.12);
  const { h, v, up } = profilePlane(p);
  let ring = Array.from({ length: p.length / 3 }, (_, i): [number, number] => [
    p[i * 3 + h],
    p[i * 3 + v] * up,
  ]);
  const [a, z] = [ring[0], ring[ring.length - 1]];
  if (hypot(a[0] - z[0], a[1] - z[1]) > 1e-9) ring.push(a);
  const middle = [0, 1].map((k) => {
    const [low, high] = [Math.min, Math.max].map((f) => ring.reduce((m, at) => f(m, at[k]), ring[0][k]));
    return (low + high) / 2;
  });
  ring = ring.map(([x, y]) => [x - middle[0], y - middle[1]]);
  if (outlineArea([ring]) < 0) ring = ring.reverse();
  return sidesOf(ring);
}

/** A ring whose last place is its first, parted at its edges; whole where it has none. */
function sidesOf(ring: [number, number][]): Outline {
  const n = ring.length - 1;
  const way = (i: number): [number, number] => {
    const [p, q] = [ring[(i + n) % n], ring[((i + n) % n) + 1]];
    const l = hypot(q[0] - p[0], q[1] - p[1]) || 1;
    return [(q[0] - p[0]) / l, (q[1] - p[1]) / l];
  };
  const edges = Array.from({ length: n }, (_, i) => i).filter((i) => {
    const [u, w] = [way(i - 1), way(i)];
    return u[0] * w[0] + u[1] * w[1] < EDGE;
  });
  if (edges.length === 0) return [ring];
  return edges.map((from, k) => {
    const to = k + 1 < edges.length ? edges[k + 1] : edges[0] + n;
    return Array.from({ length: to - from + 1 }, (_, i) => ring[(from + i) % n]);
  });
}

function sweep(out: Part, s: Swept, path: CompiledPath, outline: Outline, rows: number): void {
  const lengths = Float64Array.from({ length: rows + 1 }, (_, i) => (path.length * i) / rows);
  const { position } = samplePath(path, lengths);
  const { front, up } = framesAlong(path, lengths, s.posture);
  // A ring meets itself: it turns by whole turns there, and is as large as it began.
  const twist = path.closed ? Math.round(s.twistDeg / 360) * 360 : s.twistDeg;
  const grows = path.closed ? 1 : s.endFactor;
  const at = (r: number, [x, y]: readonly [number, number], place: boolean): Vec3 => {
    const i = path.closed && r === rows ? 0 : r;
    const share = r / rows;
    const turn = (s.rollDeg + (path.closed && r === rows ? 0 : twist * share)) * DEG;
    const by = place ? 1 + (grows - 1) * share : 1;
    const [c, n] = [cos(turn), sin(turn)];
    const [h, v] = [(x * c - y * n) * by, (x * n + y * c) * by];
    const right = cross(row(front, i), row(up, i));
    return [0, 1, 2].map((k) => (place ? position[i * 3 + k] : 0) + right[k] * h + up[i * 3 + k] * v) as Vec3;
  };
  const around = outline.reduce((n, side) => n + side.length - 1, 0);
  let done = 0;
  for (const side of outline) {
    const base = out.positions.length / 3;
    const isRing = outline.length === 1;
    for (let r = 0; r <= rows; r++)
      for (let k = 0; k < side.length; k++) {
        out.positions.push(...at(r, isRing && k === side.length - 1 ? side[0] : side[k], true));
        out.normals.push(...at(r, outwards(side, k, isRing), false));
        out.uvs.push((done + k) / around, r / rows);
        if (r === rows || k === side.length - 1) continue;
        const a = base + r * side.length + k;
        const [b, c, d] = [a + 1, a + side.length, a + side.length + 1];
        out.indices.push(a, c, b, b, c, d);
      }
    done += side.length - 1;
  }
  if (!s.ends || path.closed) return;
  const ring = outline.flatMap((side) => side.slice(0, -1));
  const faces = flatFaces(ring);
  const [low, high, bottom] = ring.reduce(
    ([l, h, b], [x, y]) => [Math.min(l, x), Math.max(h, x), Math.min(b, y)],
    [Infinity, -Infinity, Infinity],
  );
  for (const end of [0, rows]) {
    const base = out.positions.length / 3;
    const way = row(front, end).map((v) => (end === 0 ? -v : v));
    for (const p of ring) {
      out.positions.push(...at(end, p, true));
      out.normals.push(...way);
      out.uvs.push(p[0] - low + BESIDE + (end === 0 ? 0 : high - low), p[1] - bottom);
    }
    for (let i = 0; i < faces.length; i += 3) {
      const [a, b, c] = faces.slice(i, i + 3).map((v) => base + v);
      out.indices.push(...(end === 0 ? [a, b, c] : [a, c, b]));
    }
  }
}

const row = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/** The unit normal of a side at one of its places, out of the profile. */
function outwards(side: readonly [number, number][], k: number, isRing: boolean): [number, number] {
  const last = side.length - 1;
  const before = side[k > 0 ? k - 1 : isRing ? last - 1 : 0];
  const after = side[k < last ? k + 1 : isRing ? 1 : last];
  const [x, y] = [after[0] - before[0], after[1] - before[1]];
  const l = hypot(x, y) || 1;
  return [y / l, -x / l];
}
