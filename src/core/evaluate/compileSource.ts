import { shownGrounds } from './gathered/takes';
import { kindOf, needsOf } from '../arrange/registry';
import {
  compileStrokes,
  splitStrokes,
  type CompiledPath,
  type CompileResult,
  type PathProblem,
  type Stroke,
} from '../curve/compile';
import { generate } from '../curve/generate';
import { corner, named, placed, smooth } from '../curve/generate/points';
import { offsetPath } from '../curve/offset';
import { DEG } from '../math/quat';
import { add, type Vec3 } from '../math/vec3';
import type { Mesh } from '../mesh/mesh';
import { through } from '../mesh/surface';
import { borders, edgeLoop, featureEdges } from '../mesh/lines/edges';
import { isoLines } from '../mesh/lines/iso';
import { carriedPoints, type MeshLine } from '../mesh/lines/topology';
import { isLaid, hasPoints, type MeshTake, type Path } from '../curve/schema';
import type { Scene } from '../scene/schema';
import type { Hang } from '../curve/hang/schema';
import { liesOn } from '../mesh/lines/groundUnder';
import { surfaceLines, surfacePaths } from './surfaces';
import { compileHung, isHungOrTied } from './hung';
import type { PathContext } from './pathContext';
import { carryStrokes } from '../mesh/lines/pinned';

/** Ids of the nodes that a path is made from or connected to. @param scene for paths of lines that an arrangement lays */
export function pathNeeds(path: Path, scene?: Scene): PathNeeds {
  const { source } = path;
  if (isLaid(source)) {
    const laying = scene?.arrangements.find((a) => a.id === source.sheet);
    const surfaces = laying && kindOf(laying).lines ? needsOf(laying).surfaces : [];
    return { ...NONE, surfaces: surfaces === 'all' ? [] : surfaces };
  }
  if (source.kind === 'points') {
    const ties = source.on ? [] : source.points.flatMap((p) => p.tie ?? []);
    const of = (ids: string[]) => [...new Set(ids)];
    return {
      paths: of(ties.flatMap((t) => (t.to === 'point' ? [t.path] : []))),
      arrangements: of(ties.flatMap((t) => (t.to === 'slot' ? [t.arrangement] : []))),
      surfaces: source.on ? [source.on] : source.hang ? underHanging(source.hang, path.id, scene) : [],
    };
  }
  if (source.kind === 'offset') return { ...NONE, paths: [source.path] };
  if (source.kind === 'mesh') return { ...NONE, surfaces: [source.surface] };
  if (source.kind === 'lines') return { ...NONE, arrangements: [source.of] };
  if (source.kind === 'generator' && source.generator.shape === 'coil')
    return { ...NONE, paths: [source.generator.path] };
  return NONE;
}

/** Surfaces that are shown, and not made from a path or hung on it. */
export function groundsFor(path: string, { surfaces }: Pick<Scene, 'surfaces'>): string[] {
  const grounds = new Set(shownGrounds(surfaces));
  return surfaces
    .filter((s) => grounds.has(s.id) && ![...surfacePaths(s), ...surfaceLines(s)].includes(path))
    .map((s) => s.id);
}

function underHanging(hang: Hang, path: string, scene: Scene | undefined): string[] {
  const on = liesOn(hang);
  return on === 'all' ? (scene ? groundsFor(path, scene) : []) : [...on];
}

export interface PathNeeds {
  paths: string[];
  surfaces: string[];
  arrangements: string[];
}

const NONE: PathNeeds = { paths: [], surfaces: [], arrangements: [] };

const PLANES: Record<'ground' | 'x' | 'z', Vec3> = { ground: [0, 1, 0], x: [1, 0, 0], z: [0, 0, 1] };

/** The points that any path comes down to, stroke by stroke; or why there are none. */
export function strokesOf(path: Path, context: PathContext): Stroke[] | PathProblem {
  const { source } = path;
  if (source.kind === 'points') return splitStrokes(source.points, path.closed);
  if (source.kind === 'generator') {
    const base = source.generator.shape === 'coil' ? baseOf(source.generator.path, context) : [];
    if (typeof base === 'string') return base;
    const made = generate(source.generator, base);
    if (made === 'too-fine') return made;
    const { position, turnDeg, tipDeg } = source;
    const stays = source.generator.shape === 'coil';
    return counted(
      made.map((m) => ({ ...m, points: stays ? m.points : placed(m.points, position, turnDeg, tipDeg) })),
    );
  }
  if (source.kind === 'offset') {
    const base = baseOf(source.path, context);
    if (typeof base === 'string') return base;
    const made = base.flatMap((b) => offsetPath(b, source.distance, PLANES[source.plane]));
    if (made.length === 0) return 'nothing-there';
    const up = (m: (typeof made)[number]) =>
      source.lift === 0 ? m.points : placed(m.points, [0, source.lift, 0], 0, 0);
    return counted(made.map((m) => ({ ...m, points: up(m) })));
  }
  if (isLaid(source)) return 'nothing-there';
  if (source.kind === 'lines') {
    const lines = context.hung?.(source.of);
    return lines ? (lines.length > 0 ? lines : 'nothing-there') : 'base-missing';
  }
  const surface = context.surface(source.surface);
  if (!surface) return 'surface-missing';
  const rest = surface.undeformed && meshAtRest(surface.mesh, surface.undeformed);
  // At rest, so that deforming the mesh takes no other lines, nor in another order. What was picked was picked as it is.
  const lines = takeLines((source.take.what !== 'loop' && rest) || surface.mesh, source.take);
  if (typeof lines === 'string') return lines;
  if (lines.length === 0) return 'nothing-there';
  if (lines.reduce((n, l) => n + l.points.length, 0) > 20000) return 'too-fine';
  const make = source.smooth ? smooth : corner;
  const map = (p: Vec3): Vec3 => add(through(surface.matrix, p), [0, source.lift, 0]);
  return counted(
    lines.map((l) => ({
      points: (rest ? carriedPoints(l, surface.mesh.positions) : l.points).map((p) => make(map(p))),
      closed: l.closed,
      on: { surface: source.surface, face: l.faces },
      ...(rest && { rest: carriedPoints(l, rest.positions).map((p) => make(map(p))) }),
    })),
  );
}

