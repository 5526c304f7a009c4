import { nearestPlace, noHit } from '../../mesh/bvhQuery';
import { borderMesh } from '../../mesh/mask/lineMesh';
import type { TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Placements } from '../result';
import type { Say } from '../say';
import { insideRings } from '../steps/keepOuts';
import type { Release } from './schema';
import type { FallSpec } from './spec';

/**
 * Whether a place has come to where it is let go, for the causes that are places; undefined for those that are moments.
 * @param surfaces those that it falls onto, as they stand at the frame that is asked about
 */
export function causeOf(
  { who, place, region, near }: Release,
  context: ArrangeContext,
  surfaces: () => Iterable<TriMesh>,
  say: Say,
): FallSpec['isLetGo'] {
  if (who === 'place') return (row, now, before) => passes(row, now, before, place);
  if (who === 'border') return (row, now) => isNearBorder(row, now, surfaces(), near);
  if (who !== 'region') return undefined;
  const rings = region.flatMap((id) => {
    const path = context.path(id);
    return path?.ok ? path.strokes.filter((s) => s.closed) : [];
  });
  if (rings.length === 0) {
    say('release-region', {});
    return () => false;
  }
  const inside = insideRings(rings);
  return (row, { position: p }) => !inside([p[row * 3], p[row * 3 + 1], p[row * 3 + 2]]);
}

/** Whether a row has come past a length of its path since the frame before, whichever way it goes. */
function passes(row: number, now: Placements, before: Placements | null, place: number): boolean {
  if (!before) return false;
  const [from, to] = [before.s[row], now.s[row]];
  // On a loop it may have gone from the end to the beginning: that is no way over all of it.
  const long = before.s.reduce((most, s) => Math.max(most, s), 0);
  if (from === to || Math.abs(to - from) > long / 2) return false;
  return from < to ? from < place && place <= to : to <= place && place < from;
}

function isNearBorder(
  row: number,
  { position: p }: Placements,
  surfaces: Iterable<TriMesh>,
  near: number,
): boolean {
  const hit = noHit();
  for (const surface of surfaces) {
    const border = borderMesh(surface);
    if (border.indices.length === 0) continue;
    if (nearestPlace(border.tree(), p[row * 3], p[row * 3 + 1], p[row * 3 + 2], near, hit)) return true;
  }
  return false;
}
