import type { Spread } from '@/core/arrange/steps/schema';

/** How often values come over a range 16 wide, up to 10 high: closed outlines. */
export const SPREADS: Record<Spread, string> = {
  uniform: 'M0 10V4H16V10Z',
  bell: 'M0 10C5 10 5 0 8 0C11 0 11 10 16 10Z',
  extremes: 'M0 10V0C1 9 5 10 8 10C11 10 15 9 16 0V10Z',
};
