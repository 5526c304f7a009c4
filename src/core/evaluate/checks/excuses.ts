import { kindOf, type Arrangement } from '../../arrange/registry';
import { STATE, type ArrangementResult } from '../../arrange/result';

/** An arrangement with what it has come to. */
interface Shown {
  a: Arrangement;
  r: Pick<ArrangementResult, 'placements' | 'findings'>;
}

/** Which rows touch as they should. */
export function excuses(one: Shown, other: Shown): (i: number, j: number) => boolean {
  const [p, q] = [one.r.placements, other.r.placements];
  const own = kindOf(one.a).touches?.(one.a);
  if (one.a === other.a) {
    // Neighbours of one row that are too tight have been told of.
    const told = new Set(one.r.findings.flatMap((f) => (f.kind === 'too-tight' ? (f.slots ?? []) : [])));
    const none = (from: number, to: number) => p.state.subarray(from, to).every((s) => s !== STATE.placed);
    // The last is next to the first where they go round.
    const isNext = (i: number, j: number) => none(i + 1, j) || (none(0, i) && none(j + 1, p.count));
    const sits = (i: number, j: number) => own?.may(p.slot[i], one.a.id, p.slot[j]) ?? false;
    return (i, j) =>
      (((own?.neighbours ?? false) || told.has(p.slot[j])) && isNext(i, j)) ||
      (own !== undefined && !own.neighbours && (sits(i, j) || sits(j, i)));
  }
  const others = kindOf(other.a).touches?.(other.a);
  const on = own?.on.includes(other.a.id) ? own : null;
  const under = others?.on.includes(one.a.id) ? others : null;
  return (i, j) =>
    (on?.may(p.slot[i], other.a.id, q.slot[j]) ?? false) ||
    (under?.may(q.slot[j], one.a.id, p.slot[i]) ?? false);
}
