import type { AreaFacts } from '@/core/arrange/result';
import type { Scatter } from '@/core/arrange/scatter/schema';
import type { Scene } from '@/core/scene/schema';
import { showMeasure } from '@/words/measure';
import { plural, whole } from '@/words/numbers';

/** The steps of a scatter as short phrases. */

const listed = (names: string[]): string => {
  const [first, ...rest] = names;
  return rest.length === 0 ? (first ?? 'Nothing') : `${first} and ${rest.length} more`;
};

export function areaPhrase({ over }: Scatter, { surfaces, paths }: Scene): string {
  const surface = (id: string) => surfaces.find((s) => s.id === id)?.name ?? 'missing';
  if (over.kind === 'volume') return `Inside ${surface(over.surface)}`;
  if (over.kind === 'surfaces') return listed(over.surfaces.map(surface));
  return `Inside ${listed(over.paths.map((id) => paths.find((p) => p.id === id)?.name ?? 'missing'))}`;
}

const HOW = { even: 'Even', loose: 'Loose', grid: 'In rows', clumps: 'In clumps' };

/** How places are spread, and by which mask they thin out. */
export function spreadPhrase(scatter: Scatter, area: AreaFacts | undefined, { units, masks }: Scene): string {
  const mask = masks.find((m) => m.id === scatter.spread.mask);
  return `${spreadAlone(scatter, area, units)}${mask ? `, ${mask.name}` : ''}`;
}

function spreadAlone({ spread }: Scatter, area: AreaFacts | undefined, units: 'm' | 'cm'): string {
  const { how, amount } = spread;
  const per = area?.dimensions === 3 ? 'm³' : 'm²';
  if (amount === 'number')
    return `${HOW[how]}, ${how === 'clumps' ? plural(spread.number, 'clump') : whole(spread.number)}`;
  if (amount === 'density') return `${HOW[how]}, ${Number(spread.density.toPrecision(4))} per ${per}`;
  const distance = spread.distance ?? area?.distance;
  return distance ? `${HOW[how]}, ${showMeasure(distance, 'length', units)} ${units} apart` : HOW[how];
}

export function standPhrase({ stand }: Scatter): string {
  const turned =
    stand.heading === 'compass' ? 'By compass' : stand.heading === 'target' ? 'To a target' : 'As it lies';
  const leans =
    stand.lean === 0
      ? 'upright'
      : stand.lean === 1
        ? 'square to it'
        : `leaning ${Math.round(stand.lean * 100)}%`;
  return `${turned}, ${leans}`;
}
