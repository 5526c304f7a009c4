import { freePart } from '@/core/arrange/run/parts';
import { compilePath, splitStrokes, type CompiledPath } from '@/core/curve/compile';
import { freeHandles, insertPoint, mergeStrokes } from '@/core/curve/edit';
import {
  middleOf,
  movedPoint,
  planeNormal,
  resample,
  simplify,
  subdivide,
  type PointsMotion,
} from '@/core/curve/reshape';
import { arcLengthAt } from '@/core/curve/sample';
import { joinEnds, splitAtPoint, weldEnds } from '@/core/curve/strokes';
import { dot, sub, type Vec3 } from '@/core/math/vec3';
import { newPath, takeId } from '@/core/scene/defaults';
import type { PathPoint, PointsPath } from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { alongPaths, findPath, findPoint, findPointsPath, freeName } from './find';
import { freshPoints, strokeAt, type Ties } from './paths';

/** Commands that take strokes apart, put them together and lay their points anew. */

const quoted = (scene: Scene, id: string) => `“${findPath(scene, id).name}”`;

/** Another stroke in the same path: what runs along it runs along that too. */
export const addStroke = command<{ path: string; points: Vec3[]; kind?: PathPoint['kind']; ties?: Ties }>({
  apply(scene, { path, points, kind = 'smooth', ties }) {
    const owner = findPointsPath(scene, path);
    freshPoints(scene, points, kind, ties).forEach((p, i) =>
      owner.source.points.push({
        ...p,
        begins: i === 0 && owner.source.points.length > 0,
      }),
    );
  },
  name: (before, _, { path }) => `draw a stroke in ${quoted(before, path)}`,
});

/** Goes on from an end of an open stroke. @param point the end's id */
export const continueStroke = command<{
  path: string;
  point: string;
  points: Vec3[];
  kind?: PathPoint['kind'];
  ties?: Ties;
}>({
  apply(scene, { path, point, points, kind = 'smooth', ties }) {
    const owner = findPointsPath(scene, path);
    const strokes = splitStrokes(owner.source.points, owner.closed).map((s) => s.points);
    const k = strokes.findIndex((s) => s[0].id === point || s[s.length - 1].id === point);
    if (k < 0) return;
    const made = freshPoints(scene, points, kind, ties);
    const atEnd = strokes[k][strokes[k].length - 1].id === point;
    // What was an end is one no more: it takes the kind of what is drawn, unless it has handles of its own.
    const end = { ...findPoint(owner, point), ...(findPoint(owner, point).kind === 'free' ? {} : { kind }) };
    const rest = strokes[k].filter((p) => p.id !== point);
    strokes[k] = atEnd ? [...rest, end, ...made] : [...made.reverse(), end, ...rest];
    owner.source.points = mergeStrokes(strokes);
  },
  name: (before, _, { path }) => `continue ${quoted(before, path)}`,
});

export const transformPoints = command<{
  path: string;
  ids: string[];
  motion: PointsMotion;
  from?: PathPoint[];
}>({
  apply(scene, { path, ids, motion, from }) {
    const owner = findPointsPath(scene, path);
    const before = new Map((from ?? owner.source.points).map((p) => [p.id, p]));
    owner.source.points = owner.source.points.map((p) =>
      ids.includes(p.id) ? movedPoint(before.get(p.id) ?? p, motion) : p,
    );
  },
  name: (_, __, { ids, motion }) =>
    `${motion.turn ? 'turn' : motion.size !== undefined ? 'size' : 'move'} ${ids.length} points`,
});

/** Cuts at a point. The curve stays as it is: the cut ends keep their directions as handles. */
export const splitPath = command<{ path: string; point: string }>({
  apply(scene, { path, point }) {
    const owner = findPointsPath(scene, path);
    const index = owner.source.points.findIndex((p) => p.id === point);
    const own = findPoint(owner, point);
    const stroke = own.kind === 'smooth' ? strokeAt(owner, index) : undefined;
    if (stroke) Object.assign(own, freeHandles(stroke, index), { kind: 'free' });
    const made = splitAtPoint(owner.source.points, owner.closed, point, takeId(scene, 'pt'));
    owner.source.points = made.points.map((p) =>
      p.id.includes('_') ? { ...p, id: takeId(scene, 'pt') } : p,
    );
    owner.closed = made.closed;
  },
  name: (before, _, { path }) => `split ${quoted(before, path)}`,
});

/** Joins all strokes of a path to one, each to the next at their nearest ends. */
export const joinStrokes = command<{ path: string }>({
  apply(scene, { path }) {
    const owner = findPointsPath(scene, path);
    const [first, ...rest] = splitStrokes(owner.source.points, owner.closed).map((s) => s.points);
    owner.source.points = rest.reduce((all, next) => joinEnds(all, next), first);
  },
  name: (before, _, { path }) => `join the strokes of ${quoted(before, path)}`,
});

