import { fromControls, type CompiledPath } from '@/core/curve/compile';
import { divisionsOf } from '@/core/arrange/steps/divide';
import { samplePath } from '@/core/curve/sample';
import { spacingSchema } from '@/core/arrange/steps/schema';
import type { DrawnStroke, PathResult } from '@/core/evaluate/scene';
import type { Vec3 } from '@/core/math/vec3';
import type { SnapState } from './snapState';

/** A place that something can snap to, with what it is called. */
export interface SnapPlace {
  kind: 'point' | 'end' | 'midpoint' | 'division';
  label: string;
  at: Vec3;
  path: string;
  /** Number of a point in its path's list, for points and ends. */
  point?: number;
}

const compiledStrokes = new WeakMap<DrawnStroke, CompiledPath>();
/** The curve behind a drawn stroke, exact. */
export function curveOf(stroke: DrawnStroke): CompiledPath {
  let made = compiledStrokes.get(stroke);
  if (!made) compiledStrokes.set(stroke, (made = fromControls(stroke)));
  return made;
}

type Choice = Pick<SnapState, 'points' | 'midpoints' | 'parts' | 'per' | 'every'>;
const kept = new WeakMap<PathResult, { key: string; places: SnapPlace[] }>();

/** Above this many divisions none are offered: they would lie closer than anyone can point. */
const MOST = 4000;

/**
 * Every place on a path that the choice asks for; worked out once for a path and a choice.
 * @param own whether its points are its own, laid by hand
 */
export function placesOn(path: PathResult, name: string, choice: Choice, own = true): SnapPlace[] {
  const key = `${name} ${JSON.stringify([choice.points, choice.midpoints, choice.parts, choice.per, choice.every])}`;
  const have = kept.get(path);
  if (have?.key === key) return have.places;
  const places = path.strokes.flatMap((stroke) => onStroke(stroke, path.id, name, choice, own));
  kept.set(path, { key, places });
  return places;
}

/** A point of a stroke by its number there, without its place. */
function pointOf({ closed, pointS, firstPoint }: DrawnStroke, i: number, name: string) {
  const end = !closed && (i === 0 || i === pointS.length - 1);
  return {
    kind: end ? ('end' as const) : ('point' as const),
    label: end ? `End of ${name}` : `Point ${firstPoint + i + 1} of ${name}`,
    point: firstPoint + i,
  };
}

/**
 * The points of a path in hand: its curve is another one at each step of a drag, and is not asked.
 * @param at where the points of the path stand
 */
export function pointsOn({ id, strokes }: PathResult, name: string, at: readonly Vec3[]): SnapPlace[] {
  return strokes.flatMap((stroke) =>
    stroke.pointS.length > MOST
      ? []
      : Array.from(stroke.pointS, (_, i): SnapPlace => {
          const point = pointOf(stroke, i, name);
          return { ...point, path: id, at: at[point.point] };
        }),
  );
}

function onStroke(
  stroke: DrawnStroke,
  path: string,
  name: string,
  choice: Choice,
  own: boolean,
): SnapPlace[] {
  const curve = curveOf(stroke);
  const wanted: (Omit<SnapPlace, 'at' | 'path'> & { s: number })[] = [];
  const n = stroke.pointS.length;
  if (choice.points && n <= MOST) {
    for (let i = 0; i < n; i++) {
      const point = pointOf(stroke, i, name);
      // Points that a generator laid are nobody's to mean; its ends and corners are.
      if (!own && point.kind !== 'end' && !stroke.isCorner[i]) continue;
      wanted.push({ ...point, s: stroke.pointS[i] });
    }
  }
  if (choice.midpoints && own && n <= MOST) {
    for (let i = 0; i + (stroke.closed ? 0 : 1) < n; i++) {
      const next = i + 1 < n ? stroke.pointS[i + 1] : stroke.length + stroke.pointS[0];
      wanted.push({
        kind: 'midpoint',
        label: `Midpoint of ${name}`,
        s: ((stroke.pointS[i] + next) / 2) % stroke.length,
      });
    }
  }
  if (choice.parts > 1) {
    const spacing = spacingSchema.parse({
      mode: 'divide',
      parts: choice.parts,
      per: choice.per,
      every: choice.every,
    });
    const made = divisionsOf(spacing, {
      path: curve,
      length: stroke.length,
      closed: stroke.closed,
      start: 0,
      usable: stroke.length,
      loop: stroke.closed,
    });
    if (Array.isArray(made) && made.length <= MOST) {
      const of = choice.per === 'whole' ? '' : ` per ${choice.per}`;
      made.forEach(({ s }, i) =>
        wanted.push({
          kind: 'division',
          label: `${fraction(i * choice.every, choice.parts, choice.per)}${of} of ${name}`,
          s,
        }),
      );
    }
  }
  const { position } = samplePath(
    curve,
    wanted.map((w) => w.s),
  );
  return wanted.map(({ s: _, ...w }, i) => ({
    ...w,
    path,
    at: [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]],
  }));
}

/** "1/4": which division of how many. */
const fraction = (i: number, parts: number, per: Choice['per']): string =>
  per === 'whole' ? `${i}/${parts}` : `${i % parts}/${parts}`;
