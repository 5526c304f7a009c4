import type { Vec3 } from '../../math/vec3';
import type { Bounds } from '../../mesh/mesh';
import type { ArrangeContext } from '../context';
import { allocatePlacements, NO_FACTS, type ArrangementResult, type Finding } from '../result';
import { boundsOf, sayInto, type Say } from '../say';
import { settle } from '../settle';
import type { Sites } from '../sites';
import { AS_IT_LIES } from '../settle';
import { decidedByHand, markGaps } from '../steps/gaps';
import { swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import { maskPlacesOf } from '../steps/masked';
import { Rows, type TooLarge } from './facing';
import { layFacings, type Facing } from './lay';
import { facingMasks } from './facingMasks';
import { measurer, type FacingMasks } from './measure';
import { propsOf, type Stock } from './schema';
import { boardsToFill, type Filled } from './shelves';
import { settleDown } from './settleDown';
import { takeAway } from './sold';
import type { StockLayout } from '../result';

const WHY: Record<TooLarge, Finding['kind']> = {
  wide: 'stock-too-wide',
  deep: 'stock-too-deep',
  high: 'stock-too-high',
};

/** Boards with the facings on them, and the rows of those. */
interface Laid {
  boards: { shelf: Filled; facings: Facing[] }[];
  rows: Rows;
  leftOut: Map<string, number>;
}

/**
 * Works stock out: its boards, filled facing by facing, some of it taken away. Nothing throws for what the schema
 * admits; goods that fit on no board are named, and the rest stays.
 */
export function evaluateStock(stock: Stock, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, stock.id);
  const ids = propsOf(stock);
  const bounds = boundsOf(ids, context, say);
  const none = (): ArrangementResult => ({
    placements: allocatePlacements(0, ids),
    findings,
    facts: NO_FACTS,
    parts: [],
  });
  const boards = boardsToFill(stock, context, say);
  if (ids.length === 0) say('no-props', {});
  if (boards.length === 0) return none();
  const first = layAll(stock, boards, ids, bounds, null);
  const masks = facingMasks(stock, first.boards, context);
  const laid = masks ? layAll(stock, boards, ids, bounds, masks.of) : first;
  for (const [key, count] of laid.leftOut) {
    const [why, prop] = key.split(' ');
    say(WHY[why as TooLarge], { prop: ids[Number(prop)], count }, 'warning');
  }
  if (ids.length > 0 && laid.rows.count === 0 && laid.leftOut.size === 0) say('order-empty', {});
  const sites = sitesOf(stock, laid, ids, context, say);
  if (masks) sites.reads = maskPlacesOf(stock.id, masks.placesOf(laid.boards, laid.rows.count), context);
  const settled = settle(
    { ...stock, posing: { ...AS_IT_LIES, ...stock.stand }, gaps: wholeGaps(stock.gaps) },
    [sites],
    { ids, bounds },
    context,
    say,
  );
  return {
    placements: settled.placements,
    findings,
    facts: NO_FACTS,
    parts: [],
    stock: layoutOf(laid),
  };
}

/** One for all: what is laid in it is copied out before anything else is. */
const ROWS = new Rows();

function layAll(
  stock: Stock,
  boards: Filled[],
  ids: string[],
  bounds: (Bounds | undefined)[],
  masks: ((name: string) => FacingMasks) | null,
): Laid {
  const rows = ROWS;
  rows.count = 0;
  const measure = measurer(stock, ids, bounds);
  const leftOut = new Map<string, number>();
  const note = (prop: number, why: TooLarge) => {
    const key = `${why} ${prop}`;
    leftOut.set(key, (leftOut.get(key) ?? 0) + 1);
  };
  return {
    boards: boards.map((shelf) => ({
      shelf,
      facings: layFacings(stock, shelf, ids, measure, rows, masks, note),
    })),
    rows,
    leftOut,
  };
}

