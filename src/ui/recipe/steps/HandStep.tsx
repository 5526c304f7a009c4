'use client';

import { has, type With } from '@/core/arrange/registry';
import { parseSlotName } from '@/core/arrange/slotId';
import { clearBrushed } from '@/store/commands/brushed';
import { letGo } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { selectSlots, setHover } from '@/store/selection';
import { Button } from '../../controls/Button';
import { plural } from '@/words/numbers';
import { correctionWords } from '../../words/correctionWords';
import { CorrectionList } from '../CorrectionList';
import type { StepProps } from './stepProps';

/** What the brush did to what stands there, to be taken back. */
function Brushed({ arrangement: { id, brushed } }: { arrangement: With<'brushed'> }) {
  const combs = brushed.filter((s) => s.does === 'comb' || s.does === 'uncomb').length;
  const sorts = [
    { what: 'turn', count: combs, text: 'Combed by', title: 'They face as their heading says again' },
    {
      what: 'prop',
      count: brushed.length - combs,
      text: 'Props by',
      title: 'What was drawn stands there again',
    },
  ] as const;
  return sorts.map(
    ({ what, count, text, title }) =>
      count > 0 && (
        <p key={what} className="flex items-center justify-between gap-2 text-[12.5px]">
          {text} {plural(count, 'stroke')} of the brush
          <Button
            title={title}
            className="!px-1.5 text-soft"
            onClick={() => dispatch(clearBrushed, { id, what })}
          >
            Take back
          </Button>
        </p>
      ),
  );
}

/** Every slot that a hand corrected, with what it did. Each can be let go, or all at once. */
export function HandStep({ arrangement: run }: StepProps<'hand'>) {
  const scene = useDocument((s) => s.scene);
  const names = Object.keys(run.hand).sort((a, b) => parseSlotName(a) - parseSlotName(b));
  if (names.length === 0) {
    if (has(run, 'brushed') && run.brushed.length > 0) return <Brushed arrangement={run} />;
    return (
      <p className="text-[12.5px] text-soft">
        Nothing yet. Click a prop in the scene to nudge, swap or lock it; in the flat view a click removes it
        and a drag nudges it. What is done by hand stays through every change of the recipe.
      </p>
    );
  }
  return (
    <>
      {has(run, 'brushed') && <Brushed arrangement={run} />}
      <CorrectionList
        label="Corrections by hand"
        count={names.length}
        line={(i) => {
          const name = names[i];
          const slot = parseSlotName(name);
          return {
            name,
            said: correctionWords(run.hand[name], scene),
            locked: run.hand[name].lock !== undefined,
            onTake: () => selectSlots(run.id, [slot]),
            onLetGo: () => dispatch(letGo, { id: run.id, names: [name] }),
            onHover: (over) => setHover(over ? { arrangement: run.id, slot } : null),
          };
        }}
        hint="Takes every correction by hand back"
        onLetGoOfAll={() => dispatch(letGo, { id: run.id })}
      />
    </>
  );
}
