import { laidOut } from './laidOut';
import { flatStroke } from './lines';
import type { SheetMap } from './map';
import { propsOf, type Sheet, type SheetCurve } from './schema';
import { footprint } from './evaluate';
import { boxOf, type ArrangeContext, type SurfaceStates } from '../context';
import type { LaidLines } from '../kind';
import { compileStrokes, type CompiledPath } from '../../curve/compile';
import { corner, named } from '../../curve/generate/points';
import { samplePath } from '../../curve/sample';
import type { Vec3 } from '../../math/vec3';
import { layLine } from '../../mesh/lines/lay';
import { placeOn, type TriMesh } from '../../mesh/triMesh';
import { placesAlong, type LaidStrokes, type PinnedStroke } from '../../mesh/lines/pinned';

/** The lines of a sheet's pattern, laid on its surface as the strokes of a path. */

/** More strokes than this are refused: every one is laid from face to face. */
const MOST = 4000;

/** One line of a sheet, or all of them, laid on its surface as that is at rest. */
export function sheetLines(
  sheet: Sheet,
  context: ArrangeContext,
  curve: string | null,
): LaidLines | undefined {
  const ground = context.surfaceStates?.(sheet.surface);
  if (!ground) return undefined;
  const bounds = propsOf(sheet).map((id) => boxOf(context, id));
  const strokes = laidAtRest(sheet, ground, footprint(sheet, bounds), curve);
  return { surface: sheet.surface, now: ground.now, place: ground.place, strokes };
}

const kept = new WeakMap<Sheet, Map<string | null, { from: unknown[]; strokes: LaidStrokes }>>();

/** Lines are laid on the surface at rest: while it moves they are only carried. A frame goes with what moves. */
function laidAtRest(
  sheet: Sheet,
  ground: SurfaceStates,
  own: [number, number],
  curve: string | null,
): LaidStrokes {
  const from: unknown[] = [ground.rest, ground.size, ...own];
  if (sheet.match.guess) from.push(...ground.place);
  if (sheet.over.kind === 'frame') from.push(ground.now);
  let lines = kept.get(sheet);
  if (!lines) kept.set(sheet, (lines = new Map()));
  let have = lines.get(curve);
  if (!have?.from.every((v, i) => v === from[i]))
    lines.set(curve, (have = { from, strokes: layLines(sheet, ground, own, curve) }));
  return have.strokes;
}

/**
 * Lays lines, each in every cell where they are repeated.
 * @param own layout metres that its props take, for a grid without numbers
 * @returns strokes of the material, that go where it goes
 */
function layLines(
  sheet: Sheet,
  ground: SurfaceStates,
  own: [number, number],
  curve: string | null,
): LaidStrokes {
  const laid = laidOut(sheet, ground, own);
  if (typeof laid === 'string')
    return { ok: false, problem: laid === 'sheet-no-uv' ? 'no-uv' : 'surface-missing' };
  const { chart, map, cells } = laid;
  const curves = sheet.curves.filter((c) => curve === null || c.id === curve);
  const flat: SheetCurve[] = [];
  if (!sheet.repeat) flat.push(...curves);
  else {
    if (typeof cells === 'string') return { ok: false, problem: 'nothing-there' };
    for (let i = 0; i < cells.count; i++) {
      if (cells.skipped[i]) continue;
      const at = ([x, y]: [number, number]): [number, number] => [
        cells.x[i] + (x - 0.5) * cells.width[i],
        cells.y[i] + (y - 0.5) * cells.height[i],
      ];
      for (const c of curves) flat.push({ ...c, points: c.points.map(at) });
    }
  }
  if (flat.length > MOST) return { ok: false, problem: 'too-fine' };
  const out: PinnedStroke[] = [];
  const place = { face: -1, u: 0, v: 0 };
  for (const c of flat) {
    const stroke = flatStroke(c);
    if (!stroke) continue;
    const laid = layFlat(stroke, map, ground.rest, (u, v) =>
      chart.place(u, v, place) ? placeOn(ground.rest, place.face, place.u, place.v) : null,
    );
    if (laid) out.push(laid);
  }
  return out.length > 0
    ? out
    : { ok: false, problem: curves.length > 0 ? 'nothing-there' : 'too-few-points' };
}

/** Lays one flat stroke onto the surface at rest; what falls beside it ends the stroke there. */
function layFlat(
  flat: CompiledPath,
  map: SheetMap,
  rest: TriMesh,
  at: (u: number, v: number) => Vec3 | null,
): PinnedStroke | null {
  const { s, points } = placesAlong(flat, rest);
  const { position } = samplePath(flat, s);
  const places: number[] = [];
  /** For each sample, its number among those that lie on the surface. */
  const kept = new Int32Array(s.length).fill(-1);
  const uv = new Float64Array(2);
  for (let i = 0; i < s.length; i++) {
    const b = map.up(position[i * 3 + 1]);
    const row = map.row(b);
    const a = row.share(position[i * 3] - row.start);
    const hair = 1e-9;
    if (!map.closedAcross && (a < -hair || a > 1 + hair)) continue;
    if (!map.closedUp && (b < -hair || b > 1 + hair)) continue;
    const wrap = (t: number, closed: boolean) => (closed ? t - Math.floor(t) : Math.min(1, Math.max(0, t)));
    map.uv(wrap(a, map.closedAcross), wrap(b, map.closedUp), uv);
    const p = at(uv[0], uv[1]);
    if (!p) continue;
    kept[i] = places.length / 3;
    places.push(...p);
  }
  const own = [...points].filter((i) => kept[i] >= 0);
  if (own.length < 2 || places.length < 6) return null;
  const line = layLine(rest, places);
  if (!line) return null;
  const compiled = compileStrokes([
    {
      points: named(
        own.map((i) => corner([places[kept[i] * 3], places[kept[i] * 3 + 1], places[kept[i] * 3 + 2]])),
      ),
      // A loop that is cut at a border is none any more.
      closed: flat.closed && own.length === points.length,
      firstPoint: 0,
    },
  ]);
  if (!compiled.ok) return null;
  return { rest: compiled.path, line, points: Int32Array.from(own, (i) => line.asked[kept[i]]), on: rest };
}
