import type { HandCorrection } from '@/core/arrange/steps/schema';
import type { Scene } from '@/core/scene/schema';
import { degrees, metres } from '@/words/numbers';

/** "removed", "swapped for Crate, 0.3 m right" */
export function correctionWords(h: HandCorrection, scene: Pick<Scene, 'props' | 'units'>): string {
  const m = (v: number) => metres(Math.abs(v), scene.units, 3);
  const parts: string[] = [];
  if (h.removed === true) parts.push('removed');
  if (h.removed === false) parts.push('brought back');
  if (h.lock) parts.push('locked');
  if (h.prop) parts.push(`swapped for ${scene.props.find((p) => p.id === h.prop)?.name ?? 'a missing prop'}`);
  if (h.bend !== undefined) parts.push(h.bend ? 'bent' : 'keeps its shape');
  if (h.along) parts.push(`${m(h.along)} ${h.along > 0 ? 'on' : 'back'}`);
  if (h.side) parts.push(`${m(h.side)} ${h.side > 0 ? 'right' : 'left'}`);
  if (h.lift) parts.push(`${m(h.lift)} ${h.lift > 0 ? 'up' : 'down'}`);
  if (h.turnDeg) parts.push(`turned ${degrees(h.turnDeg)}`);
  if (h.size) parts.push(`${Math.round(h.size * 100)}%`);
  return parts.join(', ');
}
