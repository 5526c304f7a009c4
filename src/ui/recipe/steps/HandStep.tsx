'use client';

import { Lock, Undo2 } from 'lucide-react';
import { has, type With } from '@/core/arrange/registry';
import { parseSlotName } from '@/core/arrange/slotId';
import { clearBrushed } from '@/store/commands/brushed';
import { letGo } from '@/store/commands/hand';
import { dispatch, useDocument } from '@/store/document';
import { selectSlots, setHover } from '@/store/selection';
import { VirtualList } from '../../controls/VirtualList';
import { Button, IconButton } from '../../controls/Button';
import { plural } from '@/words/numbers';
import { correctionWords } from '../../words/correctionWords';
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
      <div className="max-h-64 overflow-y-auto">
        <VirtualList as="ul" space="li" label="Corrections by hand" count={names.length} height={28}>
          {(i) => {
            const name = names[i];
            return (
              <li
                key={name}
                className="flex items-center gap-1"
                onPointerEnter={() => setHover({ arrangement: run.id, slot: parseSlotName(name) })}
                onPointerLeave={() => setHover(null)}
              >
                <button
                  type="button"
                  onClick={() => selectSlots(run.id, [parseSlotName(name)])}
                  title="Takes it in hand"
                  className="flex min-w-0 flex-1 items-baseline gap-2 rounded-md px-1 py-1 text-left text-[12.5px] hover:bg-groove"
                >
                  <span className="num shrink-0">#{name}</span>
                  <span className="min-w-0 flex-1 truncate text-soft">
                    {correctionWords(run.hand[name], scene)}
                  </span>
                  {run.hand[name].lock && <Lock size={12} aria-label="locked" />}
                </button>
                <IconButton
                  name={`Let go of #${name}`}
                  onClick={() => dispatch(letGo, { id: run.id, names: [name] })}
                >
                  <Undo2 size={13} />
                </IconButton>
              </li>
            );
          }}
        </VirtualList>
      </div>
      <Button
        title="Takes every correction by hand back"
        className="!px-1.5 text-soft"
        onClick={() => dispatch(letGo, { id: run.id })}
      >
        Let go of all
      </Button>
    </>
  );
}
