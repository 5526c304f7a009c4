import { create } from 'zustand';
import type { AnimationRange, SendFormat } from '@/engine/service';
import { setHour } from '@/view/light';

export type DialogName =
  | 'bring-in'
  | 'send-out'
  | 'commands'
  | 'library'
  | 'line-up'
  | 'seeds'
  | 'on-top'
  | 'checks'
  | 'costs'
  | 'light'
  | 'viewpoints'
  | 'materials'
  | 'still'
  | 'ask'
  | 'help'
  | null;
/** Beside these the scene is worked on. */
export const BESIDE: ReadonlySet<DialogName> = new Set<DialogName>([
  'checks',
  'costs',
  'ask',
  'light',
  'viewpoints',
  'materials',
  'still',
]);
/** The last choices in the dialog for sending out, so that sending again is one click. */
export interface SendChoices {
  kind: SendFormat['kind'];
  props: 'instanced' | 'nodes';
  surfaces: boolean;
  /** Snap points go along in a .glb. */
  snaps: boolean;
  /** Lights put in by hand and viewpoints go along in a .glb. */
  lights: boolean;
  gaps: boolean;
  /** The axis that is up in files for printers, and in others of whole meshes. */
  upPrint: 'y' | 'z';
  upObj: 'y' | 'z';
  /** The .glb as an animation, over this stretch of time; null: that of the time bar. */
  animated: boolean;
  range: AnimationRange | null;
  /** Just what is selected. */
  only: boolean;
}

/** What can be folded away beside the scene. */
export type Fold = 'contents' | 'recipe' | 'flat';
export const FOLDS: { id: Fold; name: string; words: string }[] = [
  { id: 'contents', name: 'the lists', words: 'outliner left basket sidebar' },
  { id: 'recipe', name: 'the recipe', words: 'right settings properties sidebar' },
  { id: 'flat', name: 'the flat view', words: 'bottom timeline layout' },
];

export type Theme = 'day' | 'dusk';

/** What the interface itself remembers; none of it is part of the scene. */
export interface UiState {
  dialog: DialogName;
  /** A file that waits for the dialog that takes it. */
  file: File | null;
  openSteps: Record<string, boolean>;
  folded: Record<Fold, boolean>;
  /** Groups of the lists of which only the head is shown. */
  foldedGroups: readonly string[];
  /** The group whose name is being changed. */
  namedGroup: string | null;
  /** The flat view is given half of the window. */
  tallFlat: boolean;
  theme: Theme;
  send: SendChoices;
  notice: { text: string; kind: 'plain' | 'problem' } | null;
}

export const useUi = create<UiState>(() => ({
  dialog: null,
  file: null,
  openSteps: { spacing: true },
  folded: { contents: false, recipe: false, flat: false },
  foldedGroups: [],
  namedGroup: null,
  tallFlat: false,
  theme: 'day',
  send: {
    kind: 'glb',
    props: 'instanced',
    surfaces: true,
    snaps: false,
    lights: false,
    gaps: false,
    upPrint: 'z',
    upObj: 'y',
    animated: false,
    range: null,
    only: false,
  },
  notice: null,
}));

export const openDialog = (dialog: DialogName, file: File | null = null): void =>
  useUi.setState({ dialog, file });
/** Opens the dialog for sending out, for what is selected alone or for all. */
export const sendOnly = (only: boolean): void =>
  useUi.setState((s) => ({ dialog: 'send-out', file: null, send: { ...s.send, only } }));
export const toggleStep = (step: string): void =>
  useUi.setState((s) => ({ openSteps: { ...s.openSteps, [step]: !s.openSteps[step] } }));
export const foldPanel = (id: Fold, folded: boolean): void =>
  useUi.setState((s) => (s.folded[id] === folded ? s : { folded: { ...s.folded, [id]: folded } }));
export const foldGroup = (group: string, folded: boolean): void =>
  useUi.setState((s) => ({
    foldedGroups: folded ? [...s.foldedGroups, group] : s.foldedGroups.filter((g) => g !== group),
  }));
export const nameGroup = (namedGroup: string | null): void => useUi.setState({ namedGroup });
export const setTallFlat = (tallFlat: boolean): void => useUi.setState({ tallFlat });
export const say = (text: string, kind: 'plain' | 'problem' = 'plain'): void =>
  useUi.setState({ notice: { text, kind } });

export function setTheme(theme: Theme): void {
  useUi.setState({ theme });
  setHour(theme);
  document.documentElement.dataset.theme = theme;
  try {
    localStorage.setItem('theme', theme);
  } catch {
    // Where the browser keeps nothing, the theme lasts as long as the page.
  }
}

export function readTheme(): void {
  const theme = document.documentElement.dataset.theme;
  if (theme !== 'dusk') return;
  useUi.setState({ theme });
  setHour(theme);
}