/** Every place of the facings as a site, with what is empty there, what is above it come down. */
function sitesOf(
  stock: Stock,
  { boards, rows }: Laid,
  ids: string[],
  context: ArrangeContext,
  say: Say,
): Sites {
  const n = rows.count;
  const sites = {
    slot: rows.slot.slice(0, n),
    prop: rows.prop.slice(0, n),
    s: new Float64Array(n),
    position: new Float64Array(n * 3),
    front: new Float64Array(n * 3),
    up: new Float64Array(n * 3),
    state: new Uint8Array(n),
    before: new Uint8Array(n),
  };
  for (const { shelf, facings } of boards)
    for (const f of facings) {
      const { frame } = f;
      const middle = (f.from + f.to) / 2;
      for (let i = f.start; i < f.end; i++) {
        sites.s[i] = middle;
        const o = i * 3;
        sites.front[o] = frame.out[0];
        sites.front[o + 1] = frame.out[1];
        sites.front[o + 2] = frame.out[2];
        sites.up[o] = frame.up[0];
        sites.up[o + 1] = frame.up[1];
        sites.up[o + 2] = frame.up[2];
      }
      takeAway(stock, f, shelf.part, shelf.board, rows, sites.before);
    }
  writePositions(stock, boards, rows, sites.position);
  const around = keepOutsAround(stock, context, (kind, detail) => say(kind, detail, 'warning'));
  const keptOut = keptOutAt(around, sites.position, sites.slot);
  markGaps(
    wholeGaps(stock.gaps),
    {
      id: sites.slot,
      isPause: (i) => sites.prop[i] < 0,
      isKeptOut: keptOut ?? (() => false),
      before: sites.before,
    },
    { seed: stock.seed, hand: decidedByHand(stock.hand) },
    sites.state,
  );
  if (settleDown(stock, boards, rows, sites.state)) writePositions(stock, boards, rows, sites.position);
  swapByHand(stock.hand, sites.slot, sites.prop, ids);
  return { ...sites, before: undefined, outward: 1, odd: () => false };
}

/** Writes the foot of every row. */
function writePositions({ filling }: Stock, boards: Laid['boards'], rows: Rows, out: Float64Array): void {
  for (const { shelf, facings } of boards)
    for (const { start, end, x0, frame } of facings) {
      const { origin: o, along, up, out: away } = frame;
      for (let i = start; i < end; i++) {
        const y = rows.y[i] + shelf.raised;
        const z = rows.z[i] - filling.setback;
        out[i * 3] = o[0] - along[0] * x0 + up[0] * y + away[0] * z;
        out[i * 3 + 1] = o[1] - along[1] * x0 + up[1] * y + away[1] * z;
        out[i * 3 + 2] = o[2] - along[2] * x0 + up[2] * y + away[2] * z;
      }
    }
}

function layoutOf({ boards, rows }: Laid): StockLayout {
  const box = new Float32Array(rows.count * 6);
  const facings: StockLayout['facings'] = [];
  boards.forEach(({ facings: list }, shelf) => {
    for (const f of list) {
      facings.push({
        name: f.name,
        shelf,
        prop: f.prop,
        x0: f.from,
        x1: f.to,
        start: f.start,
        end: f.end,
        deep: f.deep,
        high: f.high,
      });
      for (let i = f.start; i < f.end; i++) {
        const b = i * 6;
        const x = f.from - f.x0;
        box[b] = x + rows.box[b];
        box[b + 1] = x + rows.box[b + 1];
        box[b + 2] = rows.y[i] + rows.box[b + 2];
        box[b + 3] = rows.y[i] + rows.box[b + 3];
        box[b + 4] = rows.z[i] + rows.box[b + 4];
        box[b + 5] = rows.z[i] + rows.box[b + 5];
      }
    }
  });
  return {
    shelves: boards.map(({ shelf }) => {
      const { edge } = shelf;
      const { origin, up } = edge.frame(edge.length / 2, edge.length / 2);
      return {
        part: shelf.part,
        board: shelf.board,
        length: edge.length,
        depth: shelf.depth,
        height: shelf.height,
        at: origin.map((v, a) => v + up[a] * shelf.raised) as Vec3,
        closed: edge.closed,
      };
    }),
    facings,
    box,
  };
}
