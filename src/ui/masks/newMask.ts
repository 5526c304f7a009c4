import type { Scene } from '@/core/scene/schema';
import { addMask } from '@/store/commands/masks';
import { dispatch } from '@/store/document';
import { selectNode } from '@/store/selection';
import type { MenuEntry } from '../controls/PlainMenu';
import { maskStarts } from './starts';

/** Ways to begin a mask, for the menu of the list: it is in hand then. */
export const newMaskEntries = (scene: Scene): MenuEntry[] =>
  maskStarts(scene).map(({ text, hint, layers }) => ({
    text,
    hint,
    run: () => {
      const made = dispatch(addMask, { name: text, layers });
      if (made) selectNode('mask', made);
    },
  }));