/** Lays a path onto a surface, or takes it off. @param places where each of its points then is, and its handles */
export const layPath = command<{
  path: string;
  on: string | null;
  places: Pick<PathPoint, 'position' | 'handleIn' | 'handleOut'>[];
}>({
  apply(scene, { path, on, places }) {
    const { source } = findPointsPath(scene, path);
    source.points = source.points.map((p, i) => ({ ...p, ...places[i] }));
    if (on) source.on = on;
    else delete source.on;
  },
  name: (before, _, { path, on }) =>
    on
      ? `lay ${quoted(before, path)} on “${before.surfaces.find((s) => s.id === on)?.name ?? on}”`
      : `take ${quoted(before, path)} off its surface`,
});

/** Takes another path in at the nearest ends (both on the same surface, or on none); its runs stand on the joined one. */
export const joinPaths = command<{ path: string; other: string }>({
  apply(scene, { path, other }) {
    const owner = findPointsPath(scene, path);
    const taken = findPointsPath(scene, other);
    if (owner.source.on !== taken.source.on) return;
    const strokes = (p: PointsPath) => splitStrokes(p.source.points, p.closed).map((s) => s.points);
    const [mine, theirs] = [strokes(owner), strokes(taken)];
    const joined = !owner.closed && !taken.closed && mine.length === 1 && theirs.length === 1;
    owner.source.points = joined ? joinEnds(mine[0], theirs[0]) : mergeStrokes([...mine, ...theirs]);
    scene.paths = scene.paths.filter((p) => p.id !== other);
    for (const run of alongPaths(scene)) {
      const stood = run.paths.some((p) => p.path === path);
      run.paths = run.paths
        .filter((p) => !(p.path === other && stood))
        .map((p) => (p.path === other ? { ...p, path } : p));
    }
  },
  name: (before, _, { path, other }) => `join ${quoted(before, path)} and ${quoted(before, other)}`,
});

/** Each stroke a path of its own; runs that stood on the path stand on all of them. */
export const strokesApart = command<{ path: string }>({
  apply(scene, { path }) {
    const owner = findPointsPath(scene, path);
    const [first, ...rest] = splitStrokes(owner.source.points, owner.closed).map((s) => s.points);
    owner.source.points = mergeStrokes([first]);
    for (const points of rest) {
      const made = newPath(
        takeId(scene, 'path'),
        freeName(scene.paths, owner.name),
        mergeStrokes([points]),
        owner.closed,
      );
      if (owner.source.on) made.source.on = owner.source.on;
      scene.paths.push(made);
      for (const run of alongPaths(scene)) {
        if (!run.paths.some((p) => p.path === path)) continue;
        run.paths.push({ part: freePart(run.paths), path: made.id });
      }
    }
  },
  name: (before, _, { path }) => `strokes of ${quoted(before, path)} apart`,
});

export const weldPath = command<{ path: string; within: number }>({
  apply(scene, { path, within }) {
    const owner = findPointsPath(scene, path);
    const made = weldEnds(owner.source.points, owner.closed, within);
    owner.source.points = made.points;
    owner.closed = made.closed;
  },
  name: (before, _, { path }) => `weld the ends of ${quoted(before, path)}`,
});

/** Lays the points of every stroke anew. Points that stay where they were keep their ids, and so their slots. */
function relay(scene: Scene, path: string, make: (stroke: CompiledPath) => PathPoint[]): void {
  const owner = findPointsPath(scene, path);
  const compiled = compilePath(owner);
  if (!compiled.ok) return;
  const key = (p: Vec3) => p.map((v) => v.toFixed(7)).join(' ');
  const had = new Map(owner.source.points.map((p) => [key(p.position), p.id]));
  owner.source.points = mergeStrokes(
    compiled.strokes.map((stroke) =>
      make(stroke).map((p) => {
        const id = had.get(key(p.position));
        had.delete(key(p.position));
        return { ...p, id: id ?? takeId(scene, 'pt') };
      }),
    ),
  );
}

export const simplifyPath = command<{ path: string; tolerance: number }>({
  apply: (scene, { path, tolerance }) => relay(scene, path, (s) => simplify(s, tolerance)),
  name: (before, after, { path }) =>
    `simplify ${quoted(before, path)} to ${findPointsPath(after, path).source.points.length} points`,
});

export const resamplePath = command<{ path: string; step: number }>({
  apply: (scene, { path, step }) => relay(scene, path, (s) => resample(s, step)),
  name: (before, _, { path }) => `resample ${quoted(before, path)}`,
});

export const subdividePath = command<{ path: string }>({
  apply: (scene, { path }) => relay(scene, path, subdivide),
  name: (before, _, { path }) => `subdivide ${quoted(before, path)}`,
});

/**
 * A point in the middle of every side between two of these that follow each other; where no two do, of the side that
 * follows each, or that leads to it at an open end.
 */
