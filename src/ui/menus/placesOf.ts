import { STATE } from '@/core/arrange/result';
import { engine } from '@/store/engine';

/** How often a prop is placed. */
export function placesOf(id: string): number {
  let count = 0;
  for (const { placements: p } of engine().state.result.arrangements.values()) {
    const index = p.props.indexOf(id);
    if (index < 0) continue;
    for (let i = 0; i < p.count; i++) if (p.prop[i] === index && p.state[i] === STATE.placed) count++;
  }
  return count;
}
