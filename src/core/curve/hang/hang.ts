import { acos, sinh } from '../../math/portable';
import {
  addScaled,
  cross,
  distance,
  dot,
  normalize,
  rotateAbout,
  scale,
  sub,
  type Vec3,
} from '../../math/vec3';
import { compileStrokes } from '../compile';
import { corner, meeting } from '../generate/points';
import { catenaryOfSag, strand } from '../generate/strand';
import type { PathPoint } from '../schema';
import { lyingOver, type GroundProfile } from './lying';
import type { Hang } from './schema';

/** A line hung between two places. */
export interface Hung {
  /** From the first end to the last, those included: free points and corners, to be compiled. */
  points: PathPoint[];
  /** It is to be shorter than the straight way, or than that over the ground: it is that. */
  short?: true;
  /** Metres that it is longer than the ground between its ends. */
  over?: number;
}

/** The ends of a line. */
export interface Ends {
  from: Vec3;
  to: Vec3;
  /** Which way a stiff line leaves each of them; null: straight to the other. */
  leaves?: readonly [Vec3 | null, Vec3 | null];
  /** What it may lie on, in the plane that it hangs in: see {@link hangingPlane}. */
  ground?: GroundProfile;
}

/** The plane that a line hangs in: level along, and up from which way it hangs. Null where its ends are one above the other. */
export function hangingPlane({ from, to }: Ends, down: Vec3): { along: Vec3; up: Vec3; span: number } | null {
  const up = scale(down, -1);
  const way = sub(to, from);
  const level = addScaled(way, up, -dot(way, up));
  const span = Math.sqrt(dot(level, level));
  return span > 1e-9 * distance(from, to) ? { along: scale(level, 1 / span), up, span } : null;
}

/** Relative error of the length of a stiff line. */
const EXACT = 1e-11;

/** How long a hanging line is to be, metres; null where its depth says that. @param factor from looseness */
export function lengthOf({ by, slack, length }: Hang, straight: number, factor: number): number | null {
  if (by === 'sag') return null;
  return by === 'length' ? length * factor : straight * (1 + slack * factor);
}

/**
 * The points of a line hung between its ends: straight, a catenary exact to 1e-9 of its length, or a stiff one.
 * @param down which way it hangs, of unit length: from {@link downIn}
 * @param factor what looseness makes of its slack, length or depth @param least cubics of a catenary
 */
export function hungBetween(
  ends: Ends,
  hang: Hang,
  down: Vec3 = [0, -1, 0],
  factor = 1,
  least?: number,
): Hung {
  const { from, to } = ends;
  const straight = distance(from, to);
  const plain: Hung = { points: [corner(from), corner(to)] };
  const lies = hang.how === 'stiff' ? null : lying(ends, hang, down, factor);
  if (lies) return lies;
  if (hang.how === 'taut') return plain;
  const wanted = lengthOf(hang, straight, factor);
  const short = wanted !== null && wanted < straight * (1 - 1e-12) ? { short: true as const } : {};
  if (hang.how === 'stiff') return { ...stiff(ends, straight, wanted ?? straight, plain), ...short };
  const [there, back] = turnTo(down);
  const { points } = strand(
    {
      shape: 'strand',
      to: there(sub(to, from)),
      by: wanted === null ? 'sag' : 'length',
      slack: 0,
      length: wanted ?? 0,
      sag: hang.sag * factor,
    },
    least,
  );
  const put = (p: PathPoint, i: number): PathPoint => {
    const at = back(p.position);
    // To the last bit where its end is.
    const position: Vec3 =
      i === points.length - 1 ? [...to] : [from[0] + at[0], from[1] + at[1], from[2] + at[2]];
    return { ...p, position, handleIn: back(p.handleIn), handleOut: back(p.handleOut) };
  };
  return { points: points.map(put), ...short };
}

