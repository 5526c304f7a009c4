import type { Thread } from '@/core/arrange/base';

/** The dyes, for what is drawn outside of style sheets. */
export const THREAD_COLORS: Record<Thread, string> = {
  madder: '#B4472F',
  woad: '#2C5F86',
  weld: '#D6A02B',
  moss: '#61793F',
  plum: '#7A4A6B',
};
export const INK = '#1E2A36';
export const LINEN = '#FBF8F1';
