import { pegCount } from '@/core/arrange/pegs/blocks';
import { Pin } from 'lucide-react';
import type { Pegs } from '@/core/arrange/pegs/schema';
import { chooseTool } from '@/view/viewState';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { PegsFlat } from './flat/PegsFlat';
import { PegOfSlot } from './recipe/PegFields';
import { PegsRecipe } from './recipe/PegsRecipe';

export const pegsUi = kindUi<Pegs>({
  kind: 'pegs',
  title: 'Pegs',
  icon: Pin,
  Recipe: PegsRecipe,
  well: 'Every peg stands where it was put.',
  Flat: PegsFlat,
  SlotFields: PegOfSlot,
  detail: ({ pegs }) => plural(pegCount(pegs), 'peg'),
  create: () => [{ text: 'Pegs, each put by a click', run: () => chooseTool('peg') }],
});
