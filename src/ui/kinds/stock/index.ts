import { Warehouse } from 'lucide-react';
import type { Stock } from '@/core/arrange/stock/schema';
import { engine } from '@/store/engine';
import { plural, whole } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { StockFlat } from './flat/StockFlat';
import { newStockEntries, stockBoards, stockEdge, stockRack } from './newStock';
import { StockRecipe } from './recipe/StockRecipe';

export const stockUi = kindUi<Stock>({
  kind: 'stock',
  title: 'Stock',
  icon: Warehouse,
  Recipe: StockRecipe,
  well: 'Everything stands on its board.',
  Flat: StockFlat,
  detail({ id }, placed) {
    const layout = engine().state.result.arrangements.get(id)?.stock;
    return `${whole(placed)} in ${plural(layout?.facings.length ?? 0, 'facing')}`;
  },
  holds: ({ order }) => (order.entries.length === 0 ? 'Shelves for goods' : null),
  create: newStockEntries,
  ontoPath: {
    text: 'Stock it as a front edge',
    words: 'shelf goods fill rack facing retail store planogram',
    run: stockEdge,
  },
  ontoSurface: [
    {
      text: 'Stock its boards',
      short: 'Stock its boards',
      hint: 'Its level faces filled with goods, one over the other',
      words: 'shelf goods fill rack facing store planogram',
      run: stockRack,
    },
  ],
  onto: { text: 'Stock its boards', run: stockBoards },
});
