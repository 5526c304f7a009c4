import type { Arrangement } from '@/core/arrange/registry';
import type { KindUi } from './kindUi';
import { pegsUi } from './pegs';
import { ridersUi } from './riders';
import { runUi } from './run';
import { scatterUi } from './scatter';
import { sheetUi } from './sheet';
import { spansUi } from './spans';
import { stockUi } from './stock';
import { strandsUi } from './strands';

/** The interface of every kind of arrangement. A further one is a folder beside these, and its line here. */
export const KIND_UIS: readonly KindUi[] = [
  runUi,
  scatterUi,
  pegsUi,
  sheetUi,
  ridersUi,
  spansUi,
  strandsUi,
  stockUi,
];

const byKind = new Map(KIND_UIS.map((ui) => [ui.kind, ui]));

/** What the interface shows of an arrangement. */
export const uiOf = (a: Arrangement): KindUi => byKind.get(a.kind)!;
