import { Spline } from 'lucide-react';
import type { Run } from '@/core/arrange/run/schema';
import { addRun } from '@/store/commands/runs';
import { dispatch } from '@/store/document';
import { selectArrangement } from '@/store/selection';
import { editedPath } from '@/view/edited';
import { kindUi } from '../kindUi';
import { RunFlat } from './flat/RunFlat';
import { RunRecipe } from './recipe/RunRecipe';
import { SlotHandles } from './SlotHandles';

export const runUi = kindUi<Run>({
  kind: 'run',
  title: 'Run',
  icon: Spline,
  Recipe: RunRecipe,
  well: 'Nothing is missing.',
  Flat: RunFlat,
  Handles: SlotHandles,
  create: ({ paths }) => [
    {
      text: 'Run along a path',
      run: () => {
        const made = dispatch(addRun, { prop: null, path: editedPath()?.id ?? paths[0]?.id ?? null });
        if (made) selectArrangement(made);
      },
    },
  ],
});
