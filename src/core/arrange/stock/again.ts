import { COLUMNS } from '../columns';
import type { ArrangementResult, Finding, Placements, StockFacing, StockLayout } from '../result';
import { parseSlotName, slotParts } from '../slotId';
import type { LaidBoard } from './lay';
import type { Stock } from './schema';
import type { Filled } from './shelves';

/**
 * Stock of which a hand has changed some facings or units: the boards of those are filled again, and the rows of all
 * others are what they were.
 */

/** What is kept of stock beside its result. */
interface Kept {
  found: { boards: Filled[]; said: Finding[] };
  boards: LaidBoard[];
}
const KEPT = new WeakMap<StockLayout, Kept>();

/** Keeps what the next result may be made from. */
export const keepForNext = (layout: StockLayout, kept: Kept): void => void KEPT.set(layout, kept);

/** Whether what becomes of a board is its own matter: nothing counts over all of them, or looks at what is around. */
export const eachBoardAlone = ({ gaps, variation, hand }: Stock): boolean =>
  gaps.chance === 0 &&
  gaps.taken.share === 0 &&
  gaps.keepOuts.length === 0 &&
  !variation.mask &&
  !variation.sizeMask &&
  Object.values(hand).every((h) => !h.lock);

/** Fields that are looked at facing by facing, or not at all. */
const BY_HAND: ReadonlySet<keyof Stock> = new Set(['byFacing', 'hand', 'within', 'onTop']);

/** What is to be done again. */
export interface Again extends Kept {
  /** Whether a board is, one a board. */
  changed: boolean[];
}

/**
 * @param before the stock as it was and what it came to, all that it stands on being the same
 * @returns undefined where it has to be worked out whole
 */
export function startAgain(
  { node, result }: { node: Stock; result: ArrangementResult },
  stock: Stock,
  ids: readonly string[],
): Again | undefined {
  const kept = result.stock && KEPT.get(result.stock);
  if (!kept || !eachBoardAlone(stock)) return undefined;
  const { props } = result.placements;
  if (props.length !== ids.length || props.some((id, i) => id !== ids[i])) return undefined;
  for (const field of Object.keys(stock) as (keyof Stock)[])
    if (!BY_HAND.has(field) && stock[field] !== node[field]) return undefined;
  const touched = new Set<string>();
  for (const [was, now] of [
    [node.byFacing, stock.byFacing],
    [node.hand, stock.hand],
  ])
    for (const name of namesOfOthers(was, now)) {
      const { part, stroke } = slotParts(parseSlotName(name));
      touched.add(`${part} ${stroke}`);
    }
  return { ...kept, changed: kept.boards.map(({ shelf }) => touched.has(`${shelf.part} ${shelf.board}`)) };
}

/** Names under which two records hold something else. */
function namesOfOthers(was: Record<string, unknown>, now: Record<string, unknown>): string[] {
  if (was === now) return [];
  const gone = Object.keys(was).filter((name) => !(name in now));
  return [...gone, ...Object.keys(now).filter((name) => was[name] !== now[name])];
}

/** A run of rows that is taken over, and from where. */
interface Piece {
  from: 'old' | 'new';
  start: number;
  end: number;
}

type Column = Float64Array | Float32Array | Int32Array | Uint8Array;

/** Puts boards that are filled again among those that stay. @param part the boards of `again`, in their order */
export function spliced(
  { placements: old, stock: layout }: ArrangementResult,
  { boards: kept, changed }: Again,
  part: { placements: Placements; boards: LaidBoard[]; stock: StockLayout },
): typeof part {
  const pieces: Piece[] = [];
  const facings: StockFacing[] = [];
  const boards: LaidBoard[] = [];
  const doneAgain = part.boards.values();
  // Facings stand in the order of their boards, in either layout.
  let [oldAt, newAt, rows] = [0, 0, 0];
  kept.forEach((was, shelf) => {
    const board = changed[shelf] ? doneAgain.next().value! : was;
    boards.push(board);
    const count = board.facings.length;
    const own = changed[shelf]
      ? part.stock.facings.slice(newAt, newAt + count)
      : layout!.facings.slice(oldAt, oldAt + count);
    oldAt += was.facings.length;
    if (changed[shelf]) newAt += count;
    if (count === 0) return;
    const [start, end] = [own[0].start, own[count - 1].end];
    pieces.push({ from: changed[shelf] ? 'new' : 'old', start, end });
    const by = rows - start;
    for (const f of own) {
      const stays = by === 0 && f.shelf === shelf;
      facings.push(stays ? f : { ...f, shelf, start: f.start + by, end: f.end + by });
    }
    rows += end - start;
  });
  const put = <C extends Column>(a: C | undefined, b: C | undefined, size: number): C | undefined => {
    const made = a ?? b;
    if (!made) return undefined;
    const out = new (made.constructor as new (n: number) => C)(rows * size);
    let to = 0;
    for (const { from, start, end } of pieces) {
      const source = from === 'old' ? a : b;
      if (source) out.set(source.subarray(start * size, end * size), to);
      to += (end - start) * size;
    }
    return out;
  };
  const placements = { ...part.placements, count: rows };
  for (const [name, size] of [...COLUMNS, ['tint', 3] as const]) {
    const column = put<Column>(old[name], part.placements[name], size);
    if (column) Object.assign(placements, { [name]: column });
  }
  return {
    placements,
    boards,
    stock: { shelves: layout!.shelves, facings, box: put(layout!.box, part.stock.box, 6)! },
  };
}
