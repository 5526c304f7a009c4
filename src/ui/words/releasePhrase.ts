import type { Release } from '@/core/arrange/release/schema';

const WHO: Record<Release['who'], string> = {
  all: 'all at once',
  turn: 'in turn',
  chance: 'by chance',
  place: 'at a place',
  region: 'leaving a region',
  border: 'at a border',
};
const THEN: Record<Release['then'], string> = { stay: '', ride: ', then ride', go: ', then are gone' };

/** The step Release, closed: "At 2 s, in turn". */
export function releasePhrase(release: Release): string {
  if (!release.on) return 'Held';
  const { at, who, then } = release;
  return `At ${Number(at.toFixed(2))} s, ${WHO[who]}${THEN[then]}`;
}
