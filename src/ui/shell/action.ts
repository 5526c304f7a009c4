/** Something that can be done by name or key. */
export interface Action {
  id: string;
  title: string;
  /** What people call it besides, for the search. */
  words?: string;
  /** As shown, e.g. "Mod+Z". */
  keys?: string;
  enabled?: () => boolean;
  run: () => void;
}
