import { compileStrokes, splitStrokes, type CompiledPath, type CompileResult } from '../../curve/compile';
import { compileLaid } from '../../curve/laid';
import { polyline, samplePath } from '../../curve/sample';
import { layLine, type LaidLine } from './lay';
import { nearestPlace, noHit } from '../bvhQuery';
import { through } from '../surface';
import { placeOn, type TriMesh } from '../triMesh';
import type { PointsPath } from '../../curve/schema';

/**
 * Paths whose points lie on a surface. They are laid onto it as it is at rest, undeformed, so that every place of the
 * path is a place of the material; what it does then is carried with it, and stays on the surface between the points.
 */
export interface PinnedStroke {
  /** The stroke at rest, in the surface's own frame. */
  rest: CompiledPath;
  line: LaidLine;
  /** For each point of the stroke, its place along the line. */
  points: Int32Array;
  /** The surface that it was laid on. */
  on: TriMesh;
}

/** A path's strokes on a surface, or why there are none. */
export type LaidStrokes = PinnedStroke[] | Extract<CompileResult, { ok: false }>;

/** Places that one stroke is sampled at, at the most. */
const MOST = 4000;

/** Lays a path's strokes onto a surface at rest. */
export function layStrokes(path: PointsPath, rest: TriMesh): LaidStrokes {
  const hit = noHit();
  const onto = path.source.points.map((p) => {
    const [x, y, z] = p.position;
    const found = [x, y, z].every(Number.isFinite) && nearestPlace(rest.tree(), x, y, z, Infinity, hit);
    return found ? { ...p, position: placeOn(rest, hit.face, hit.u, hit.v) } : p;
  });
  const compiled = compileStrokes(splitStrokes(onto, path.closed));
  if (!compiled.ok) return compiled;
  const out: PinnedStroke[] = [];
  for (const stroke of compiled.strokes) {
    const { s, points } = placesAlong(stroke, rest);
    const line = layLine(rest, samplePath(stroke, s).position);
    if (!line) return { ok: false, problem: 'surface-missing' };
    out.push({ rest: stroke, line, points: points.map((k) => line.asked[k]), on: rest });
  }
  return out;
}

/**
 * Lengths at which a stroke is laid down: its points, and between them closer than the faces are wide, and where it
 * bends (on a surface of few faces its own bend is what shows).
 */
export function placesAlong(stroke: CompiledPath, rest: TriMesh): { s: number[]; points: Int32Array } {
  const step = Math.max(faceWidth(rest) * 0.75, stroke.length / MOST);
  const marks = [...stroke.pointS];
  const bends = polyline(stroke).s;
  const hair = stroke.length * 1e-6;
  const s: number[] = [];
  const points = new Int32Array(marks.length);
  const ends = stroke.closed ? [...marks, marks[0] + stroke.length] : marks;
  ends.forEach((mark, i) => {
    if (i > 0) {
      const from = ends[i - 1];
      const pieces = Math.max(1, Math.ceil((mark - from) / step));
      const between = Array.from({ length: pieces - 1 }, (_, k) => from + ((mark - from) * (k + 1)) / pieces);
      for (const at of bends) if (at > from && at < mark) between.push(at);
      let last = from;
      for (const at of between.sort((a, b) => a - b))
        if (at > last + hair && at < mark - hair) s.push((last = at));
    }
    if (i < marks.length) points[i] = s.length;
    s.push(mark);
  });
  return { s, points };
}

const widths = new WeakMap<TriMesh, number>();

/** About how wide the faces are: the side of the square of their mean area, doubled. */
function faceWidth(triMesh: TriMesh): number {
  let width = widths.get(triMesh);
  if (width === undefined) {
    const { positions: p, indices } = triMesh;
    const faces = indices.length / 3;
    let area = 0;
    for (let f = 0; f < faces; f++) {
      const [a, b, c] = [indices[f * 3] * 3, indices[f * 3 + 1] * 3, indices[f * 3 + 2] * 3];
      const [ex, ey, ez] = [p[b] - p[a], p[b + 1] - p[a + 1], p[b + 2] - p[a + 2]];
      const [fx, fy, fz] = [p[c] - p[a], p[c + 1] - p[a + 1], p[c + 2] - p[a + 2]];
      const [x, y, z] = [ey * fz - ez * fy, ez * fx - ex * fz, ex * fy - ey * fx];
      area += Math.sqrt(x * x + y * y + z * z) / 2;
    }
    widths.set(triMesh, (width = Math.sqrt((2 * area) / Math.max(1, faces))));
  }
  return width;
}

/** xyz of the places of a stroke on its surface. A loop comes back to the place where it began. */
function placesOf({ rest, line }: PinnedStroke, now: TriMesh): Float64Array {
  const places = line.face.length - (rest.closed ? 1 : 0);
  const position = new Float64Array(places * 3);
  for (let i = 0; i < places; i++)
    position.set(placeOn(now, line.face[i], line.weights[i * 2], line.weights[i * 2 + 1]), i * 3);
  return position;
}

const resting = new WeakMap<PinnedStroke, { place: Float64Array; path: CompiledPath | null }>();

/** A stroke as it lies on its surface at rest, where that stands in the scene. */
function atRest(stroke: PinnedStroke, place: Float64Array): CompiledPath | null {
  let have = resting.get(stroke);
  if (!have || place.some((v, i) => v !== have!.place[i])) {
    const position = placesOf(stroke, stroke.on);
    for (let o = 0; o < position.length; o += 3)
      position.set(through(place, [position[o], position[o + 1], position[o + 2]]), o);
    const path = compileLaid(stroke.rest, { position, asked: stroke.points, on: undefined });
    resting.set(stroke, (have = { place, path }));
  }
  return have.path;
}

/**
 * The strokes as they lie on the surface now, each with itself at rest.
 * @param place from the surface's own frame to the scene, column-major 4×4
 */
export function carryStrokes(
  strokes: PinnedStroke[],
  now: TriMesh,
  surface: string,
  place: Float64Array,
): CompileResult {
  const made: CompiledPath[] = [];
  for (const stroke of strokes) {
    const { rest, line, points } = stroke;
    const on = { surface, face: line.pieces };
    const one = compileLaid(rest, { position: placesOf(stroke, now), asked: points, on });
    const lying = one && atRest(stroke, place);
    if (one) made.push(lying ? { ...one, rest: lying } : one);
  }
  return made.length ? { ok: true, path: made[0], strokes: made } : { ok: false, problem: 'zero-length' };
}
