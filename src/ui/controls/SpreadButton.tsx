'use client';

import type { Spread } from '@/core/arrange/steps/schema';
import { SPREADS } from './spreads';

const NEXT: Record<Spread, Spread> = { uniform: 'bell', bell: 'extremes', extremes: 'uniform' };
const SAID: Record<Spread, string> = {
  uniform: 'evenly over the range',
  bell: 'mostly in the middle',
  extremes: 'mostly at the ends',
};

/** How the values of a range lie in it; a click takes the next way. */
export function SpreadButton({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Spread;
  onChange: (spread: Spread) => void;
}) {
  return (
    <button
      type="button"
      aria-label={`${label}: ${SAID[value]}. Change to ${SAID[NEXT[value]]}`}
      title={`Values lie ${SAID[value]}`}
      onClick={() => onChange(NEXT[value])}
      className="flex size-7 shrink-0 items-center justify-center rounded-md text-soft hover:bg-groove hover:text-text"
    >
      <svg width={16} height={12} viewBox="-1 -1 18 12" aria-hidden>
        <path d={SPREADS[value]} fill="none" stroke="currentColor" strokeWidth={1.6} strokeLinejoin="round" />
      </svg>
    </button>
  );
}
