/** Where a panel stands beside a place of the view. Pixels from its top left corner. */

interface Size {
  width: number;
  height: number;
}
interface At {
  x: number;
  y: number;
}

/** Kept free at the edges of the view: the tools above, the buttons below. */
const EDGE = { left: 8, right: 8, top: 72, bottom: 52 };
/** Between the place and the panel. */
const AWAY = { x: 64, y: 24 };
/** What counts as covered reaches a little further than the panel. */
const AIR = 12;

/**
 * The corner of the panel: beside the place on that side where it covers the fewest of some other places and not the
 * place itself, inside the view. Of sides that are alike the first one: right above, left above, right below, left below.
 */
export function besideAt(place: At, panel: Size, view: Size, avoid: readonly At[] = []): At {
  const inside = (v: number, size: number, low: number, high: number) =>
    Math.max(low, Math.min(high - size, v));
  const sides = [
    [place.x + AWAY.x, place.y - panel.height - AWAY.y],
    [place.x - AWAY.x - panel.width, place.y - panel.height - AWAY.y],
    [place.x + AWAY.x, place.y + AWAY.y],
    [place.x - AWAY.x - panel.width, place.y + AWAY.y],
  ].map(([x, y]) => ({
    x: inside(x, panel.width, EDGE.left, view.width - EDGE.right),
    y: inside(y, panel.height, EDGE.top, view.height - EDGE.bottom),
  }));
  const covers = (at: At, p: At) =>
    p.x > at.x - AIR && p.x < at.x + panel.width + AIR && p.y > at.y - AIR && p.y < at.y + panel.height + AIR;
  const covered = sides.map(
    (at) => (covers(at, place) ? 1000 : 0) + avoid.filter((p) => covers(at, p)).length,
  );
  return sides[covered.indexOf(Math.min(...covered))];
}
