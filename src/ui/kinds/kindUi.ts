import type { ComponentType } from 'react';
import type { Arrangement } from '@/core/arrange/registry';
import type { Scene } from '@/core/scene/schema';
import type { MenuEntry } from '../controls/PlainMenu';

/** Everything that the interface shows of one kind of arrangement. */
export interface KindUi<A extends Arrangement = Arrangement> {
  kind: A['kind'];
  /** What people call it: "Run". */
  title: string;
  icon: ComponentType<{ size?: number; className?: string }>;
  /** The steps of its recipe. The head above them and the checks below them are the same for every kind. */
  Recipe: ComponentType<{ arrangement: A }>;
  /** What the checks say where there is nothing to look at. */
  well: string;
  /** The flat view. */
  Flat: ComponentType<{ arrangement: A }>;
  /** Over the scene while it is selected: its handles and marks. */
  Handles?: ComponentType<{ arrangement: A }>;
  /** Fields of its own for a single selected slot, in the panel beside that. */
  SlotFields?: ComponentType<{ arrangement: A; slot: number; className?: string }>;
  /** What is said of it above its recipe, where "12 placed · 3 gaps" does not say it. */
  detail?(arrangement: A, placed: number, scene: Scene): string;
  /** What it holds where that is no props, such as lines; null where it holds some. */
  holds?(arrangement: A): string | null;
  /** Ways to make one, for the menu of the list. */
  create?(scene: Scene): MenuEntry[];
  /** Copies some of its slots, beside them, and selects the copies; absent where single ones cannot be copied. */
  duplicateSlots?(arrangement: A, slots: readonly number[], by: number): void;
  /** What is done with several of its slots at once, for the list of commands. */
  slotActions?: {
    title: string;
    words: string;
    least: number;
    run(arrangement: A, slots: readonly number[]): void;
  }[];
  /** Makes one on a path, for the menus of those and the list of commands. */
  ontoPath?: { text: string; words: string; run: (path: string) => void };
  /** Ways to make one on a surface, for its panel and menu, and for the list of commands. */
  ontoSurface?: {
    text: string;
    short: string;
    hint: string;
    words: string;
    run: (surface: string) => void;
  }[];
  /** Makes one that stands on another arrangement, for the menus of those. */
  onto?: { text: string; run: (on: string) => void };
}

/** Gives an entry the type of its kind, and hands it on as one for any. */
export const kindUi = <A extends Arrangement>(entry: KindUi<A>): KindUi => entry as unknown as KindUi;
