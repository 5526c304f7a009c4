import { STATE } from '@/core/arrange/result';
import { ask } from '@/store/asked';
import { useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import type { ViewHandle } from '@/view/handle';
import { pick } from './pick';
import { toScreen } from './project';

/** The tool that asks a place: a click on a prop, near a gap, or on bare ground. */

/** So near a gap, pixels, it is that which is meant. */
const NEAR = 14;

export function askClick(view: ViewHandle, x: number, y: number): void {
  const hit = pick(view, x, y);
  if (hit?.kind === 'prop') return ask({ arrangement: hit.arrangement, slot: hit.slot });
  const gap = gapAt(view, x, y);
  if (gap) return ask(gap);
  if (hit) ask({ surface: hit.id, at: hit.point });
}

/** The gap whose place is nearest to a pixel; null where none is near. */
function gapAt(view: ViewHandle, x: number, y: number): { arrangement: string; slot: number } | null {
  let best: { arrangement: string; slot: number } | null = null;
  let least = NEAR;
  for (const { id, visible } of useDocument.getState().scene.arrangements) {
    const p = visible ? engine().state.result.arrangements.get(id)?.placements : undefined;
    if (!p) continue;
    for (let i = 0; i < p.count; i++) {
      if (p.state[i] === STATE.placed) continue;
      const at = toScreen(view, p.position.subarray(i * 3, i * 3 + 3) as unknown as number[]);
      const away = Math.hypot(at.x - x, at.y - y);
      if (away >= least) continue;
      least = away;
      best = { arrangement: id, slot: p.slot[i] };
    }
  }
  return best;
}
