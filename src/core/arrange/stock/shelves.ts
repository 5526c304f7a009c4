import type { ArrangeContext } from '../context';
import type { Say } from '../say';
import { boardBehind } from './boardBehind';
import { pathEdge, type Edge } from './edge';
import { rackBoards } from './rack';
import type { Shelf, ShelfLevel, Stock } from './schema';

/** A board to be filled. */
export interface Filled {
  part: number;
  /** Which board of that shelf. */
  board: number;
  edge: Edge;
  depth: number;
  /** Infinity where nothing is above. */
  height: number;
  /** Metres over the edge at which its face lies: of levels over the same edge. */
  raised: number;
  /** Ids of the entries that go there; none: all. */
  goods: readonly string[];
}

/** A shelf holds at most so many boards: more have no number of their own. */
const MOST_BOARDS = 256;

/** The boards that stock fills, in the order of its shelves; what is wrong with them is said. */
export function boardsToFill(stock: Stock, context: ArrangeContext, say: Say): Filled[] {
  if (stock.shelves.length === 0) say('stock-nothing', {});
  return stock.shelves.flatMap((shelf) => {
    const found = shelf.from === 'path' ? alongPath(shelf, context, say) : onRack(shelf, context, say);
    if (found.length > MOST_BOARDS) say('stock-too-many', { count: found.length, most: MOST_BOARDS });
    return found.slice(0, MOST_BOARDS).filter((f) => sound(f, shelf, say));
  });
}

/** Whether there is room at all; if not, that is said. */
function sound({ depth, height, board }: Filled, shelf: Shelf, say: Say): boolean {
  const where = { ...of(shelf), board: board + 1 };
  if (!(depth > 0)) say(shelf.depth === 0 ? 'stock-no-depth' : 'stock-no-board', where);
  else if (!(height > 0)) say('stock-no-height', where);
  else return true;
  return false;
}

/** What a shelf is made from, for a sentence. */
const of = (shelf: Shelf): Record<string, string> =>
  shelf.from === 'path'
    ? { path: shelf.path }
    : shelf.from === 'surface'
      ? { surface: shelf.surface }
      : { arrangement: shelf.arrangement };

const LEVEL: ShelfLevel = { height: null, board: 0.03, goods: [], empty: false };

function alongPath(shelf: Extract<Shelf, { from: 'path' }>, context: ArrangeContext, say: Say): Filled[] {
  const compiled = context.path(shelf.path);
  if (!compiled?.ok) {
    say('shelf-missing', of(shelf));
    return [];
  }
  const levels = shelf.levels.length > 0 ? shelf.levels : [LEVEL];
  const asks = shelf.depth === null || levels.some((l) => l.height === null);
  const meshes = asks
    ? (context.grounds?.() ?? []).map((id) => context.surface?.(id)).filter((m) => m !== undefined)
    : [];
  return compiled.strokes.flatMap((stroke, k) => {
    const edge = pathEdge(stroke, shelf.behind === 'right');
    const behind = asks ? boardBehind(edge, meshes) : { depth: 0, height: Infinity };
    let raised = 0;
    return levels.flatMap((level, l): Filled[] => {
      // Only the highest may reach up to what is found.
      const height = level.height ?? behind.height - raised;
      const made = {
        part: shelf.part,
        board: k * levels.length + l,
        edge,
        depth: shelf.depth ?? behind.depth,
        height,
        raised,
        goods: level.goods,
      };
      raised += (Number.isFinite(height) ? height : 0) + level.board;
      return level.empty ? [] : [made];
    });
  });
}

function onRack(shelf: Exclude<Shelf, { from: 'path' }>, context: ArrangeContext, say: Say): Filled[] {
  const boards = rackBoards(shelf, context);
  if (!boards) say('shelf-missing', of(shelf));
  else if (boards.length === 0) say('stock-no-boards', of(shelf));
  return (boards ?? []).flatMap(({ edge, depth, height }, board): Filled[] => {
    const level = shelf.levels[board] ?? LEVEL;
    if (level.empty) return [];
    return [
      {
        part: shelf.part,
        board,
        edge,
        depth: Math.min(shelf.depth ?? Infinity, depth),
        height: Math.min(level.height ?? Infinity, height),
        raised: 0,
        goods: level.goods,
      },
    ];
  });
}
