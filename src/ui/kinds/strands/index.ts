import { Cable } from 'lucide-react';
import type { Strands } from '@/core/arrange/strands/schema';
import { engine } from '@/store/engine';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { StrandsFlat } from './flat/StrandsFlat';
import { hangLinesOn } from './recipe/hangLinesOn';
import { StrandsRecipe } from './recipe/StrandsRecipe';

/** How many lines of one there are now. */
const count = (id: string) => engine().state.result.arrangements.get(id)?.lines?.slot.length ?? 0;

export const strandsUi = kindUi<Strands>({
  kind: 'strands',
  title: 'Strands',
  icon: Cable,
  Recipe: StrandsRecipe,
  well: 'Every line hangs from end to end.',
  Flat: StrandsFlat,
  detail: ({ id, from }, _, { arrangements }) =>
    `${plural(count(id), 'line')} from ${arrangements.find((a) => a.id === from.on)?.name ?? 'nothing'}`,
  holds: ({ id, props }) => (props.length === 0 ? plural(count(id), 'line') : null),
  onto: { text: 'Hang lines', run: hangLinesOn },
});
