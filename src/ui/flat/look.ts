/** How a flat view is looked at. */
export interface Look {
  /** From 1, which shows all of it. */
  zoom: number;
  /** What is in the middle, from the middle of all. */
  x: number;
  y: number;
}
export const WHOLE: Look = { zoom: 1, x: 0, y: 0 };

/** What is zoomed by the wheel: what is under the pointer stays there. @param x, y pixels from the middle of the view */
export function zoomed(look: Look, by: number, x: number, y: number): Look {
  const zoom = Math.min(60, Math.max(1, look.zoom * by));
  if (zoom === 1) return WHOLE;
  return {
    zoom,
    x: look.x + x / look.zoom - x / zoom,
    y: look.y + y / look.zoom - y / zoom,
  };
}
