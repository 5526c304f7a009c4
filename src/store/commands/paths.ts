import { has } from '@/core/arrange/registry';
import { freePart } from '@/core/arrange/run/parts';
import { compilePath, splitStrokes, type CompiledPath, type Stroke } from '@/core/curve/compile';
import { freeHandles, insertPoint, mergeStrokes, reversePoints } from '@/core/curve/edit';
import { hangSchema, type Hang, type Tie } from '@/core/curve/hang/schema';
import { newPath, newPoint, takeId } from '@/core/scene/defaults';
import type { Vec3 } from '@/core/math/vec3';
import {
  generatorSchema,
  pathSchema,
  type Generator,
  type GeneratorShape,
  type MeshTake,
  type PathSource,
  type Path,
  type PathPoint,
  type PointsPath,
} from '@/core/curve/schema';
import type { Scene } from '@/core/scene/schema';
import type { Patch } from '@/core/scene/patch';
import { command, patching } from '../command';
import { alongPaths, called, findArrangement, findPath, findPoint, findPointsPath, freeName } from './find';
import { describeChange } from './naming';

/** Commands for paths and their points. Edits of whole strokes are in pathEdits.ts. */

/** New points. @param ties what each of them is connected to; absent: nothing */
export const freshPoints = (
  scene: Scene,
  points: Vec3[],
  kind: PathPoint['kind'],
  ties: Ties = [],
): PathPoint[] =>
  points.map((p, i) => {
    const tie = ties[i];
    return { ...newPoint(takeId(scene, 'pt'), kind, p), ...(tie && { tie }) };
  });

/** What points of a list are connected to, in their order. */
export type Ties = readonly (Tie | null | undefined)[];

/** @param on the surface that it lies on; its points are then in that surface's own frame, at rest */
export const addPath = command<{
  name?: string;
  points: Vec3[];
  kind?: PathPoint['kind'];
  closed?: boolean;
  on?: string;
  ties?: Ties;
  hang?: Partial<Hang>;
}>({
  apply(scene, { name = 'Path', points, kind = 'smooth', closed = false, on, ties, hang }) {
    const id = takeId(scene, 'path');
    const path = newPath(id, freeName(scene.paths, name), freshPoints(scene, points, kind, ties), closed);
    if (on) path.source.on = on;
    if (hang) path.source.hang = hangSchema.parse(hang);
    scene.paths.push(path);
    return id;
  },
  name: () => 'draw path',
});

/** What a path from something else is called until it is renamed. */
const NAMES: Record<GeneratorShape, string> = {
  line: 'Line',
  polyline: 'Polyline',
  circle: 'Circle',
  arc: 'Arc',
  rectangle: 'Rectangle',
  polygon: 'Polygon',
  helix: 'Helix',
  spiral: 'Spiral',
  coil: 'Coil',
  strand: 'Strand',
};

export function addMadePath(scene: Scene, name: string, source: unknown): string {
  const id = takeId(scene, 'path');
  scene.paths.push(pathSchema.parse({ id, name: freeName(scene.paths, name), source }));
  return id;
}

/** A path that a generator makes, with live parameters. A coil needs the path that it winds around. */
export const addGenerated = command<{
  shape: GeneratorShape;
  around?: string;
  position?: Vec3;
  name?: string;
  values?: Partial<Generator>;
}>({
  apply(scene, { shape, around, position = [0, 0, 0], name, values }) {
    const corners =
      shape === 'polyline'
        ? {
            corners: [
              [0, 0, 0],
              [3, 0, 0],
              [3, 0, -3],
              [6, 0, -3],
            ],
          }
        : {};
    const generator = generatorSchema.parse({
      shape,
      ...corners,
      ...(around && { path: around }),
      ...values,
    });
    return addMadePath(scene, name ?? NAMES[shape], { kind: 'generator', generator, position });
  },
  name: (_, __, { shape }) => `add ${NAMES[shape].toLowerCase()}`,
});

export const addFromMesh = command<{ surface: string; take: MeshTake; name?: string }>({
  apply: (scene, { surface, take, name = 'Edge' }) =>
    addMadePath(scene, name, { kind: 'mesh', surface, take }),
  name: () => 'take a path from a surface',
});

