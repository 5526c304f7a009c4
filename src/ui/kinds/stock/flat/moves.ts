import type { StockLayout } from '@/core/arrange/result';
import type { FacingValues } from '@/store/commands/stock';

/** What a drag in the shelf does to the order of facings: which prop stands in which from then on. */

type Facings = StockLayout['facings'];
type Change = Record<string, FacingValues>;

/** A facing taken to the place of another one: those between move by one; on another shelf the two change places. */
export function movedTo(facings: Facings, props: readonly string[], from: number, to: number): Change {
  const out: Change = {};
  const put = (f: number, prop: number) => {
    if (prop >= 0) out[facings[f].name] = { prop: props[prop] };
  };
  if (facings[from].shelf !== facings[to].shelf) {
    put(from, facings[to].prop);
    put(to, facings[from].prop);
    return out;
  }
  const step = to > from ? 1 : -1;
  for (let f = from; f !== to; f += step) put(f, facings[f + step].prop);
  put(to, facings[from].prop);
  return out;
}

/**
 * The edge between two groups, right of facing `left`, taken to another place: the group that grows has those that the
 * other one loses.
 * @param to how many facings of the shelf lie left of the edge then, counted as the facing that comes right after it
 */
export function widened(facings: Facings, props: readonly string[], left: number, to: number): Change {
  const out: Change = {};
  const { shelf } = facings[left];
  for (let f = left + 1; f < to && facings[f]?.shelf === shelf; f++)
    if (facings[left].prop >= 0) out[facings[f].name] = { prop: props[facings[left].prop] };
  const right = facings[left + 1];
  for (let f = left; f >= to && facings[f]?.shelf === shelf; f--)
    if (right.prop >= 0) out[facings[f].name] = { prop: props[right.prop] };
  return out;
}

/** The facing of a shelf that begins right of a place, in the order of the layout; the one after its last at the end. */
export function rightOf(facings: Facings, shelf: number, at: number): number {
  let next = -1;
  for (let f = 0; f < facings.length; f++) {
    if (facings[f].shelf !== shelf) continue;
    if ((facings[f].x0 + facings[f].x1) / 2 > at) return f;
    next = f + 1;
  }
  return next;
}
