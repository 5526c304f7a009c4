'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { parseSlotName } from '@/core/arrange/slotId';
import { correctWithin, letGoWithin, wayName } from '@/store/commands/within';
import { dispatch, useDocument } from '@/store/document';
import { selectWithin } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { plural } from '@/words/numbers';
import { CorrectionList } from '../recipe/CorrectionList';
import { Step } from '../recipe/Step';
import { correctionWords } from '../words/correctionWords';

/** What a hand corrected within single copies of bundles. Each can be let go, or all at once. */
export function WithinStep({ arrangement: a }: { arrangement: Arrangement }) {
  const scene = useDocument((s) => s.scene);
  const { within } = a;
  if (!within) return null;
  return (
    <Step
      name="within"
      title="Within copies"
      phrase={plural(within.length, 'correction')}
      color={THREAD_COLORS[a.thread]}
    >
      <CorrectionList
        label="Corrections within copies"
        count={within.length}
        line={(i) => {
          const { way, hand } = within[i];
          return {
            name: wayName(way),
            said: correctionWords(hand, scene),
            onTake: () => selectWithin(a.id, parseSlotName(way[0].slot), way.slice(1)),
            onLetGo: () => dispatch(correctWithin, { way, values: null }),
          };
        }}
        hint="Takes every correction within copies back"
        onLetGoOfAll={() => dispatch(letGoWithin, { id: a.id })}
      />
    </Step>
  );
}
