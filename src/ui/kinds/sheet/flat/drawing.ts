import { create } from 'zustand';
import { addCurves } from '@/store/commands/sheets';
import { dispatch, onChange } from '@/store/document';

/** A line being drawn on a sheet's flat layout: which sheet, and its points so far. Not part of the document. */
interface SheetDrawing {
  sheet: string | null;
  points: [number, number][];
}

export const useSheetDrawing = create<SheetDrawing>(() => ({ sheet: null, points: [] }));

export const drawOnSheet = (sheet: string | null): void => useSheetDrawing.setState({ sheet, points: [] });

// In another scene it would go on in whatever has the same id there.
onChange((change) => change.kind === 'opened' && drawOnSheet(null));

export const addDrawn = (point: [number, number]): void =>
  useSheetDrawing.setState((s) => ({ points: [...s.points, point] }));

/** Ends the line. One of fewer than two points is none. @param place from layout metres to what the line is kept in */
export function finishDrawn(place: (points: [number, number][]) => [number, number][]): void {
  const { sheet, points } = useSheetDrawing.getState();
  useSheetDrawing.setState({ sheet: null, points: [] });
  if (!sheet || points.length < 2) return;
  dispatch(addCurves, {
    id: sheet,
    curves: [{ name: 'Line', points: place(points), closed: false, smooth: true }],
  });
}
