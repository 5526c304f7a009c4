'use client';

import type { Spread } from '@/core/arrange/steps/schema';

const NEXT: Record<Spread, Spread> = { uniform: 'bell', bell: 'extremes', extremes: 'uniform' };
const SAID: Record<Spread, string> = {
  uniform: 'evenly over the range',
  bell: 'mostly in the middle',
  extremes: 'mostly at the ends',
};
const SHAPES: Record<Spread, string> = {
  uniform: 'M1 4H15V11',
  bell: 'M1 11C6 11 6 2 8 2C10 2 10 11 15 11',
  extremes: 'M1 2C2 11 6 11 8 11C10 11 14 11 15 2',
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
      <svg width={16} height={13} viewBox="0 0 16 13" aria-hidden>
        <path d={SHAPES[value]} fill="none" stroke="currentColor" strokeWidth={1.6} strokeLinejoin="round" />
        {value === 'uniform' && <path d="M1 4V11" stroke="currentColor" strokeWidth={1.6} />}
      </svg>
    </button>
  );
}
