import type { Bounds } from '../../mesh/mesh';
import type { ArrangeContext } from '../context';
import { allocatePlacements, NO_FACTS, type ArrangementResult, type Finding } from '../result';
import { boundsOf, sayInto, type Say } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import { wholeGaps } from '../steps/gapsSchema';
import { maskPlacesOf } from '../steps/masked';
import { eachBoardAlone, keepForNext, spliced, startAgain } from './again';
import { Rows, type TooLarge } from './facing';
import { facingMasks } from './facingMasks';
import { layFacings, type LaidBoard } from './lay';
import { layoutOf } from './layout';
import { measurer, type FacingMasks } from './measure';
import { propsOf, type Stock } from './schema';
import { boardsToFill, type Filled } from './shelves';
import { sitesOf } from './sites';

const WHY: Record<TooLarge, Finding['kind']> = {
  wide: 'stock-too-wide',
  deep: 'stock-too-deep',
  high: 'stock-too-high',
};

/**
 * Works stock out: its boards, filled facing by facing, some of it taken away. Nothing throws for what the schema
 * admits; goods that fit on no board are named, and the rest stays. Where only a hand has changed what it says of
 * facings or units, just the boards of those are filled again.
 */
export function evaluateStock(
  stock: Stock,
  context: ArrangeContext,
  before?: { node: Stock; result: ArrangementResult },
): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, stock.id);
  const ids = propsOf(stock);
  const bounds = boundsOf(ids, context, say);
  if (ids.length === 0) say('no-props', {});
  const again = before && startAgain(before, stock, ids);
  const found = again?.found ?? boardsFound(stock, context);
  findings.push(...found.said);
  if (found.boards.length === 0)
    return { placements: allocatePlacements(0, ids), findings, facts: NO_FACTS, parts: [] };
  const some = again ? found.boards.filter((_, i) => again.changed[i]) : found.boards;
  const first = layAll(stock, some, ids, bounds, null);
  const masks = facingMasks(stock, first, context);
  const laid = masks ? layAll(stock, some, ids, bounds, masks.of) : first;
  const sites = sitesOf(stock, laid, ROWS, ids, context, say);
  if (masks) sites.reads = maskPlacesOf(stock.id, masks.placesOf(laid, ROWS.count), context);
  const settled = settle(
    { ...stock, posing: { ...AS_IT_LIES, ...stock.stand }, gaps: wholeGaps(stock.gaps) },
    [sites],
    { ids, bounds },
    context,
    say,
  );
  const part = { placements: settled.placements, boards: laid, stock: layoutOf(laid, ROWS) };
  const whole = again ? spliced(before.result, again, part) : part;
  tellLeftOut(whole.boards, ids, say);
  if (ids.length > 0 && whole.placements.count === 0 && whole.boards.every((b) => b.leftOut.size === 0))
    say('order-empty', {});
  if (eachBoardAlone(stock)) keepForNext(whole.stock, { found, boards: whole.boards });
  const { placements, stock: layout } = whole;
  return { placements, findings, facts: NO_FACTS, parts: [], stock: layout };
}

/** The boards that there are to fill, and what is to be said of them. */
function boardsFound(stock: Stock, context: ArrangeContext): { boards: Filled[]; said: Finding[] } {
  const said: Finding[] = [];
  return { boards: boardsToFill(stock, context, sayInto(said, stock.id)), said };
}

/** One for all: what is laid in it is copied out before anything else is. */
const ROWS = new Rows();

function layAll(
  stock: Stock,
  boards: Filled[],
  ids: string[],
  bounds: (Bounds | undefined)[],
  masks: ((name: string) => FacingMasks) | null,
): LaidBoard[] {
  ROWS.count = 0;
  const measure = measurer(stock, ids, bounds);
  return boards.map((shelf) => {
    const leftOut: LaidBoard['leftOut'] = new Map();
    const note = (prop: number, why: TooLarge) => {
      const key = `${why} ${prop}`;
      leftOut.set(key, (leftOut.get(key) ?? 0) + 1);
    };
    return { shelf, facings: layFacings(stock, shelf, ids, measure, ROWS, masks, note), leftOut };
  });
}

/** Says once for each prop and reason how many did not fit on any of the boards. */
function tellLeftOut(boards: readonly LaidBoard[], ids: readonly string[], say: Say): void {
  const all = new Map<string, number>();
  for (const { leftOut } of boards)
    for (const [key, count] of leftOut) all.set(key, (all.get(key) ?? 0) + count);
  for (const [key, count] of all) {
    const [why, prop] = key.split(' ');
    say(WHY[why as TooLarge], { prop: ids[Number(prop)], count }, 'warning');
  }
}
