import { toScreen } from '../project';
import type { ViewHandle } from '@/view/handle';

/** SVG path data of points in the scene; pieces behind the camera are left out. */
export function screenLine(view: ViewHandle, position: ArrayLike<number>): string {
  let d = '';
  let open = false;
  for (let i = 0; i + 2 < position.length; i += 3) {
    const p = toScreen(view, [position[i], position[i + 1], position[i + 2]]);
    if (p.ahead) d += `${open ? 'L' : 'M'}${p.x.toFixed(1)} ${p.y.toFixed(1)}`;
    open = p.ahead;
  }
  return d;
}
