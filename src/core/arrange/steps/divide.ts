import type { CompiledPath } from '../../curve/compile';
import { MAX_SLOTS_PER_SIDE, mostPlaces } from '../slotId';
import type { Spacing } from './schema';

/** A place for a slot: the number that its id carries, and metres along the path. */
export interface Place {
  index: number;
  s: number;
}

/** Lengths at which the corners of a path lie (rounded ones in the middle of their arc); ends are none. */
export function cornersOf(path: CompiledPath): number[] {
  const n = path.pointS.length;
  const out: number[] = [];
  for (let i = 0; i < n; i++) {
    if (path.isCorner[i] && (path.closed || (i > 0 && i < n - 1))) out.push(path.pointS[i]);
  }
  return out;
}

/** Lengths that bound what is divided: the whole, its sides between corners, or its quarters. */
function divisionBounds(
  path: CompiledPath | undefined,
  per: Spacing['per'],
  start: number,
  usable: number,
  closed: boolean,
  length: number,
): number[] {
  if (per === 'quadrant') return [0, 1, 2, 3, 4].map((q) => (length * q) / 4);
  if (per === 'side' && path) {
    const corners = cornersOf(path);
    if (closed) return corners.length ? [...corners, corners[0] + length] : [0, length];
    return [0, ...corners, length];
  }
  return [start, start + usable];
}

/** Sides at the end of the numbers that stay without. */
const SPARE_SIDES = 96;

/**
 * Divisions: each of the bounds' stretches in `parts` equal ones; of all divisions every `every`-th is taken from
 * number `from` on. Ids name the division and its side, so that taking others leaves them as they are.
 * @returns the places, or how many there would be where they are too many, or what is missing
 */
export function divisionsOf(
  spacing: Spacing,
  at: {
    path?: CompiledPath;
    stroke?: number;
    length: number;
    closed: boolean;
    start: number;
    usable: number;
    loop: boolean;
  },
): Place[] | number | 'no-corners' {
  const { parts, per, every, from, withEnds } = spacing;
  if (per === 'side' && at.closed && at.path && cornersOf(at.path).length === 0) return 'no-corners';
  const bounds = divisionBounds(at.path, per, at.start, at.usable, at.closed, at.length);
  const sides = bounds.length - 1;
  if (sides * parts > 500_000) return sides * parts;
  const ring = per === 'whole' ? at.loop : at.closed;
  const room = mostPlaces(at.stroke ?? 0) / MAX_SLOTS_PER_SIDE;
  const named = parts < MAX_SLOTS_PER_SIDE && sides < room - SPARE_SIDES;
  const all: Place[] = [];
  for (let side = 0; side < sides; side++) {
    const [a, b] = [bounds[side], bounds[side + 1]];
    for (let j = 0; j <= parts; j++) {
      // A bound that two stretches share belongs to the one that begins there.
      const shared = j === parts && (side < sides - 1 || ring);
      const end = j === 0 || j === parts;
      if (shared || (end && !withEnds && !(per === 'whole' && at.loop))) continue;
      const s = a + ((b - a) * j) / parts;
      const index = named ? side * MAX_SLOTS_PER_SIDE + j + 1 : all.length + 1;
      all.push({ index, s: ring && s >= at.length ? s - at.length : s });
    }
  }
  const hair = 1e-9 * at.length;
  return all
    .filter((_, i) => i >= from && (i - from) % every === 0)
    .filter((p) => p.s >= at.start - hair && p.s <= at.start + at.usable + hair)
    .sort((a, b) => a.s - b.s);
}

/** A point's own number, from its id ("pt12"), so that its slot keeps its id when others come and go. */
function numberOf(id: string, fallback: number): number {
  const m = /(\d{1,7})$/.exec(id);
  return m ? Number(m[1]) : fallback;
}

/** Slots at the points, the corners, or midway between points. */
export function pointPlaces(
  spacing: Spacing,
  path: CompiledPath | undefined,
  start: number,
  usable: number,
  closed: boolean,
): Place[] | 'no-corners' {
  if (!path) return [];
  const n = path.pointS.length;
  const seen = new Set<number>();
  const out: Place[] = [];
  const add = (i: number, s: number) => {
    let index = numberOf(path.pointIds[i], i + 1);
    while (index < 1 || seen.has(index)) index += 1_000_000;
    seen.add(index);
    if (s >= start - 1e-9 * path.length && s <= start + usable + 1e-9 * path.length) out.push({ index, s });
  };
  for (let i = 0; i < n; i++) {
    if (spacing.at === 'midpoints') {
      if (i === n - 1 && !closed) continue;
      const next = i + 1 < n ? path.pointS[i + 1] : path.length + path.pointS[0];
      const s = (path.pointS[i] + next) / 2;
      add(i, s >= path.length && closed ? s - path.length : s);
    } else if (spacing.at === 'points' || path.isCorner[i]) add(i, path.pointS[i]);
  }
  if (spacing.at === 'corners' && out.length === 0) return 'no-corners';
  return out.sort((a, b) => a.s - b.s);
}
