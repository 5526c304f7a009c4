import { kindOf } from '@/core/arrange/registry';
import { STATE } from '@/core/arrange/result';
import { slotName } from '@/core/arrange/slotId';
import { quatRotate, type Quat } from '@/core/math/quat';
import { addScaled, lerp, type Vec3 } from '@/core/math/vec3';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import type { ViewHandle } from '../handle';
import { toScreen } from '../project';

/** The axes of members: their ends, middles and divisions, and the place on them that is nearest to the pointer. */

/** More members of one arrangement are not looked through. */
const MOST = 20_000;

export interface AxisPlace {
  kind: 'end' | 'midpoint' | 'division' | 'axis';
  at: Vec3;
  label: string;
}

/** @param parts divisions of each axis; 1: none @param along pixels within which an axis itself is meant */
export function axesNear(
  view: ViewHandle,
  { x, y }: { x: number; y: number },
  pixels: number,
  { parts, along }: { parts: number; along: number },
): AxisPlace[] {
  const { result } = engine().state;
  return useDocument.getState().scene.arrangements.flatMap((a): AxisPlace[] => {
    const p = a.visible && kindOf(a).hasAxes ? result.arrangements.get(a.id)?.placements : undefined;
    if (!p || p.count > MOST) return [];
    const found: AxisPlace[] = [];
    for (let i = 0; i < p.count; i++) {
      const box = result.propBounds[p.props[p.prop[i]] ?? ''];
      // What is bent has no straight axis.
      if (p.state[i] !== STATE.placed || !box || (p.shape && p.shape[i] >= 0)) continue;
      const at = [...p.position.subarray(i * 3, i * 3 + 3)] as Vec3;
      const front = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 0, 1]);
      const long = p.scale[i * 3 + 2];
      const ends = [box.min[2], box.max[2]].map((z) => addScaled(at, front, z * long)) as [Vec3, Vec3];
      const [s, e] = ends.map((v) => toScreen(view, v));
      if (!s.ahead || !e.ahead) continue;
      const t = nearestShare(s, e, x, y);
      if (Math.hypot(s.x + (e.x - s.x) * t - x, s.y + (e.y - s.y) * t - y) > pixels) continue;
      const name = `${a.name} #${slotName(p.slot[i])}`;
      ends.forEach((end) => found.push({ kind: 'end', at: end, label: `End of ${name}` }));
      found.push({ kind: 'midpoint', at: lerp(...ends, 0.5), label: `Middle of ${name}` });
      for (let k = 1; k < parts; k++)
        found.push({ kind: 'division', at: lerp(...ends, k / parts), label: `${k}/${parts} of ${name}` });
      const there = onAxis(view, ends, t, x, y);
      const seen = toScreen(view, there);
      if (Math.hypot(seen.x - x, seen.y - y) <= along)
        found.push({ kind: 'axis', at: there, label: `On the axis of ${name}` });
    }
    return found;
  });
}

type Seen = { x: number; y: number };

/** Which share of a straight piece of the screen is nearest to a pixel. */
function nearestShare(a: Seen, b: Seen, x: number, y: number): number {
  const [dx, dy] = [b.x - a.x, b.y - a.y];
  const l = dx * dx + dy * dy;
  return l > 0 ? Math.min(1, Math.max(0, ((x - a.x) * dx + (y - a.y) * dy) / l)) : 0;
}

/** The place of an axis that is seen at a share of it on the screen: the nearer half is longer there. */
function onAxis(view: ViewHandle, [a, b]: [Vec3, Vec3], t: number, x: number, y: number): Vec3 {
  let [low, high] = [0, 1];
  for (let i = 0; i < 40; i++) {
    const mid = (low + high) / 2;
    const [s, m, e] = [a, lerp(a, b, mid), b].map((p) => toScreen(view, p));
    if (nearestShare(s, e, m.x, m.y) < nearestShare(s, e, x, y)) low = mid;
    else high = mid;
  }
  return lerp(a, b, t === 0 || t === 1 ? t : (low + high) / 2);
}
