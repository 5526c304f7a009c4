/** How a flat view is looked at. */
export interface Look {
  /** From 1, which shows all of it. */
  zoom: number;
  /** What is in the middle, from the middle of all. */
  x: number;
  y: number;
}
export const WHOLE: Look = { zoom: 1, x: 0, y: 0 };
