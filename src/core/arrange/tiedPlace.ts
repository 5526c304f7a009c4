import type { Tie } from '../curve/hang/schema';
import { samplePath } from '../curve/sample';
import type { Quat } from '../math/quat';
import { scale, type Vec3 } from '../math/vec3';
import type { ArrangeContext } from './context';
import { rowFinder } from './rowFinder';
import { parseSlotName } from './slotId';
import { nearestSnap, snapInRow, type SnapPlace } from './snapPlace';

/** What ends may be connected to, as it stands now. */
export type TieSources = Pick<ArrangeContext, 'arrangement' | 'prop' | 'path'>;

const finders = new WeakMap<Float64Array, (slot: number) => number>();
const LEVEL: Quat = [0, 0, 0, 1];

/** Where an end is now. `other`: what it was connected to is gone, and this is the nearest of the same name. */
export type TiedPlace = SnapPlace & { other?: true };

/** Where something connected is now; null where nothing of that name is there. @param last where it was before */
export function tiedPlace(tie: Tie, last: Vec3, sources: TieSources): TiedPlace | null {
  if (tie.to === 'point') return pointOf(tie, sources);
  const p = sources.arrangement?.(tie.arrangement);
  if (!p) return null;
  let find = finders.get(p.slot);
  if (!find) finders.set(p.slot, (find = rowFinder(p)));
  const own = snapInRow(p, find(parseSlotName(tie.slot)), tie.snap, sources.prop);
  if (own) return own;
  const near = nearestSnap(p, tie.snap, last, sources.prop);
  return near ? { ...near, other: true } : null;
}

/** A point of a path; a line leaves it the way that the path goes on over its ends. */
function pointOf({ path, point }: Extract<Tie, { to: 'point' }>, sources: TieSources): TiedPlace | null {
  const compiled = sources.path(path);
  for (const stroke of compiled?.ok ? compiled.strokes : []) {
    const at = stroke.pointIds.indexOf(point);
    if (at < 0) continue;
    const { position, tangent } = samplePath(stroke, [stroke.pointS[at]]);
    const way = [...tangent.subarray(0, 3)] as Vec3;
    const end = stroke.closed || (at > 0 && at < stroke.pointS.length - 1) ? null : at === 0 ? -1 : 1;
    return {
      position: [...position.subarray(0, 3)] as Vec3,
      direction: end && scale(way, end),
      rotation: LEVEL,
    };
  }
  return null;
}
