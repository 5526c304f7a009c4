import { useMemo } from 'react';
import { create } from 'zustand';
import type { Arrangement } from '@/core/arrange/registry';
import { pasteStep, resetStep, type CopiedStep, type Step } from '@/store/commands/arrangements';
import { dispatch } from '@/store/document';
import type { MenuEntry } from '../controls/PlainMenu';
import { say } from '../uiState';

/** The step that was copied last, to be pasted into other runs. It outlives the scene that is open. */
const useCopied = create<{ copied: CopiedStep | null }>(() => ({ copied: null }));

/** What the steps of a recipe are called. */
export const STEP_TITLES: Record<Step, string> = {
  order: 'Props',
  spacing: 'Spacing',
  facing: 'Facing',
  ground: 'Ground',
  variation: 'Variation',
  gaps: 'Gaps',
  pulley: 'Pulley',
  grid: 'Layout',
  match: 'Corner',
  spread: 'Spread',
  stand: 'Facing',
  filling: 'Filling',
  sold: 'Taken',
};

/** Copy, paste and reset for one block of settings. What is copied fits everything that has the same fields. */
export function useStepMenu(run: Arrangement, step: Step): MenuEntry[] {
  const copied = useCopied((s) => (s.copied?.step === step ? s.copied : null));
  return useMemo(
    () => [
      {
        text: `Copy ${STEP_TITLES[step]}`,
        run: () => {
          useCopied.setState({
            copied: {
              step,
              settings: structuredClone((run as Partial<Record<Step, object>>)[step]),
            } as CopiedStep,
          });
          say(`${STEP_TITLES[step]} of “${run.name}” copied. Paste it into another recipe.`);
        },
      },
      ...(copied
        ? [{ text: `Paste ${STEP_TITLES[step]}`, run: () => dispatch(pasteStep, { id: run.id, copied }) }]
        : []),
      ...(step !== 'order'
        ? [{ text: `Reset ${STEP_TITLES[step]}`, run: () => dispatch(resetStep, { id: run.id, step }) }]
        : []),
    ],
    [run, step, copied],
  );
}
