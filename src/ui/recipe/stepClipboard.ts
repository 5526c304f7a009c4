import { create } from 'zustand';
import type { Run } from '@/core/arrange/run/schema';
import { pasteStep, resetStep, type CopiedStep, type Step } from '@/store/commands/runs';
import { dispatch } from '@/store/document';
import type { MenuEntry } from '../controls/PlainMenu';
import { say } from '../uiState';

/** The step that was copied last, to be pasted into other runs. It outlives the scene that is open. */
const useCopied = create<{ copied: CopiedStep | null }>(() => ({ copied: null }));

const TITLES: Record<Step, string> = {
  order: 'Props',
  spacing: 'Spacing',
  facing: 'Facing',
  ground: 'Ground',
  variation: 'Variation',
  gaps: 'Gaps',
  pulley: 'Pulley',
};

/** Copy, paste and reset for one step of a run. */
export function useStepMenu(run: Run, step: Step): MenuEntry[] {
  const copied = useCopied((s) => (s.copied?.step === step ? s.copied : null));
  return [
    {
      text: `Copy ${TITLES[step]}`,
      run: () => {
        useCopied.setState({ copied: { step, settings: structuredClone(run[step]) } as CopiedStep });
        say(`${TITLES[step]} of “${run.name}” copied. Paste it into another run.`);
      },
    },
    ...(copied
      ? [{ text: `Paste ${TITLES[step]}`, run: () => dispatch(pasteStep, { id: run.id, copied }) }]
      : []),
    ...(step !== 'order'
      ? [{ text: `Reset ${TITLES[step]}`, run: () => dispatch(resetStep, { id: run.id, step }) }]
      : []),
  ];
}
