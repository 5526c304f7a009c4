import type { MeasuredPlace } from '@/core/scene/measureSchema';
import type { Snap } from '../snap/snap';

/** What the measure tool has taken so far. */

/** A place that was clicked, and what was there. */
export interface Taken extends MeasuredPlace {
  snap: Snap | null;
  /** The path that it lies on. */
  path: string | null;
}

export interface Measuring {
  taken: readonly Taken[];
  ahead: Taken | null;
  /** The placed prop under the pointer. */
  prop: { arrangement: string; slot: number } | null;
}

export const NO_MEASURING: Measuring = { taken: [], ahead: null, prop: null };
