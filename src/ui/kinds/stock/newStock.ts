import { STATE } from '@/core/arrange/result';
import { slotName } from '@/core/arrange/slotId';
import type { Scene } from '@/core/scene/schema';
import { addStock, type GivenShelf } from '@/store/commands/stock';
import { dispatch } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, useSelection } from '@/store/selection';
import type { MenuEntry } from '../../controls/PlainMenu';
import { openDialog, say } from '../../uiState';

/** New stock: along a front edge, on the boards of a surface, on those of a placed prop. */

/** Fills a shelf with the props in hand; with none the recipe asks for some. */
function stock(shelf: GivenShelf): void {
  const props = selectedNodes().flatMap((n) => (n.kind === 'prop' ? [n.id] : []));
  const made = dispatch(addStock, { shelf, props });
  if (made) selectArrangement(made);
}

export const stockEdge = (path: string): void => stock({ from: 'path', path });

export const stockRack = (surface: string): void => stock({ from: 'surface', surface });

/** The boards of the placed prop in hand, or of the first one that an arrangement has placed. */
export function stockBoards(on: string): void {
  const p = engine().state.result.arrangements.get(on)?.placements;
  const { slots } = useSelection.getState();
  const chosen = slots?.arrangement === on ? slots.ids[0] : undefined;
  const row = p ? p.state.indexOf(STATE.placed) : -1;
  const slot = chosen ?? (row >= 0 ? p!.slot[row] : undefined);
  if (slot === undefined) return void say('Nothing is placed there yet whose boards could be filled.');
  stock({ from: 'prop', arrangement: on, slot: slotName(slot) });
}

export function newStockEntries({ surfaces, paths }: Scene): MenuEntry[] {
  if (surfaces.length === 0 && paths.length === 0)
    return [{ text: 'Stock: draw a front edge, or bring in a rack', run: () => openDialog('library') }];
  const entries = [
    ...surfaces.map((s) => ({
      text: `On the boards of ${s.name}`,
      hint: 'Its level faces, one over the other',
      run: () => stockRack(s.id),
    })),
    ...paths.map((p) => ({
      text: `With the front edge ${p.name}`,
      hint: 'The front edge of a board',
      run: () => stockEdge(p.id),
    })),
  ];
  return entries.map((entry, i) => ({ ...entry, ...(i === 0 && { under: 'Stock on shelves' }) }));
}
