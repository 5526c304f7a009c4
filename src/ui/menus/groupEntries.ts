import { groupNodes } from '@/store/commands/lists';
import { dispatch, useDocument } from '@/store/document';
import { nodesOf } from '@/store/commands/find';
import { selectedNodes } from '@/store/selection';
import type { MenuEntry } from '../controls/PlainMenu';
import { stepSelected } from '../lists/stepRows';
import { nameGroup } from '../uiState';

/** What can be done with the places that nodes have in their lists. */

/** A name that no group has. */
function freeGroup(): string {
  const taken = new Set(nodesOf(useDocument.getState().scene).map((n) => n.group));
  for (let k = 1; ; k++) if (!taken.has(`Group ${k}`)) return `Group ${k}`;
}

/** Gathers what is selected in a new group, whose name is asked for at once. */
export function groupSelected(ids: string[] = selectedNodes().map((n) => n.id)): void {
  const group = freeGroup();
  dispatch(groupNodes, { ids, group });
  nameGroup(group);
}

/** Of nodes that are selected: their groups and their order. */
export function inListEntries(ids: string[]): MenuEntry[] {
  const all = nodesOf(useDocument.getState().scene);
  const own = new Set(all.filter((n) => ids.includes(n.id)).map((n) => n.group));
  const others = [...new Set(all.map((n) => n.group))].filter(
    (g) => g !== undefined && !(own.size === 1 && own.has(g)),
  );
  return [
    { text: 'Move up', hint: 'Before its neighbour in the list', run: () => stepSelected(-1) },
    { text: 'Move down', hint: 'After its neighbour in the list', run: () => stepSelected(1) },
    {
      text: ids.length > 1 ? 'Group them' : 'Group',
      hint: 'Under one head in the lists, which folds and hides',
      run: () => groupSelected(ids),
    },
    ...others.map((group) => ({
      text: `Into “${group}”`,
      hint: 'Under that head in the lists',
      run: () => void dispatch(groupNodes, { ids, group: group! }),
    })),
    ...([...own].some((g) => g !== undefined)
      ? [
          {
            text: 'Out of the group',
            hint: 'By itself in the lists again',
            run: () => void dispatch(groupNodes, { ids, group: '' }),
          },
        ]
      : []),
  ];
}