/** A path of a sheet's lines, live: one of them, or all. */
export const addSheetPath = command<{ sheet: string; curve: string | null }>({
  apply(scene, { sheet, curve }) {
    const found = findArrangement(scene, sheet);
    const line = has(found, 'curves') ? found.curves.find((c) => c.id === curve) : undefined;
    return addMadePath(scene, line ? `${line.name} of ${found.name}` : `Lines of ${found.name}`, {
      kind: 'sheet',
      sheet,
      curve,
    });
  },
  name: (before, _, { sheet }) => `lines of “${findArrangement(before, sheet).name}” as a path`,
});

export const addOffset = command<{ path: string; distance: number }>({
  apply: (scene, { path, distance }) =>
    addMadePath(scene, `${findPath(scene, path).name} offset`, { kind: 'offset', path, distance }),
  name: (before, _, { path }) => `offset “${findPath(before, path).name}”`,
});

/** Sets fields of what a path is made from (its place, a lift, a distance). */
export const setSource = command<{ id: string; values: object }>({
  apply: (scene, { id, values }) => void Object.assign(findPath(scene, id).source, values),
  name: (before, _, { id, values }) =>
    `${findPath(before, id).name}: ${describeChange(findPath(before, id).source, values, before.units)}`,
});

/** Sets parameters of a generator. */
export const setGenerator = command<{ id: string; values: object }>({
  apply(scene, { id, values }) {
    const { source } = findPath(scene, id);
    if (source.kind === 'generator') Object.assign(source.generator, values);
  },
  name(before, _, { id, values }) {
    const { name, source } = findPath(before, id);
    return `${name}: ${describeChange((source as Extract<PathSource, { kind: 'generator' }>).generator, values, before.units)}`;
  },
});

/**
 * Makes a path one that has its own points. Where some strokes are loops and others not, the loops become a path of
 * their own beside it, and runs that stood on the path stand on both.
 */
export const turnIntoPoints = command<{ id: string; strokes: Stroke[] }>({
  apply(scene, { id, strokes }) {
    const path = findPath(scene, id);
    const named = (list: Stroke[]) =>
      mergeStrokes(list.map((s) => s.points.map((p) => ({ ...p, id: takeId(scene, 'pt') }))));
    const [open, loops] = [strokes.filter((s) => !s.closed), strokes.filter((s) => s.closed)];
    const first = open.length ? open : loops;
    path.source = { kind: 'points', points: named(first) };
    path.closed = open.length === 0;
    if (open.length === 0 || loops.length === 0) return;
    const made = newPath(
      takeId(scene, 'path'),
      freeName(scene.paths, `${path.name} loops`),
      named(loops),
      true,
    );
    scene.paths.push(made);
    for (const run of alongPaths(scene)) {
      if (!run.paths.some((p) => p.path === id)) continue;
      run.paths.push({ part: freePart(run.paths), path: made.id });
    }
  },
  name: (before, _, { id }) => `“${findPath(before, id).name}” into points`,
});

