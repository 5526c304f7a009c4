import { Grid2x2 } from 'lucide-react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { propsOf } from '@/core/arrange/sheet/schema';
import { kindUi } from '../kindUi';
import { SheetFlat } from './flat/SheetFlat';
import { layOrnament, laySheet, newSheetEntries } from './newSheet';
import { linesPhrase } from './recipe/phrases';
import { SheetRecipe } from './recipe/SheetRecipe';
import { SheetMarks } from './SheetMarks';

export const sheetUi = kindUi<Sheet>({
  kind: 'sheet',
  title: 'Sheet',
  icon: Grid2x2,
  Recipe: SheetRecipe,
  well: 'Every prop lies whole on the surface.',
  Flat: SheetFlat,
  Handles: SheetMarks,
  // Places of a grid that only parts lines out are no gaps.
  holds: (sheet) => (sheet.curves.length > 0 && propsOf(sheet).length === 0 ? linesPhrase(sheet) : null),
  create: newSheetEntries,
  ontoSurface: [
    {
      text: 'Lay a sheet over it',
      short: 'Sheet of props',
      hint: 'Props in rows and columns all over it',
      words: 'tile cover cladding wrap pattern grid',
      run: (surface) => laySheet(surface),
    },
    {
      text: 'Lay one prop on it',
      short: 'One ornament',
      hint: 'One prop, as large as one likes, laid on it',
      words: 'decal single sticker',
      run: layOrnament,
    },
  ],
});
