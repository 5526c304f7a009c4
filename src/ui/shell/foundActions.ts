import type { Action } from './action';
import { ACTIONS } from './actions';

/**
 * The actions that a search finds, by our name for them and by the words that people have for them. Those whose name
 * has the words come first.
 */
export function foundActions(search: string): Action[] {
  const words = search.trim().toLowerCase().split(/\s+/);
  const has = (text: string) => words.every((w) => text.toLowerCase().includes(w));
  const others = ACTIONS.filter((a) => a.id !== 'commands');
  const byName = others.filter((a) => has(a.title));
  const found = [
    ...byName,
    ...others.filter((a) => !byName.includes(a) && has(`${a.title} ${a.words ?? ''}`)),
  ];
  // Of what was looked for, what can be done right now comes first.
  const can = (a: Action) => !a.enabled || a.enabled();
  return search.trim() ? [...found.filter(can), ...found.filter((a) => !can(a))] : found;
}