export const insertMidway = command<{ path: string; ids: string[] }>({
  apply(scene, { path, ids }) {
    const owner = findPointsPath(scene, path);
    for (const id of sidesBetween(owner, ids)) {
      const index = owner.source.points.findIndex((p) => p.id === id);
      const stroke = strokeAt(owner, index);
      const segment = stroke ? stroke.segmentPoint.lastIndexOf(index) : -1;
      if (!stroke || segment < 0) continue;
      const at = { segment, t: 0.5, s: arcLengthAt(stroke, segment, 0.5) };
      owner.source.points = insertPoint(owner.source.points, stroke, at, takeId(scene, 'pt')).points;
    }
  },
  name: (before, _, { path }) => `insert midway in ${quoted(before, path)}`,
});

/** The first points of the sides that {@link insertMidway} halves. */
function sidesBetween({ source, closed }: PointsPath, ids: readonly string[]): string[] {
  const chosen = new Set(ids);
  const between: string[] = [];
  const beside: string[] = [];
  for (const { points } of splitStrokes(source.points, closed))
    points.forEach(({ id }, i) => {
      if (!chosen.has(id)) return;
      const next = points[i + 1] ?? (closed && points.length > 2 ? points[0] : undefined);
      if (next && chosen.has(next.id)) between.push(id);
      if (next) beside.push(id);
      else if (i > 0) beside.push(points[i - 1].id);
    });
  return between.length > 0 ? between : [...new Set(beside)];
}

/**
 * Copies of points as strokes of their own in the same path: those of one stroke in their order, of one point alone all
 * of its stroke. @param aside metres along X and Z by which they lie beside it @returns their ids, spaces between
 */
export const duplicatePoints = command<{ path: string; ids: string[]; aside: number }>({
  apply(scene, { path, ids, aside }) {
    const owner = findPointsPath(scene, path);
    const chosen = new Set(ids);
    const strokes = splitStrokes(owner.source.points, owner.closed).map((s) => s.points);
    const copies = strokes.flatMap((points) => {
      const some = points.filter((p) => chosen.has(p.id));
      if (some.length === 0) return [];
      return [
        (some.length > 1 ? some : points).map((p): PathPoint => {
          const [x, y, z] = p.position;
          return {
            ...(JSON.parse(JSON.stringify(p)) as PathPoint),
            id: takeId(scene, 'pt'),
            position: [x + aside, y, z + aside],
          };
        }),
      ];
    });
    owner.source.points = mergeStrokes([...strokes, ...copies]);
    return copies
      .flat()
      .map((p) => p.id)
      .join(' ');
  },
  name: (before, _, { path, ids }) =>
    `duplicate ${ids.length > 1 ? 'points' : 'a stroke'} of ${quoted(before, path)}`,
});

/** Has a closed stroke begin at one of its points: slots are counted from there. What its shape is stays. */
export const beginAt = command<{ path: string; point: string }>({
  apply(scene, { path, point }) {
    const owner = findPointsPath(scene, path);
    const strokes = splitStrokes(owner.source.points, owner.closed).map((s) => s.points);
    owner.source.points = mergeStrokes(
      strokes.map((points) => {
        const at = points.findIndex((p) => p.id === point);
        return at > 0 ? [...points.slice(at), ...points.slice(0, at)] : points;
      }),
    );
  },
  name: (before, _, { path, point }) =>
    `${quoted(before, path)} begins at point ${findPointsPath(before, path).source.points.findIndex((p) => p.id === point) + 1}`,
});

/** Makes points corners with a radius. */
export const roundCorners = command<{ path: string; ids: string[]; radius: number }>({
  apply(scene, { path, ids, radius }) {
    const owner = findPointsPath(scene, path);
    for (const id of ids)
      Object.assign(findPoint(owner, id), { kind: 'corner', fillet: Math.max(0, radius) });
  },
  name: (_, __, { ids }) => (ids.length === 1 ? 'round a corner' : `round ${ids.length} corners`),
});

/** Lays points into a plane through their middle: level, upright across X or Z, or the one nearest to them. */
export const alignPoints = command<{ path: string; ids: string[]; plane: 'level' | 'x' | 'z' | 'nearest' }>({
  apply(scene, { path, ids, plane }) {
    const owner = findPointsPath(scene, path);
    const points = ids.map((id) => findPoint(owner, id));
    const at = points.map((p) => [...p.position] as Vec3);
    const normal: Vec3 =
      plane === 'level' ? [0, 1, 0] : plane === 'x' ? [1, 0, 0] : plane === 'z' ? [0, 0, 1] : planeNormal(at);
    const middle = middleOf(at);
    const flat = (v: Vec3, from: Vec3): Vec3 => {
      const k = dot(sub(v, from), normal);
      return v.map((x, a) => x - normal[a] * k) as Vec3;
    };
    for (const p of points) {
      p.position = flat([...p.position], middle);
      p.handleIn = flat([...p.handleIn], [0, 0, 0]);
      p.handleOut = flat([...p.handleOut], [0, 0, 0]);
    }
  },
  name: (_, __, { ids }) => `align ${ids.length} points`,
});
