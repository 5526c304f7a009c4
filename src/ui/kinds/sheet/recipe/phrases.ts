import type { Sheet } from '@/core/arrange/sheet/schema';
import type { SheetLayout } from '@/core/arrange/result';
import type { Scene } from '@/core/scene/schema';
import { gapsPhrase, propsPhrase } from '../../../words/phrases';
import { metres, plural } from '@/words/numbers';

/** What the steps of a sheet say when they are closed. */

export function propsIn(sheet: Sheet, scene: Scene): string {
  const { order, items } = sheet;
  if (order.entries.length > 0 || items.length === 0) return propsPhrase(sheet, scene);
  const names = items.map((i) => scene.props.find((p) => p.id === i.prop)?.name ?? 'missing');
  return [...new Set(names)].join(', ');
}

export function surfacePhrase(sheet: Sheet, scene: Scene): string {
  const name = scene.surfaces.find((s) => s.id === sheet.surface)?.name ?? 'Missing';
  return `${name}, ${sheet.over.kind === 'uv' ? 'by its uv' : 'from a flat frame'}`;
}

export function layoutPhrase(sheet: Sheet, layout: SheetLayout | null, scene: Scene): string {
  const { grid, items } = sheet;
  const free = items.length > 0 ? plural(items.length, 'free item') : '';
  if (!grid.on) return free || 'Empty';
  const size = layout
    ? `${metres(layout.width, scene.units, 1)} × ${metres(layout.height, scene.units, 1)}`
    : '';
  const by = `${grid.columns ?? 'auto'} × ${grid.rows ?? 'auto'}`;
  return [by, size, free].filter(Boolean).join(', ');
}

export function standsPhrase({ facing }: Sheet): string {
  const turn = facing.turnDeg !== 0 ? `, turned ${facing.turnDeg}°` : '';
  return `${facing.bend ? 'Bent to it' : 'Keeps its shape'}${turn}`;
}

export function restsPhrase({ grid, gaps }: Sheet): string {
  const skips = [grid.skipRows && 'rows', grid.skipColumns && 'columns', grid.skipCells && 'places'].filter(
    Boolean,
  );
  const others = gapsPhrase({ gaps });
  return (
    [skips.length ? `Skips ${skips.join(', ')}` : '', others === 'None' ? '' : others]
      .filter(Boolean)
      .join(', ') || 'None'
  );
}

export const linesPhrase = ({ curves, repeat }: Sheet): string =>
  curves.length === 0 ? 'None' : `${plural(curves.length, 'line')}${repeat ? ' in every cell' : ''}`;
