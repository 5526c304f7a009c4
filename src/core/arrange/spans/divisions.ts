import { framesAlong } from '../../curve/frames';
import { writeQuatOfAxes } from '../../math/quat';
import type { ArrangeContext } from '../context';
import { allocatePlacements, type PartRange, type Placements } from '../result';
import type { Say } from '../say';
import { slotId } from '../slotId';
import { divisionsOf } from '../steps/divide';
import { spacingSchema } from '../steps/schema';
import type { Spans } from './schema';

/** What members run between. */
export interface Posts {
  placements: Placements;
  parts: readonly PartRange[];
  /** They come in no order. */
  unordered?: boolean;
}

/** The props of an arrangement, or the divisions of a path, as posts; null, and said, where there are none. */
export function postsOf({ on, divisions }: Spans, context: ArrangeContext, say: Say): Posts | null {
  if (divisions) return divisionPosts(divisions, context, say);
  const placements = context.arrangement?.(on);
  if (!placements) say('leader-missing', {});
  return placements
    ? { placements, parts: context.parts?.(on) ?? [], unordered: context.unordered?.(on) ?? false }
    : null;
}

/** A post without a prop at each division of a path, looking along it; its up is carried along without a twist. */
function divisionPosts(
  given: NonNullable<Spans['divisions']>,
  context: ArrangeContext,
  say: Say,
): Posts | null {
  const path = context.path(given.path);
  if (!path?.ok) {
    say(path ? `path-${path.problem}` : 'path-missing', { path: given.path });
    return null;
  }
  const spacing = spacingSchema.parse({ ...given, mode: 'divide' });
  const slots: number[] = [];
  const places: number[] = [];
  const position: number[] = [];
  const front: number[] = [];
  const up: number[] = [];
  const parts: PartRange[] = [];
  path.strokes.forEach((stroke, k) => {
    const { length, closed } = stroke;
    const whole = { path: stroke, stroke: k, length, closed, start: 0, usable: length, loop: closed };
    const found = divisionsOf(spacing, whole);
    if (found === 'no-corners') return say('no-corners', { path: given.path }, 'warning');
    if (!Array.isArray(found)) return say('too-many-slots', { count: found, limit: 500_000 });
    const s = found.map((place) => place.s);
    const frames = framesAlong(stroke, s, 'bank');
    position.push(...frames.position);
    front.push(...frames.front);
    up.push(...frames.up);
    places.push(...s);
    slots.push(...found.map(({ index }) => slotId(index, 0, 0, k)));
    parts.push({ part: 0, path: given.path, stroke: k, rows: 1, start: 0, end: length, length, closed });
  });
  const placements = allocatePlacements(slots.length, ['']);
  placements.slot.set(slots);
  placements.s.set(places);
  placements.prop.fill(0);
  placements.position.set(position);
  const [y, z] = [Float64Array.from(up), Float64Array.from(front)];
  for (let i = 0; i < slots.length; i++) writeQuatOfAxes(placements.rotation, i * 4, y, i * 3, z, i * 3);
  return { placements, parts };
}
