import type { ArrangementKind } from '../registry';
import { evaluateSheet } from './evaluate';
import { propsOf, type Sheet } from './schema';

/** The kind "sheet" as the registry lists it. */
export const sheetKind: ArrangementKind<Sheet> = {
  dependsOn: (sheet) => ({
    paths: [],
    props: propsOf(sheet),
    arrangements: [],
    surfaces: [sheet.surface],
  }),
  moves: () => false,
  evaluate: evaluateSheet,
};
