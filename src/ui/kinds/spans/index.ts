import { Waypoints } from 'lucide-react';
import type { Spans } from '@/core/arrange/spans/schema';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { SpansFlat } from './flat/SpansFlat';
import { addSpansOn } from './recipe/addSpansOn';
import { SpansRecipe } from './recipe/SpansRecipe';

export const spansUi = kindUi<Spans>({
  kind: 'spans',
  title: 'Spans',
  icon: Waypoints,
  Recipe: SpansRecipe,
  well: 'Every member reaches from post to post.',
  Flat: SpansFlat,
  detail: (spans, placed, { arrangements }) =>
    `${plural(placed, 'member')} between ${arrangements.find((a) => a.id === spans.on)?.name ?? 'nothing'}`,
  onto: { text: 'Add spans', run: addSpansOn },
});
