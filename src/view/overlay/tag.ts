/** Where a tag stands beside a mark of the view. Pixels from the view's top left corner. */

interface Size {
  width: number;
  height: number;
}

/** Between the mark and its tag. */
const AWAY = { x: 14, y: 8 };
/** Free at the view's edge. */
const EDGE = 4;

/** How large the tag of a text in figures of 11.5 pixels is. */
export const tagSize = (text: string): Size => ({ width: text.length * 7 + 18, height: 22 });

/**
 * The corner of a tag: to the right of the mark, where the view ends there to its left; below it or above it, as asked,
 * and on the other side where that is beyond the view. Never outside the view, as far as it is large enough.
 */
export function tagAt(
  mark: { x: number; y: number },
  tag: Size,
  view: Size,
  side: 'below' | 'above' = 'below',
): { x: number; y: number } {
  const within = (v: number, size: number, room: number) => Math.max(EDGE, Math.min(room - EDGE - size, v));
  const right = mark.x + AWAY.x;
  const [below, above] = [mark.y + AWAY.y, mark.y - AWAY.y - tag.height];
  const fitsBelow = below + tag.height <= view.height - EDGE;
  const down = side === 'below' ? fitsBelow : above < EDGE;
  return {
    x: within(
      right + tag.width <= view.width - EDGE ? right : mark.x - AWAY.x - tag.width,
      tag.width,
      view.width,
    ),
    y: within(down ? below : above, tag.height, view.height),
  };
}
