import type { MenuEntry } from '../controls/PlainMenu';
import { dustSheetOver, inOrder, networkOfPaths, solidOf } from './make';

/** What can be made from some surfaces and arrangements, for their menus. */
export const gatherEntries = (ids: readonly string[]): MenuEntry[] =>
  ids.length === 0
    ? []
    : [
        {
          text: 'Join to a solid',
          hint: 'One closed mesh that follows what it is made of; an arrangement alone goes with what it stands on',
          run: () => solidOf(inOrder(ids), 'join'),
        },
        {
          text: ids.length > 1 ? 'Cut out of the first' : 'Cut out of a solid',
          hint: 'A solid of the first without the others; an arrangement alone is cut out of what it stands on',
          run: () => solidOf(inOrder(ids), 'cut'),
        },
        {
          text: 'Dust sheet over it',
          hint: 'A surface let down from above',
          run: () => void dustSheetOver(inOrder(ids)),
        },
      ];

/** A network of some paths, for their menus. */
export const networkEntries = (paths: readonly string[]): MenuEntry[] =>
  paths.length === 0
    ? []
    : [
        {
          text: 'Make a network of it',
          hint: 'Tubes along paths as one closed solid, joined where they meet',
          run: () => networkOfPaths(paths),
        },
      ];
