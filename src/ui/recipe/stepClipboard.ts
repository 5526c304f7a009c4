import { create } from 'zustand';
import type { Arrangement } from '@/core/arrange/registry';
import { pasteStep, resetStep, type CopiedStep, type Step } from '@/store/commands/arrangements';
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
  grid: 'Layout',
  match: 'Corner',
};

/** Copy, paste and reset for one block of settings. What is copied fits everything that has the same fields. */
export function useStepMenu(run: Arrangement, step: Step): MenuEntry[] {
  const copied = useCopied((s) => (s.copied?.step === step ? s.copied : null));
  return [
    {
      text: `Copy ${TITLES[step]}`,
      run: () => {
        useCopied.setState({
          copied: {
            step,
            settings: structuredClone((run as Partial<Record<Step, object>>)[step]),
          } as CopiedStep,
        });
        say(`${TITLES[step]} of “${run.name}” copied. Paste it into another recipe.`);
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
