import type { Hang } from '@/core/curve/hang/schema';
import { metres } from './numbers';

/** "sagging, 10% slack": how lines hang, as a short phrase. */
export function hangPhrase(hang: Hang, units: 'm' | 'cm'): string {
  const lies = hang.lies && hang.how !== 'stiff' ? ', on the ground' : '';
  if (hang.how === 'taut') return `taut${lies}`;
  const far =
    hang.by === 'slack'
      ? `${Math.round(hang.slack * 1000) / 10}% slack`
      : hang.by === 'length'
        ? `${metres(hang.length, units)} long`
        : `${metres(hang.sag, units)} deep`;
  const wind = hang.how === 'sag' && hang.wind ? ', in the wind' : '';
  return `${hang.how === 'stiff' ? 'stiff' : 'sagging'}, ${far}${lies}${wind}`;
}
