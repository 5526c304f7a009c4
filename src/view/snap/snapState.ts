import { create } from 'zustand';

/** What drawing and dragging snap to. The choice is the artist's, not part of the scene. */
export interface SnapState {
  on: boolean;
  /** Points of any path, its ends among them. */
  points: boolean;
  /** Snap points of what is placed. */
  snaps: boolean;
  /** Corners and edges of surfaces and of what is placed. */
  meshes: boolean;
  /** Midway between neighbouring points. */
  midpoints: boolean;
  /** Divisions of any path into k equal parts; 1 is none. */
  parts: number;
  per: 'whole' | 'side' | 'quadrant';
  /** Every how many-th division. */
  every: number;
  /** The nearest place of any path. */
  onPath: boolean;
  /** Square from the last point onto a path. */
  perpendicular: boolean;
  /** A grid on the ground; its step in metres. */
  grid: boolean;
  gridStep: number;
  /** Directions in steps of 15° from the last point. */
  angles: boolean;
}

export const useSnap = create<SnapState>(() => ({
  on: true,
  points: true,
  snaps: true,
  meshes: true,
  midpoints: true,
  parts: 1,
  per: 'whole',
  every: 1,
  onPath: true,
  perpendicular: true,
  grid: false,
  gridStep: 0.5,
  angles: true,
}));

export const setSnap = (values: Partial<SnapState>): void => useSnap.setState(values);

let typed = { digits: '', at: 0 };
/** Whether a number has been begun: another digit goes on with it. */
export const isTypingParts = (now = Date.now()): boolean => now - typed.at < 1000;
/** A digit typed while drawing: the number of parts, digits within a second together. */
export function typeParts(digit: string, now = Date.now()): void {
  typed = { digits: isTypingParts(now) ? typed.digits + digit : digit, at: now };
  const parts = Math.min(999, Number(typed.digits));
  setSnap({ parts: Math.max(1, parts), on: true });
}