/** The points of a line that lies on its ground somewhere; null where it does not. */
function lying(ends: Ends, hang: Hang, down: Vec3, factor: number): Hung | null {
  const plane = ends.ground && hangingPlane(ends, down);
  if (!plane || !ends.ground) return null;
  const { along, up, span } = plane;
  const { from, to } = ends;
  const v = dot(sub(to, from), up);
  const made = lyingOver(span, v, ends.ground, wantedOver(ends, hang, span, v, factor));
  if (!made) return null;
  const points: PathPoint[] = [corner(from)];
  const at = ([x, y]: readonly [number, number]): Vec3 => addScaled(addScaled(from, along, x), up, y);
  made.pieces.forEach(({ to: next, length, straight }, i) => {
    const end = i === made.pieces.length - 1 ? to : at(next);
    const begin = points[points.length - 1].position;
    const piece = straight
      ? [corner(begin), corner(end)]
      : hungBetween({ from: begin, to: end }, { ...hang, how: 'sag', by: 'length', length }, down, 1, 2)
          .points;
    // On level ground no place between the first and the last says anything.
    const before = points.length > 1 ? points[points.length - 2] : null;
    if (straight && before && isOnTheWay(before, points[points.length - 1], piece[1])) points.pop();
    else points.push(meeting(points.pop()!, piece[0]));
    points.push(...piece.slice(1));
  });
  return {
    points,
    ...(made.short && { short: true as const }),
    ...(made.over > 1e-6 * span && { over: made.over }),
  };
}

/** The length of a line that may lie: one that hangs so deep is as long as it would be free. */
function wantedOver(ends: Ends, hang: Hang, h: number, v: number, factor: number): number | null {
  if (hang.how === 'taut') return null;
  const wanted = lengthOf(hang, distance(ends.from, ends.to), factor);
  if (wanted !== null) return wanted;
  const c = catenaryOfSag(h, v, hang.sag * factor);
  return c ? c.a * (sinh((h - c.x0) / c.a) + sinh(c.x0 / c.a)) : null;
}

const isCorner = (p: PathPoint) => p.kind === 'corner';

function isOnTheWay(a: PathPoint, b: PathPoint, c: PathPoint): boolean {
  if (!isCorner(a) || !isCorner(b)) return false;
  const way = distance(a.position, c.position);
  return Math.abs(distance(a.position, b.position) + distance(b.position, c.position) - way) < 1e-13 * way;
}

type Turn = (v: Vec3) => Vec3;

/** The shortest turn that brings a direction straight down, and the turn back. */
function turnTo(down: Vec3): [Turn, Turn] {
  if (down[0] === 0 && down[2] === 0) return [(v) => v, (v) => v];
  const axis = normalize(cross(down, [0, -1, 0]));
  const angle = acos(Math.max(-1, Math.min(1, -down[1])));
  return [(v) => rotateAbout(v, axis, angle), (v) => rotateAbout(v, axis, -angle)];
}

/**
 * One cubic that leaves each end in its direction, both handles of one length: the one of which it comes out as long as
 * is asked for, by halving and false position.
 */
function stiff({ from, to, leaves }: Ends, straight: number, wanted: number, plain: Hung): Hung {
  if (!(wanted > straight * (1 + 1e-9)) || straight === 0) return plain;
  const way = scale(sub(to, from), 1 / straight);
  const [a, b] = [leaves?.[0] ?? way, leaves?.[1] ?? scale(way, -1)];
  const at = (k: number): PathPoint[] => [
    { ...corner(from), kind: 'free', handleOut: scale(a, k) },
    { ...corner(to), kind: 'free', handleIn: scale(b, k) },
  ];
  const over = (k: number): number => {
    const made = compileStrokes([{ points: at(k), closed: false, firstPoint: 0 }]);
    return (made.ok ? made.path.length : straight) - wanted;
  };
  // It is the straight way for no handles, and grows with them without end.
  let [low, high] = [0, straight];
  for (let i = 0; i < 60 && over(high) < 0; i++) [low, high] = [high, high * 2];
  let [atLow, atHigh] = [over(low), over(high)];
  let k = high;
  for (let i = 0; i < 100; i++) {
    const guess = low - (atLow * (high - low)) / (atHigh - atLow);
    k = i % 3 === 2 || !(guess > low && guess < high) ? (low + high) / 2 : guess;
    const e = over(k);
    if (Math.abs(e) <= EXACT * wanted) break;
    if (e < 0) [low, atLow] = [k, e];
    else [high, atHigh] = [k, e];
  }
  return { points: at(k) };
}
