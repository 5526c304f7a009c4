import { Layers2 } from 'lucide-react';
import type { Riders } from '@/core/arrange/riders/schema';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { RidersFlat } from './flat/RidersFlat';
import { addRidersOn } from './recipe/addRidersOn';
import { RidersRecipe } from './recipe/RidersRecipe';

export const ridersUi = kindUi<Riders>({
  kind: 'riders',
  title: 'Riders',
  icon: Layers2,
  Recipe: RidersRecipe,
  well: 'Every rider has its leader.',
  Flat: RidersFlat,
  detail: (riders, placed, { arrangements }) =>
    `${plural(placed, 'rider')} on ${arrangements.find((a) => a.id === riders.on)?.name ?? 'nothing'}`,
  onto: { text: 'Add riders', run: addRidersOn },
});
