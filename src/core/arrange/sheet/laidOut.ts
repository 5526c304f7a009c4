import type { SurfaceStates } from '../context';
import type { FindingKind } from '../result';
import { cellsOf, newCells, type Cells, type CellsProblem } from './cells';
import { chartOf, type SurfaceChart } from './chartOf';
import { matchOf } from './guess';
import { sheetMap, type SheetMap } from './map';
import type { Sheet, SheetMatch } from './schema';

/** A sheet's layout on its surface: what its props and its lines are both laid by. */
export interface LaidOut {
  chart: SurfaceChart;
  match: SheetMatch;
  map: SheetMap;
  /** The places of its grid. Not to be written to: lines and props read the same ones. */
  cells: Cells | CellsProblem;
}

interface Kept {
  from: unknown[];
  laid: LaidOut | FindingKind;
}
const kept = new WeakMap<Sheet, Kept>();

/**
 * The layout, worked out once for the props and the lines of a sheet.
 * @param own layout metres that its props take, for a grid without numbers @returns what is missing, where it has none
 */
export function laidOut(sheet: Sheet, ground: SurfaceStates, own: [number, number]): LaidOut | FindingKind {
  const from = [ground.now, ground.rest, ground.size, ...ground.place, ...own];
  const have = kept.get(sheet);
  if (have && have.from.every((v, i) => v === from[i])) return have.laid;
  const laid = layOut(sheet, ground, own);
  kept.set(sheet, { from, laid });
  return laid;
}

function layOut(sheet: Sheet, ground: SurfaceStates, own: [number, number]): LaidOut | FindingKind {
  const chart = chartOf(sheet, ground);
  if (typeof chart === 'string') return chart;
  const match = matchOf(sheet, ground);
  const map = sheetMap(chart, { ...sheet, match });
  return { chart, match, map, cells: map.empty ? newCells(0) : cellsOf(sheet.grid, map, own) };
}
