import { Grid2x2 } from 'lucide-react';
import type { Sheet } from '@/core/arrange/sheet/schema';
import { propsOf } from '@/core/arrange/sheet/schema';
import { kindUi } from '../kindUi';
import { SheetFlat } from './flat/SheetFlat';
import { newSheetEntries } from './newSheet';
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
});
