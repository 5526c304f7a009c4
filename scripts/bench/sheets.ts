import { sheetSchema } from '@/core/arrange/sheet/schema';
import { emptyScene, newProp, newSurface } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { changed, hilly } from './evaluator';
import { measure } from './reference';

let tick = 0;
/** Sheets of tiles whose left margin is dragged: round the tower, or over hills. */
const tiled = (grid: object, facing: object, over: 'tower' | 'hills' = 'tower'): Scene => ({
  ...emptyScene('Tiles'),
  props: [newProp('tile', 'Tile', { source: 'built', name: 'scallop-tile' })],
  surfaces: [
    over === 'tower'
      ? newSurface('s', 'S', { source: 'built', name: 'tower' })
      : { ...hilly(64, 64), id: 's' },
  ],
  arrangements: [
    sheetSchema.parse({
      id: 'sheet',
      kind: 'sheet',
      name: 'Sheet',
      thread: 'woad',
      surface: 's',
      order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'tile' } }] },
      grid: { ...grid, left: 0.01 + (tick++ % 50) / 1000 },
      facing,
    }),
  ],
});

await measure('sheets, a margin dragged', [
  ['10,000 rigid tiles round a tower', changed(() => tiled({ columns: 100, rows: 100 }, {}))],
  [
    '200 tiles bent to hills',
    changed(() => tiled({ columns: 20, rows: 10 }, { bend: true, size: 2 }, 'hills')),
  ],
]);
