import { useEffect } from 'react';
import { isTypingParts, typeParts } from '@/view/snap/snapState';
import { useView } from '@/view/viewState';
import { BESIDE, useUi } from '../uiState';
import { ACTIONS, drawing } from './actions';

const byKeys = new Map(ACTIONS.filter((a) => a.keys).map((a) => [a.keys!, a]));

/** The keys of an event as they are written in {@link ACTIONS}. */
function keysOf(e: KeyboardEvent): string {
  const key =
    e.key === 'Backspace'
      ? 'Delete'
      : e.code.startsWith('Digit')
        ? e.code.slice(5)
        : e.key === ' '
          ? 'Space'
          : e.key.length === 1
            ? e.key.toUpperCase()
            : e.key;
  // The character that it is, on whatever key that stands.
  if (e.key === '?') return '?';
  return `${e.shiftKey ? 'Shift+' : ''}${e.ctrlKey || e.metaKey ? 'Mod+' : ''}${e.altKey ? 'Alt+' : ''}${key}`;
}

const typing = (e: KeyboardEvent) => {
  const t = e.target as HTMLElement;
  return (
    t.closest(
      'input, textarea, select, [contenteditable], [role="menu"], [role="listbox"], [role="dialog"], [role="slider"]',
    ) !== null
  );
};

/** What text fields, and text that is marked, have of their own. */
const TEXT = new Set(['copy', 'cut', 'paste', 'all']);

/** Whether words on the page are marked; what is marked in a field that was left is not meant any more. */
const isTextMarked = (): boolean => getSelection()?.isCollapsed === false;

/** Keys that mean something of their own on a focused button or choice. */
const LOCAL = new Set(['Enter', 'Delete']);

/** A digit while a path is drawn or props are pegged: into how many parts every path is divided for snapping. */
function divides(e: KeyboardEvent): boolean {
  const { tool, drawing: now } = useView.getState();
  if (
    (tool !== 'draw' && tool !== 'peg') ||
    !/^[0-9]$/.test(e.key) ||
    e.ctrlKey ||
    e.metaKey ||
    e.altKey ||
    typing(e)
  )
    return false;
  // Before the first point, and while pegging, 1 and 2 are still the tools' keys, unless a number has been begun.
  const begun = (tool === 'draw' && now.points.length > 0) || isTypingParts();
  if (!begun && (e.key === '1' || e.key === '2')) return false;
  e.preventDefault();
  typeParts(e.key);
  return true;
}

/** Listens for the keys of all actions while nothing is typed into. */
export function useKeys(): void {
  useEffect(() => {
    const press = (e: KeyboardEvent) => {
      if (divides(e)) return;
      const action = byKeys.get(keysOf(e));
      const { dialog } = useUi.getState();
      if (!action || e.defaultPrevented || (dialog && !BESIDE.has(dialog))) return;
      const held = e.ctrlKey || e.metaKey;
      // A number field with nothing half typed has nothing of its own to undo.
      const clean = !(e.target as HTMLElement).matches(
        'input:not([data-clean="true"]), textarea, [contenteditable]',
      );
      const undoing = action.id === 'undo' || action.id === 'redo';
      if (TEXT.has(action.id) && (typing(e) || isTextMarked())) return;
      if (typing(e) && !(held && (clean || !undoing))) return;
      const onButton = (e.target as HTMLElement).closest(
        'button, a, [role="button"], [role="radio"], [role="switch"]',
      );
      if (action.id === 'play' && onButton) return;
      if (LOCAL.has(action.keys!) && onButton && action.id === 'finish' && !drawing()) return;
      if (action.enabled && !action.enabled()) return;
      e.preventDefault();
      action.run();
    };
    addEventListener('keydown', press);
    return () => removeEventListener('keydown', press);
  }, []);
}
