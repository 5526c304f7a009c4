import type { CompiledPath } from '../../curve/compile';
import { samplePath } from '../../curve/sample';
import { zoneAt } from '../../curve/zone';
import { hypot } from '../../math/portable';
import { cross, type Vec3 } from '../../math/vec3';

/** How a facing stands at an edge: its place on it, along the edge, up, and out of the shelf. Unit, square. */
export interface EdgeFrame {
  origin: Vec3;
  along: Vec3;
  up: Vec3;
  out: Vec3;
}

/** The front edge of a board, from left to right as seen from the front. */
export interface Edge {
  length: number;
  closed: boolean;
  /** Its stretches without a corner in them: metres along it, and whether they are straight. */
  sides: { from: number; to: number; straight: boolean }[];
  /** The frame on the chord of a stretch, so far back that nothing of it is over the edge. */
  frame(from: number, to: number): EdgeFrame;
  /** The number of its zone at a length. */
  zone(s: number): number;
  /** The zones that it has. */
  zones: readonly number[];
}

const UP: Vec3 = [0, 1, 0];

/** A straight edge. @param up unit, square to `along` */
export function straightEdge(origin: Vec3, along: Vec3, up: Vec3, length: number): Edge {
  const out = cross(along, up);
  return {
    length,
    closed: false,
    sides: [{ from: 0, to: length, straight: true }],
    frame: (from) => ({
      origin: [origin[0] + along[0] * from, origin[1] + along[1] * from, origin[2] + along[2] * from],
      along,
      up,
      out,
    }),
    zone: () => 0,
    zones: [0],
  };
}

/** A straight side bends by at most this share of its length, from rounding alone. */
const STRAIGHT = 1e-9;
/** Places at which a bend is looked at between the ends of a chord. */
const LOOKS = 8;

/** The front edge that a path makes, level or not; goods stand upright. @param reversed runs against the path */
export function pathEdge(path: CompiledPath, reversed: boolean): Edge {
  const { length, closed, corners } = path;
  const on = (s: number) => (reversed ? length - s : s);
  const placesAt = (list: number[]) => samplePath(path, list.map(on)).position;
  const inner = [...corners].map(on).filter((s) => closed || (s > 1e-9 * length && s < (1 - 1e-9) * length));
  const stops = closed ? inner : [0, ...inner, length];
  stops.sort((a, b) => a - b);
  const spans: [number, number][] =
    stops.length === 0 ? [[0, length]] : stops.slice(1).map((to, i) => [stops[i], to]);
  if (closed && stops.length > 0) spans.push([stops[stops.length - 1], stops[0] + length]);
  const between = (from: number, to: number) =>
    placesAt(Array.from({ length: LOOKS + 1 }, (_, k) => from + ((to - from) * k) / LOOKS));
  const sides = spans
    .filter(([from, to]) => to - from > 1e-9 * length)
    .map(([from, to]) => {
      const places = between(from, to);
      return {
        from,
        to,
        straight: isStraight(places),
        first: [...places.subarray(0, 3)] as Vec3,
        chord: chordFrame(places),
      };
    });
  const zones = [...new Set(path.zone)];
  return {
    length,
    closed,
    sides,
    frame(from, to) {
      // All of a level straight side lies alike.
      const side = sides.find(
        (s) => s.straight && from >= s.from - 1e-9 * length && to <= s.to + 1e-9 * length,
      );
      if (!side || side.first[1] !== side.chord.origin[1]) return chordFrame(between(from, to));
      const { along, up, out } = side.chord;
      const on = from - side.from;
      return {
        origin: [side.first[0] + along[0] * on, side.first[1], side.first[2] + along[2] * on],
        along,
        up,
        out,
      };
    },
    zone: (s) => (zones.length === 1 ? zones[0] : zoneAt(path, on(s))),
    zones,
  };
}

/** @param p xyz of places along a stretch, its ends first and last */
function isStraight(p: Float64Array): boolean {
  const e = p.length - 3;
  const way: Vec3 = [p[e] - p[0], p[e + 1] - p[1], p[e + 2] - p[2]];
  const l = hypot(...way);
  if (!(l > 0)) return false;
  for (let k = 3; k < e; k += 3) {
    const off = cross([p[k] - p[0], p[k + 1] - p[1], p[k + 2] - p[2]], way);
    if (hypot(...off) / l > STRAIGHT * l) return false;
  }
  return true;
}

/** @param p the same */
function chordFrame(p: Float64Array): EdgeFrame {
  const e = p.length - 3;
  const [dx, dz] = [p[e] - p[0], p[e + 2] - p[2]];
  const l = hypot(dx, dz);
  const along: Vec3 = l > 0 ? [dx / l, 0, dz / l] : [1, 0, 0];
  const out: Vec3 = [-along[2], 0, along[0]];
  let back = 0;
  let y = -Infinity;
  for (let k = 0; k < p.length; k += 3) {
    back = Math.min(back, (p[k] - p[0]) * out[0] + (p[k + 2] - p[2]) * out[2]);
    y = Math.max(y, p[k + 1]);
  }
  return { origin: [p[0] + out[0] * back, y, p[2] + out[2] * back], along, up: UP, out };
}