export const setPath = command<{ id: string; values: Partial<Pick<Path, 'name' | 'visible'>> }>({
  apply: (scene, { id, values }) => void Object.assign(findPath(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findPath(before, id).name}: ${describeChange(findPath(before, id), values, before.units)}`,
});

/** Opens or closes several paths. */
export const closePaths = command<{ ids: string[]; closed: boolean }>({
  apply(scene, { ids, closed }) {
    for (const id of ids) findPointsPath(scene, id).closed = closed;
  },
  name: (before, _, { ids, closed }) => `${closed ? 'close' : 'open'} ${called(before, ids)}`,
});

/** Turns the way around that paths run. */
export const reversePaths = command<{ ids: string[] }>({
  apply(scene, { ids }) {
    for (const path of ids.map((id) => findPointsPath(scene, id)))
      path.source.points = reversePoints(path.source.points, path.closed);
  },
  name: (before, _, { ids }) => `reverse ${called(before, ids)}`,
});

const pointLabel = (path: PointsPath, id: string) =>
  `point ${path.source.points.findIndex((p) => p.id === id) + 1}`;

/** Patches that set values of points, each its own. Points may be many, and paths too: no draft is made of them. */
function settingPoints(scene: Scene, path: string, values: Record<string, Partial<PathPoint>>): Patch[] {
  const owner = findPointsPath(scene, path);
  const at: Patch['path'] = ['paths', scene.paths.indexOf(owner), 'source', 'points'];
  const places = new Map(owner.source.points.map((p, i) => [p.id, i]));
  return Object.entries(values).flatMap(([id, own]) => {
    const i = places.get(id);
    if (i === undefined) throw new Error(`There is no point "${id}".`);
    const point = owner.source.points[i];
    return Object.entries(own).flatMap(([field, value]): Patch[] => {
      const place = [...at, i, field];
      if (value === undefined) return field in point ? [{ op: 'remove', path: place }] : [];
      return [{ op: field in point ? 'replace' : 'add', path: place, value }];
    });
  });
}

/** Moves points. What is moved by hand is let go of what it was connected to. @param ties what they are connected to there */
export const movePoints = patching<{ path: string; to: Record<string, Vec3>; ties?: Record<string, Tie> }>({
  patches: (scene, { path, to, ties = {} }) =>
    settingPoints(
      scene,
      path,
      Object.fromEntries(
        Object.entries(to).map(([id, position]) => [id, { position: [...position] as Vec3, tie: ties[id] }]),
      ),
    ),
  name(before, _, { path, to }) {
    const ids = Object.keys(to);
    return ids.length === 1
      ? `move ${pointLabel(findPointsPath(before, path), ids[0])}`
      : `move ${ids.length} points`;
  },
});

type PointValues = Partial<Omit<PathPoint, 'id' | 'position'>>;

export const setPoint = patching<{ path: string; id: string; values: PointValues }>({
  patches: (scene, { path, id, values }) => settingPoints(scene, path, { [id]: values }),
  name(before, _, { path, id, values }) {
    const owner = findPointsPath(before, path);
    return `${pointLabel(owner, id)}: ${describeChange(findPoint(owner, id), values, before.units)}`;
  },
});

/** The same settings for several points. */
export const setPoints = patching<{ path: string; ids: string[]; values: PointValues }>({
  patches: (scene, { path, ids, values }) =>
    settingPoints(scene, path, Object.fromEntries(ids.map((id) => [id, values]))),
  name(before, _, { path, ids, values }) {
    const first = findPoint(findPointsPath(before, path), ids[0]);
    return `${ids.length === 1 ? pointLabel(findPointsPath(before, path), ids[0]) : `${ids.length} points`}: ${describeChange(first, values, before.units)}`;
  },
});

/** The stroke of a compiled path that holds the point at `index`. */
export function strokeAt(path: PointsPath, index: number): CompiledPath | undefined {
  const compiled = compilePath(path);
  return compiled.ok
    ? compiled.strokes.find((s) => index >= s.firstPoint && index < s.firstPoint + s.pointS.length)
    : undefined;
}

/** Changes the kind of points; becoming free takes handles that keep the curve as it is. */
export const setPointKind = command<{ path: string; id: string; kind: PathPoint['kind']; ids?: string[] }>({
  apply(scene, { path, id, kind, ids = [id] }) {
    const owner = findPointsPath(scene, path);
    const index = (p: PathPoint) => owner.source.points.indexOf(p);
    const points = ids.map((one) => findPoint(owner, one));
    const handles = points.map((p) => {
      const stroke = kind === 'free' && p.kind !== 'free' ? strokeAt(owner, index(p)) : undefined;
      return stroke ? freeHandles(stroke, index(p)) : {};
    });
    points.forEach((p, i) => Object.assign(p, handles[i], { kind }));
  },
  name: (before, _, { path, id, kind, ids = [id] }) =>
    `${ids.length === 1 ? pointLabel(findPointsPath(before, path), id) : `${ids.length} points`} ${kind}`,
});

export const addPointAt = command<{ path: string; stroke?: number; s: number; segment: number; t: number }>({
  apply(scene, { path, stroke = 0, ...at }) {
    const owner = findPointsPath(scene, path);
    const compiled = compilePath(owner);
    if (!compiled.ok) return undefined;
    const id = takeId(scene, 'pt');
    owner.source.points = insertPoint(owner.source.points, compiled.strokes[stroke], at, id).points;
    return id;
  },
  name: (before, _, { path }) => `insert a point in “${findPath(before, path).name}”`,
});

export const removePoints = command<{ path: string; ids: string[] }>({
  apply(scene, { path, ids }) {
    const owner = findPointsPath(scene, path);
    // Where the first point of a stroke goes, the next one begins it.
    owner.source.points = mergeStrokes(
      splitStrokes(owner.source.points, owner.closed).map((s) => s.points.filter((p) => !ids.includes(p.id))),
    );
  },
  name: (before, _, { path, ids }) =>
    ids.length === 1
      ? `delete ${pointLabel(findPointsPath(before, path), ids[0])}`
      : `delete ${ids.length} points`,
});
