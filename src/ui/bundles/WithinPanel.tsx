'use client';

import { ChevronLeft, ChevronRight, CornerLeftUp, PackageOpen, Undo2 } from 'lucide-react';
import { rowAtWay } from '@/core/arrange/inside';
import type { WithinCorrection } from '@/core/arrange/steps/withinSchema';
import { correctedAt, correctWithin, wayName, type WithinValues } from '@/store/commands/within';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { stepBack, type SelectedSlots } from '@/store/selection';
import { IconButton } from '../controls/Button';
import { NumberBox } from '../controls/NumberField';
import { DARK, LIGHT, waysOf } from '../shell/slotPanelLook';
import { SwapMenu } from '../shell/SwapMenu';
import { goInto, goOn, wholeWay } from './within';

/** The dark panel of one thing within a copy of a bundle: what is done to it is done in this copy alone. */
export function WithinPanel({ slots, at }: { slots: SelectedSlots; at: { left: number; top: number } }) {
  const result = useEngine((s) => s.result.arrangements.get(slots.arrangement));
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const a = scene.arrangements.find((x) => x.id === slots.arrangement);
  const way = wholeWay(slots);
  const { inside, placements } = result ?? {};
  const row =
    inside && placements ? rowAtWay(inside, placements.slot.indexOf(slots.ids[0]), slots.within!) : -1;
  const member = scene.arrangements.find((x) => x.id === way.at(-1)!.arrangement);
  if (!a || !member || !inside || row < 0) return null;
  const prop = scene.props.find((p) => p.id === inside.props[inside.prop[row]]);
  const hand = correctedAt(a, way);
  const set = (values: WithinValues | null, key?: string) => dispatch(correctWithin, { way, values }, key);
  const [on, beside] = waysOf(member);
  const number = (
    label: string,
    prefix: string,
    field: Exclude<keyof WithinCorrection, 'removed' | 'prop'>,
    more: object,
    rest = 0,
  ) => (
    <NumberBox
      label={label}
      prefix={prefix}
      {...more}
      value={hand[field] ?? rest}
      className={DARK}
      onChange={(v, key) => v !== null && set({ [field]: v }, key)}
    />
  );
  const length = { dimension: 'length', unit: scene.units, step: 0.05 };
  return (
    <div
      role="group"
      aria-label="Selected within a copy"
      className="absolute z-10 w-[292px] rounded-lg bg-ink-900 p-1.5 text-[13px] text-linen-50 shadow-xl"
      style={at}
    >
      <p className="flex items-baseline gap-2 px-1.5" title="What is done here is done in this copy alone">
        <span className="num max-w-[60%] truncate">#{wayName(way)}</span>
        <span className="min-w-0 flex-1 truncate text-linen-300">{prop?.name}</span>
      </p>
      <div className="mt-0.5 flex items-center gap-0.5">
        <IconButton name="The one before" className={LIGHT} onClick={() => goOn(slots, row, -1)}>
          <ChevronLeft size={14} />
        </IconButton>
        <IconButton name="The next one" className={LIGHT} onClick={() => goOn(slots, row, 1)}>
          <ChevronRight size={14} />
        </IconButton>
        {inside.bundle[row] === 1 && (
          <IconButton name="Into it" className={LIGHT} onClick={() => goInto(slots, row)}>
            <PackageOpen size={14} />
          </IconButton>
        )}
        <IconButton name="One step out" keys="Esc" className={LIGHT} onClick={stepBack}>
          <CornerLeftUp size={14} />
        </IconButton>
        {!readOnly && (
          <>
            <SwapMenu asBefore="As in all copies" onSwap={(to) => void set({ prop: to ?? undefined })} />
            {Object.keys(hand).length > 0 && (
              <IconButton name="Let go" className={LIGHT} onClick={() => set(null)}>
                <Undo2 size={14} />
              </IconButton>
            )}
            <button
              type="button"
              title="Its place in this copy stays empty, through every later change"
              className="ml-auto rounded-md bg-ink-700 px-2 py-1 text-[12.5px] hover:bg-ink-500"
              onClick={() => {
                set({ removed: true });
                stepBack();
              }}
            >
              Remove
            </button>
          </>
        )}
      </div>
      {!readOnly && (
        <div className="mt-1.5 grid grid-cols-3 gap-1">
          {number('Nudge along', on, 'along', length)}
          {number('Nudge side', beside, 'side', length)}
          {number('Nudge lift', 'Lift', 'lift', length)}
          {number('Nudge turn', 'Turn', 'turnDeg', { dimension: 'angle', step: 5 })}
          {number('Nudge size', 'Size', 'size', { dimension: 'percent', step: 0.05, min: 0.01 }, 1)}
        </div>
      )}
    </div>
  );
}
