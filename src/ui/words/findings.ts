import { slotName } from '@/core/arrange/slotId';
import type { Finding, GapReason } from '@/core/evaluate/result';
import type { Scene } from '@/core/scene/schema';
import { metres, plural, whole } from './numbers';

/** A finding as one sentence: what, where, what to do. */
export function sentence(f: Finding, scene: Scene): string {
  const d = f.detail;
  const prop = scene.props.find((p) => p.id === d.prop)?.name ?? String(d.prop);
  const path = scene.paths.find((p) => p.id === d.path)?.name ?? 'The path';
  const nth =
    scene.paths.find((p) => p.id === d.path)?.source.points.findIndex((p) => p.id === d.point) ?? -1;
  const m = (v: unknown) => metres(Number(v), scene.units, 3);
  switch (f.kind) {
    case 'no-path':
      return 'This run stands on no path yet. Choose one under Path, or draw one.';
    case 'path-missing':
      return 'Its path is no longer in the scene. Choose another one under Path.';
    case 'path-too-few-points':
      return `“${path}” has fewer than two points. Add a point, or choose another path.`;
    case 'path-zero-length':
      return `“${path}” has no length: its points are in one place. Move a point.`;
    case 'path-not-finite':
      return `“${path}” has a point that is no number. Type its position anew.`;
    case 'fillet-clipped':
      return `The fillet at point ${nth + 1} of “${path}” does not fit; ${m(d.amount)} is used. Make it smaller.`;
    case 'fillet-needs-straight-sides':
      return `The fillet at point ${nth + 1} of “${path}” needs straight sides. Make its neighbours corners.`;
    case 'coincident-points':
      return `Point ${nth + 1} of “${path}” lies on the one before it. Move or delete it.`;
    case 'no-props':
      return 'No prop yet. Drag one here from the basket, or press + beside Order.';
    case 'order-empty':
      return 'Every weight and “times” is 0, so nothing is placed. Raise one under Props.';
    case 'prop-missing':
      return 'A prop of this run is no longer in the basket. Swap it under Props.';
    case 'mesh-missing':
      return `The mesh of “${prop}” is not at hand, so it is not drawn. Bring the file in again under the prop.`;
    case 'mesh-empty':
      return `“${prop}” has no faces, so there is nothing to draw. Swap it under Props.`;
    case 'pitch-not-positive':
      return 'The pitch must be more than 0. Type a length such as 1.8 m.';
    case 'count-not-positive':
      return 'The count must be at least 1. Type a whole number.';
    case 'too-many-slots':
      return `${whole(Number(d.wanted))} slots are too many; the limit is ${whole(Number(d.limit))}. Use a pitch of at least ${m(Math.max(1e-6, Number(d.least) * 1.001))}.`;
    case 'no-room':
      return `The insets leave no room on ${m(d.length)} of path. Make them shorter.`;
    case 'loose-limited':
      return `Loose by is held to ± ${m(d.amount)}, so that neighbours keep their order. Lower it, or widen the pitch.`;
    case 'too-tight': {
      const first = f.slots?.[0];
      const at = first === undefined ? '' : ` at #${slotName(first)}`;
      return `${plural(Number(d.count), 'overlap')}${at}: neighbours reach into each other. Widen the pitch.`;
    }
    case 'cycle':
      return `It waits for itself (${d.ring}). Take one of these off the other.`;
    case 'failed':
      return `It could not be worked out (${d.message}). Undo the last change.`;
  }
}

export const REASON: Record<GapReason, string> = {
  placed: 'placed',
  rest: 'rest in the order',
  chance: 'left out by chance',
  'keep-out': 'in a keep-out',
  hand: 'removed by hand',
};
