import type { Shelf, Stock } from '@/core/arrange/stock/schema';
import type { StockLayout } from '@/core/arrange/result';
import type { Scene } from '@/core/scene/schema';
import { plural } from '@/words/numbers';

/** The steps of stock as short phrases. */

export function shelfName(shelf: Shelf, { paths, surfaces, arrangements }: Scene): string {
  if (shelf.from === 'path') return paths.find((p) => p.id === shelf.path)?.name ?? 'missing';
  if (shelf.from === 'surface') return surfaces.find((s) => s.id === shelf.surface)?.name ?? 'missing';
  return `${arrangements.find((a) => a.id === shelf.arrangement)?.name ?? 'missing'} #${shelf.slot}`;
}

export function shelvesPhrase({ shelves }: Stock, layout: StockLayout | undefined, scene: Scene): string {
  if (shelves.length === 0) return 'None yet';
  const more = shelves.length > 1 ? ` and ${shelves.length - 1} more` : '';
  const boards = layout?.shelves.length ?? 0;
  return `${shelfName(shelves[0], scene)}${more}, ${plural(boards, 'board')}`;
}

const percent = ([a, b]: readonly [number, number]) =>
  a === b
    ? `${Math.round(a * 100)}%`
    : `${Math.round(Math.min(a, b) * 100)}–${Math.round(Math.max(a, b) * 100)}%`;
const counts = ([a, b]: readonly [number, number]) =>
  a === b ? `${a}` : `${Math.min(a, b)}–${Math.max(a, b)}`;

export function fillingPhrase({ filling: f }: Stock): string {
  const deep =
    f.deepBy === 'fit'
      ? 'as deep'
      : f.deepBy === 'count'
        ? `${counts(f.deep)} deep`
        : `${percent(f.deepShare)} deep`;
  const high =
    f.highBy === 'fit'
      ? 'as high as fits'
      : f.highBy === 'count'
        ? `${counts(f.high)} high`
        : `${percent(f.highShare)} high`;
  return `${deep}${f.deepBy === 'fit' && f.highBy !== 'fit' ? ' as fits' : ''}, ${high}`.replace(
    'as deep, as high as fits',
    'As deep and high as fits',
  );
}

export function soldPhrase({ sold, byFacing }: Stock): string {
  const parts = [
    ...(sold.front.some((v) => v > 0) ? [`${percent(sold.front)} from the front`] : []),
    ...(sold.top.some((v) => v > 0) ? [`${percent(sold.top)} off the top`] : []),
    ...(sold.out > 0 ? [`${Math.round(sold.out * 100)}% sold out`] : []),
  ];
  const byHand = Object.values(byFacing).filter((f) => f.sold).length;
  if (byHand > 0) parts.push(`${plural(byHand, 'facing')} by hand`);
  return parts.join(', ') || 'Nothing';
}
