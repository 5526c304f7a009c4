import type { KeepOut, Variation } from './schema';

/** Ids of the masks that the steps of an arrangement name which are the same for every kind. */
export function masksOfSteps(a: {
  gaps?: { keepOuts: readonly KeepOut[] };
  variation?: Pick<Variation, 'mask' | 'sizeMask'>;
}): string[] {
  const gaps = (a.gaps?.keepOuts ?? []).flatMap((k) => (k.kind === 'mask' ? [k.mask] : []));
  return [...gaps, a.variation?.mask, a.variation?.sizeMask].filter((id) => typeof id === 'string');
}
