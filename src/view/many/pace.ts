import type { Budget } from './plan';

/** How much a frame may draw, by how long frames take on this machine. */

/** Without a graphics card, and with one; twice that where what is dragged is judged by its looks. */
const MOVING = { software: { triangles: 50_000, points: 100_000 }, card: { triangles: 2e6, points: 2e6 } };
/** At rest there is time: all is drawn, far things as points where they are many. */
const RESTING = { software: 400_000, card: 12e6 };

/** What of it the first frame draws: as long as nothing is known of the machine none is to take long. */
const FIRST = { software: 0.25, card: 1 };
/** Milliseconds a frame: above there is too much to draw, below there could be more. */
const SLOW = 66;
const FAST = 25;
/** By how much less is drawn after a slow frame, at least and at most. */
const LESS = { least: 0.8, most: 0.5 };
/** Of what a frame may draw while something moves. */
const ROUGH = 0.4;
/** A pause in moving is no slow frame. */
const PAUSE = 400;

export class Pace {
  private factor: number;
  private last = -Infinity;

  constructor(private on: 'software' | 'card') {
    this.factor = FIRST[on];
  }

  /** Told of every frame that is drawn while the view turns. @param now milliseconds */
  frame(now: number): void {
    const took = now - this.last;
    this.last = now;
    if (took > PAUSE) return;
    if (took > SLOW) {
      const by = Math.max(LESS.most, Math.min(LESS.least, SLOW / took));
      this.factor = Math.max(0.1, this.factor * by);
    }
    if (took < FAST) this.factor = Math.min(this.on === 'card' ? 4 : 1, this.factor * 1.1);
  }

  /** Of a frame at rest that is finished in parts later: at rest there are several times as many pixels to it. */
  rough(): Budget {
    const { triangles, points } = this.budget('turns');
    return { triangles: triangles * ROUGH, points: points * ROUGH };
  }

  budget(what: 'turns' | 'drags' | 'rests'): Budget {
    if (what === 'rests') return { triangles: RESTING[this.on], points: Infinity };
    const { triangles, points } = MOVING[this.on];
    const by = what === 'drags' ? 2 * this.factor : this.factor;
    return { triangles: triangles * by, points: points * by };
  }
}
