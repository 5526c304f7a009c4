'use client';

import { Plus, X } from 'lucide-react';
import { addKeepOut, removeKeepOut, setKeepOut, setSlotsRemoved, setStep } from '@/store/commands/runs';
import { parseSlotName } from '@/core/arrange/slotId';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Button, IconButton } from '../../controls/Button';
import { NumberBox, NumberField } from '../../controls/NumberField';
import { plural } from '../../words/numbers';
import { RenameField } from '../RenameField';
import type { StepProps } from './RunRecipe';

export function GapsStep({ run }: StepProps) {
  const unit = useDocument((s) => s.scene.units);
  const length = useEngine((s) => s.result.arrangements.get(run.id)?.parts[0]?.length ?? 0);
  const hand = Object.keys(run.hand);
  const box = { dimension: 'length' as const, unit, step: 0.1 };
  return (
    <>
      <NumberField
        label="Chance"
        hint="How many of a hundred slots are left empty"
        dimension="percent"
        step={0.01}
        min={0}
        max={1}
        value={run.gaps.chance}
        reset={0}
        onChange={(v, key) =>
          dispatch(
            setStep,
            { id: run.id, step: 'gaps', values: { chance: Math.min(1, Math.max(0, v ?? 0)) } },
            key,
          )
        }
      />
      <div className="mt-1 flex items-center justify-between">
        <span className="text-sm">Keep-outs</span>
        <IconButton
          name="Add a keep-out"
          onClick={() => dispatch(addKeepOut, { id: run.id, from: length * 0.4, to: length * 0.6 })}
        >
          <Plus size={15} />
        </IconButton>
      </div>
      {run.gaps.keepOuts.map((k) => (
        <div key={k.id} className="mb-1.5 rounded-md border border-edge bg-paper p-1.5">
          <div className="flex items-center [&_input]:!text-[13px] [&_input]:!font-sans">
            <RenameField
              name={k.name}
              label="Name of the keep-out"
              onRename={(name) => dispatch(setKeepOut, { id: run.id, keepOut: k.id, values: { name } })}
            />
            <IconButton
              name={`Remove ${k.name}`}
              onClick={() => dispatch(removeKeepOut, { id: run.id, keepOut: k.id })}
            >
              <X size={14} />
            </IconButton>
          </div>
          <div className="flex items-center gap-1.5">
            <NumberBox
              {...box}
              label={`${k.name} from`}
              value={k.from}
              onChange={(v, key) =>
                v !== null && dispatch(setKeepOut, { id: run.id, keepOut: k.id, values: { from: v } }, key)
              }
              className="flex-1"
            />
            <span className="text-xs text-soft">to</span>
            <NumberBox
              {...box}
              label={`${k.name} to`}
              value={k.to}
              onChange={(v, key) =>
                v !== null && dispatch(setKeepOut, { id: run.id, keepOut: k.id, values: { to: v } }, key)
              }
              className="flex-1"
            />
          </div>
        </div>
      ))}
      {hand.length > 0 && (
        <div className="mt-1 flex items-center justify-between text-sm">
          <span>{plural(hand.length, 'slot')} by hand</span>
          <Button
            className="!px-1.5 text-soft"
            onClick={() => {
              for (const removed of [true, false]) {
                const slots = hand.filter((name) => run.hand[name].removed === removed).map(parseSlotName);
                if (slots.length) dispatch(setSlotsRemoved, { id: run.id, slots, removed: !removed });
              }
            }}
          >
            Let go
          </Button>
        </div>
      )}
    </>
  );
}
