import { plural } from '@/words/numbers';

/** Words about what the browser keeps. */

export const NOTHING_KEPT =
  'This browser keeps nothing for this page (its storage is blocked, or the window is private): scenes are gone when you close or reload it. Send the scene out as a .clothesline file to keep it.';

export const tornText = (steps: number): string =>
  steps > 0
    ? `The last ${plural(steps, 'change')} could not be read from the browser’s storage and ${steps === 1 ? 'is' : 'are'} not in the scene.`
    : '';
