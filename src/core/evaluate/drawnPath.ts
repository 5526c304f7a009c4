import type { CompiledPath, CompileResult } from '../curve/compile';
import { metricsOf } from '../curve/metrics';
import { polyline, samplePath } from '../curve/sample';
import type { Finding } from '../arrange/result';

/** One stroke of a path as it is drawn, measured and edited. */
export interface DrawnStroke {
  closed: boolean;
  length: number;
  position: Float64Array;
  s: Float64Array;
  /** Arc length at each of its points, and their place in the path's own list. */
  pointS: Float64Array;
  firstPoint: number;
  isCorner: Uint8Array;
  /** Control points of the cubics, 12 a segment, and the point each leaves from. */
  controls: Float64Array;
  segmentPoint: Int32Array;
  /** xyz of each of its points, where a surface or what they are connected to carries them. */
  carried?: Float64Array;
}

/** A path as it is drawn and measured. */
export interface PathResult {
  id: string;
  key: string;
  ok: boolean;
  /** Every stroke is a loop. */
  closed: boolean;
  /** Metres, all strokes. */
  length: number;
  strokes: DrawnStroke[];
  /** Whole turns of direction, all bends added up. */
  turns: number;
  /** Least radius of curvature, metres: 0 at a sharp corner, Infinity where all is straight. */
  tightest: number;
  findings: Finding[];
}

/** A compiled path as polylines to be drawn and picked, one a stroke, with its length and what is wrong with it. */
export function drawnPath(id: string, key: string, result: CompileResult): PathResult {
  if (!result.ok) {
    return {
      id,
      key,
      ok: false,
      closed: false,
      length: 0,
      strokes: [],
      turns: 0,
      tightest: Infinity,
      findings: [{ kind: `path-${result.problem}`, severity: 'error', node: id, detail: { path: id } }],
    };
  }
  const { strokes } = result;
  const metrics = strokes.map(measured);
  return {
    id,
    key,
    ok: true,
    closed: strokes.every((s) => s.closed),
    length: strokes.reduce((sum, s) => sum + s.length, 0),
    strokes: strokes.map(drawn),
    turns: metrics.reduce((sum, m) => sum + m.turns, 0),
    tightest: Math.min(...metrics.map((m) => m.tightest)),
    findings: strokes.flatMap((s) =>
      s.notes.map((note): Finding => ({
        kind: note.kind,
        severity: 'warning',
        node: id,
        detail: { path: id, point: note.pointId, amount: note.amount ?? 0 },
      })),
    ),
  };
}

const knownMetrics = new WeakMap<CompiledPath, ReturnType<typeof metricsOf>>();
const knownStrokes = new WeakMap<CompiledPath, DrawnStroke>();

/** What was made of a stroke is kept for as long as it is the same one. */
function kept<V>(
  known: WeakMap<CompiledPath, V>,
  make: (path: CompiledPath) => V,
): (path: CompiledPath) => V {
  return (path) => {
    const have = known.get(path);
    if (have !== undefined) return have;
    const made = make(path);
    known.set(path, made);
    return made;
  };
}

const measured = kept(knownMetrics, metricsOf);
const drawn = kept(knownStrokes, (path) => drawnStroke(path));

const drawnStroke = (path: CompiledPath): DrawnStroke => ({
  closed: path.closed,
  length: path.length,
  ...polyline(path),
  pointS: path.pointS,
  firstPoint: path.firstPoint,
  isCorner: path.isCorner,
  controls: path.controls,
  segmentPoint: path.segmentPoint,
  ...((path.on || path.moved) && { carried: samplePath(path, path.pointS).position }),
});
