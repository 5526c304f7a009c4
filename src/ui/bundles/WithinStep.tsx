'use client';

import { Undo2 } from 'lucide-react';
import type { Arrangement } from '@/core/arrange/registry';
import { parseSlotName } from '@/core/arrange/slotId';
import { correctWithin, letGoWithin, wayName } from '@/store/commands/within';
import { dispatch, useDocument } from '@/store/document';
import { selectWithin } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { plural } from '@/words/numbers';
import { Button, IconButton } from '../controls/Button';
import { VirtualList } from '../controls/VirtualList';
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
      <div className="max-h-64 overflow-y-auto">
        <VirtualList as="ul" space="li" label="Corrections within copies" count={within.length} height={28}>
          {(i) => {
            const { way, hand } = within[i];
            const name = wayName(way);
            return (
              <li key={name} className="flex items-center gap-1">
                <button
                  type="button"
                  onClick={() => selectWithin(a.id, parseSlotName(way[0].slot), way.slice(1))}
                  title="Takes it in hand"
                  className="flex min-w-0 flex-1 items-baseline gap-2 rounded-md px-1 py-1 text-left text-[12.5px] hover:bg-groove"
                >
                  <span className="num shrink-0">#{name}</span>
                  <span className="min-w-0 flex-1 truncate text-soft">{correctionWords(hand, scene)}</span>
                </button>
                <IconButton
                  name={`Let go of #${name}`}
                  onClick={() => dispatch(correctWithin, { way, values: null })}
                >
                  <Undo2 size={13} />
                </IconButton>
              </li>
            );
          }}
        </VirtualList>
      </div>
      <Button
        title="Takes every correction within copies back"
        className="!px-1.5 text-soft"
        onClick={() => dispatch(letGoWithin, { id: a.id })}
      >
        Let go of all
      </Button>
    </Step>
  );
}
