'use client';

import type { Arrangement } from '@/core/arrange/registry';
import { pasteStepInto, type CopiedStep, type Step } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import { Button } from '../controls/Button';
import { STEP_TITLES } from './stepClipboard';

const stepsOf = (a: Arrangement): Step[] => (Object.keys(STEP_TITLES) as Step[]).filter((step) => step in a);

/** Gives several arrangements the settings of the one that is in hand, a step of the recipe at a time. */
export function SetAlike({ leader, others }: { leader: Arrangement; others: readonly Arrangement[] }) {
  const shared = stepsOf(leader).filter((step) => others.every((a) => step in a));
  if (shared.length === 0) return null;
  const set = (step: Step) =>
    dispatch(pasteStepInto, {
      ids: others.filter((a) => a.id !== leader.id).map((a) => a.id),
      copied: {
        step,
        settings: structuredClone((leader as Partial<Record<Step, object>>)[step]),
      } as CopiedStep,
    });
  return (
    <section aria-label="Set together">
      <p className="text-[13px] text-soft">As “{leader.name}” has it, for all:</p>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {shared.map((step) => (
          <Button
            key={step}
            look="bordered"
            title={`Gives all of them the ${STEP_TITLES[step]} of “${leader.name}”`}
            onClick={() => set(step)}
          >
            {STEP_TITLES[step]}
          </Button>
        ))}
      </div>
    </section>
  );
}
