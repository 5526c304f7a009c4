import type { ArrangeContext } from '../context';
import type { Say } from '../say';

/** Rows of one surface, and how far at the most they are from where they lay. */
interface Among {
  slots: number[];
  away: number;
}

/** Notes what is pinned to surfaces and not on the faces that it was put on, to be told once for each surface. */
export class Misplaced {
  private again = new Map<string, Among>();
  private lost = new Map<string, Among>();

  /** On other faces now. @param away metres from where it lay */
  foundAgain(surface: string, slot: number, away: number): void {
    note(this.again, surface, slot, away);
  }

  /** The surface is gone, or the place could not be found on it again. */
  isLost(surface: string, slot: number): void {
    note(this.lost, surface, slot, 0);
  }

  tell(say: Say, context: ArrangeContext): void {
    for (const [surface, { slots, away }] of this.again)
      say('pin-found', { surface, count: slots.length, distance: away }, 'warning', slots);
    for (const [surface, { slots }] of this.lost) {
      const kind = context.surface?.(surface) ? 'pin-lost' : 'pin-surface-missing';
      say(kind, { surface, count: slots.length }, 'error', slots);
    }
  }
}

function note(among: Map<string, Among>, surface: string, slot: number, away: number): void {
  const have = among.get(surface);
  if (!have) return void among.set(surface, { slots: [slot], away });
  have.slots.push(slot);
  have.away = Math.max(have.away, away);
}
