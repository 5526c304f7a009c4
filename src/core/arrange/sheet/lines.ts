import { compileStrokes, type CompiledPath } from '../../curve/compile';
import { corner, named, smooth } from '../../curve/generate/points';
import { polyline } from '../../curve/sample';
import type { SheetCurve } from './schema';

/** The lines of a sheet's pattern on the flat layout. */

/** A line as a path in the plane of the layout, or null for one that is no line. */
export function flatStroke({ points, closed, smooth: round }: SheetCurve): CompiledPath | null {
  const make = round ? smooth : corner;
  const compiled = compileStrokes([
    {
      points: named(points.map(([x, y]) => make([x, y, 0]))),
      closed: closed && points.length > 2,
      firstPoint: 0,
    },
  ]);
  return compiled.ok ? compiled.path : null;
}

/**
 * Every line as it runs, smooth ones in short straight pieces: x and y a place, metres of the layout or shares of a cell
 * as the line's points are.
 * @param cell width and height of the cell that shares are of
 */
export function flatLines(curves: SheetCurve[], cell: [width: number, height: number]): Float64Array[] {
  const [w, h] = cell;
  return curves.map((curve) => {
    const round = curve.smooth && curve.points.length > 2;
    // What is smooth depends on true lengths: shares become metres first.
    const points = curve.points.map(([x, y]): [number, number] => [x * w, y * h]);
    const path = round ? flatStroke({ ...curve, points }) : null;
    if (!path) return Float64Array.from(curve.points.flat());
    const { position } = polyline(path);
    const n = position.length / 3;
    return Float64Array.from({ length: n * 2 }, (_, i) =>
      i % 2 === 0 ? position[(i / 2) * 3] / w : position[((i - 1) / 2) * 3 + 1] / h,
    );
  });
}
