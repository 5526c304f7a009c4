import { useMemo } from 'react';
import { wantedSo } from '@/core/arrange/asWanted';
import type { Arrangement } from '@/core/arrange/registry';
import type { Finding } from '@/core/arrange/result';
import { useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';

/** What checks have found, and what of it is as it is wanted. */

/** A finding of an arrangement. */
export interface Told {
  a: Arrangement;
  finding: Finding;
}

/** How bad a sort of finding is: the first is the worst. What is not among them comes after those. */
const WORST = ['doubled', 'overlap', 'through', 'too-tight', 'buried', 'floating', 'ground-missed'];
const rank = ({ kind, severity }: Finding): number => {
  const at = WORST.indexOf(kind);
  return severity === 'error' ? -1 : at < 0 ? WORST.length : at;
};
const howMany = (f: Finding): number => f.slots?.length ?? Number(f.detail.count ?? 1);

/** The worst first: what is broken, then by sort, then by how many it is about. */
const worstFirst = (list: readonly Told[]): Told[] =>
  [...list].sort((x, y) => rank(x.finding) - rank(y.finding) || howMany(y.finding) - howMany(x.finding));

/** What is told of all arrangements that are shown; `aside` is what is as it is wanted. */
export function useFindings(): { told: Told[]; aside: (Told & { why: string })[]; looking: boolean } {
  const arrangements = useDocument((s) => s.scene.arrangements);
  const results = useEngine((s) => s.result.arrangements);
  const checks = useEngine((s) => s.checks);
  const looking = useEngine((s) => s.looking);
  return useMemo(() => {
    const told: Told[] = [];
    const aside: (Told & { why: string })[] = [];
    for (const a of arrangements) {
      if (!a.visible) continue;
      for (const finding of [...(results.get(a.id)?.findings ?? []), ...(checks.get(a.id) ?? [])]) {
        const why = wantedSo(a, finding);
        if (why === undefined) told.push({ a, finding });
        else aside.push({ a, finding, why });
      }
    }
    return { told: worstFirst(told), aside, looking };
  }, [arrangements, results, checks, looking]);
}
