import { allPegs, pegCount } from '@/core/arrange/pegs/blocks';
import { Pin } from 'lucide-react';
import { pegNumber, type Pegs } from '@/core/arrange/pegs/schema';
import { chooseTool } from '@/view/viewState';
import { plural } from '@/words/numbers';
import { kindUi } from '../kindUi';
import { PegsFlat } from './flat/PegsFlat';
import { PegOfSlot } from './recipe/PegFields';
import { align, array, distribute, pinPegs, standingNow } from './recipe/pegMoves';
import { PegsRecipe } from './recipe/PegsRecipe';

/** The pegs of some slots, as they stand. */
function chosen(a: Pegs, slots: readonly number[]) {
  const wanted = new Set(slots);
  return standingNow(
    a,
    allPegs(a.pegs).filter((p) => wanted.has(pegNumber(p.id))),
  );
}

export const pegsUi = kindUi<Pegs>({
  kind: 'pegs',
  title: 'Pegs',
  icon: Pin,
  Recipe: PegsRecipe,
  well: 'Every peg stands where it was put.',
  Flat: PegsFlat,
  SlotFields: PegOfSlot,
  duplicateSlots: (a, slots, by) => void array(a, chosen(a, slots), 1, [by, 0, 0]),
  slotActions: [
    {
      title: 'Distribute the pegs evenly',
      words: 'space equal spread',
      least: 3,
      run: (a, slots) => void distribute(a, chosen(a, slots)),
    },
    ...(['X', 'Y', 'Z'] as const).map((axis, k) => ({
      title: `Align the pegs along ${axis}`,
      words: 'line up straighten row',
      least: 2,
      run: (a: Pegs, slots: readonly number[]) => void align(a, chosen(a, slots), k as 0 | 1 | 2),
    })),
    {
      title: 'Pin the pegs to the nearest surface',
      words: 'snap stick attach',
      least: 1,
      run: (a, slots) => void pinPegs(a, chosen(a, slots), 'nearest'),
    },
    {
      title: 'Land the pegs straight down',
      words: 'drop ground gravity put down',
      least: 1,
      run: (a, slots) => void pinPegs(a, chosen(a, slots), 'down'),
    },
  ],
  detail: ({ pegs }) => plural(pegCount(pegs), 'peg'),
  create: () => [{ text: 'Pegs, each put by a click', run: () => chooseTool('peg') }],
});
