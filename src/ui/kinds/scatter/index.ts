import { Sprout } from 'lucide-react';
import type { Scatter } from '@/core/arrange/scatter/schema';
import { kindUi } from '../kindUi';
import { ScatterFlat } from './flat/ScatterFlat';
import { newScatterEntries } from './newScatter';
import { ScatterRecipe } from './recipe/ScatterRecipe';
import { ScatterMarks } from './ScatterMarks';

export const scatterUi = kindUi<Scatter>({
  kind: 'scatter',
  title: 'Scatter',
  icon: Sprout,
  Recipe: ScatterRecipe,
  well: 'Every prop has its place.',
  Flat: ScatterFlat,
  Handles: ScatterMarks,
  create: newScatterEntries,
  // Places that wait for a first prop are no gaps.
  holds: ({ props }) => (props.length === 0 ? 'Places for props' : null),
});
