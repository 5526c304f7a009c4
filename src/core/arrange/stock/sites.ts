import type { ArrangeContext } from '../context';
import type { Say } from '../say';
import type { Sites } from '../sites';
import { swapByHand } from '../steps/byHand';
import { decidedByHand, markGaps } from '../steps/gaps';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import type { Rows } from './facing';
import type { LaidBoard } from './lay';
import type { Stock } from './schema';
import { settleDown } from './settleDown';
import { takeAway } from './sold';

/** Every place of the facings as a site, with what is empty there, what is above it come down. */
export function sitesOf(
  stock: Stock,
  boards: readonly LaidBoard[],
  rows: Rows,
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
function writePositions(
  { filling }: Stock,
  boards: readonly LaidBoard[],
  rows: Rows,
  out: Float64Array,
): void {
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