const resting = new WeakMap<Float32Array, Mesh>();

/** A mesh with its vertices where they are at rest: the same one for as long as that is the same. */
function meshAtRest(mesh: Mesh, undeformed: Float32Array): Mesh {
  let rest = resting.get(undeformed);
  if (rest?.indices !== mesh.indices) resting.set(undeformed, (rest = { ...mesh, positions: undeformed }));
  return rest;
}

function baseOf(id: string, context: PathContext): CompiledPath[] | PathProblem {
  const base = context.path(id);
  return base?.ok ? base.strokes : 'base-missing';
}

function counted(strokes: Omit<Stroke, 'firstPoint'>[]): Stroke[] {
  let first = 0;
  const all = strokes.map((s) => {
    const stroke = { ...s, firstPoint: first };
    first += s.points.length;
    return stroke;
  });
  const names = named(all.flatMap((s) => s.points));
  return all.map((s) => ({ ...s, points: names.slice(s.firstPoint, s.firstPoint + s.points.length) }));
}

/** The lines that a take finds on a mesh, in its own space. */
function takeLines(mesh: Mesh, take: MeshTake): MeshLine[] | PathProblem {
  switch (take.what) {
    case 'borders':
      return borders(mesh);
    case 'edges':
      return featureEdges(mesh, take.angleDeg * DEG);
    case 'loop': {
      const loop = edgeLoop(mesh, take.at);
      return loop ? [loop] : [];
    }
    case 'iso': {
      if (!mesh.uvs) return 'no-uv';
      const n = take.count;
      const values = Array.from({ length: n }, (_, i) =>
        n === 1 ? take.from : take.from + ((take.to - take.from) * i) / (n - 1),
      );
      return isoLines(mesh, take.along, values).flat();
    }
  }
}

/** Compiles any path. */
export function compileSource(path: Path, context: PathContext): CompileResult {
  if (hasPoints(path) && path.source.on) {
    const ground = context.ground?.(path.source.on);
    if (!ground) return { ok: false, problem: 'surface-missing' };
    const strokes = ground.laid(path);
    return Array.isArray(strokes) ? carryStrokes(strokes, ground.now, path.source.on, ground.place) : strokes;
  }
  if (hasPoints(path) && isHungOrTied(path)) return compileHung(path, context);
  if (isLaid(path.source)) {
    const lines = context.lines?.(path.source.sheet, path.source.curve);
    if (!lines) return { ok: false, problem: 'base-missing' };
    const { strokes, now, surface, place } = lines;
    return Array.isArray(strokes) ? carryStrokes(strokes, now, surface, place) : strokes;
  }
  const strokes = strokesOf(path, context);
  if (typeof strokes === 'string') return { ok: false, problem: strokes };
  return path.source.kind === 'lines' ? compiledOnce(strokes) : withRest(compileStrokes(strokes), strokes);
}

const known = new WeakMap<Stroke, CompileResult>();

/** Compiled strokes of which most may be the very ones that they were: those are not compiled again. */
function compiledOnce(strokes: readonly Stroke[]): CompileResult {
  const made = strokes.flatMap((stroke) => {
    let one = known.get(stroke);
    if (!one) known.set(stroke, (one = compileStrokes([stroke])));
    return one.ok ? one.strokes : [];
  });
  return made.length > 0 ? { ok: true, path: made[0], strokes: made } : { ok: false, problem: 'zero-length' };
}

/** Compiled strokes, each with itself at rest where it has the same segments there. */
function withRest(compiled: CompileResult, strokes: readonly Stroke[]): CompileResult {
  if (!compiled.ok || strokes.every((s) => !s.rest)) return compiled;
  const made = compiled.strokes.map((path) => {
    const stroke = strokes.find((s) => s.firstPoint === path.firstPoint);
    const rest = stroke?.rest && compileStrokes([{ ...stroke, points: stroke.rest }]);
    return rest?.ok && rest.path.segmentCount === path.segmentCount ? { ...path, rest: rest.path } : path;
  });
  return { ok: true, path: made[0], strokes: made };
}
