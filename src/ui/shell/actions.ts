import { useEffect } from 'react';
import { removePath, removePoints, reversePath } from '@/store/commands/paths';
import { setSlotsRemoved, removeArrangement } from '@/store/commands/arrangements';
import { removeProp } from '@/store/commands/scene';
import { removeSurface } from '@/store/commands/surfaces';
import { dispatch, redo, undo, useDocument } from '@/store/document';
import { kindOf } from '@/core/arrange/registry';
import { hasPoints } from '@/core/curve/schema';
import { selectPoints, stepBack, useSelection } from '@/store/selection';
import { play, rewind, useClock } from '@/store/clock';
import { drawStepBack, enoughDrawn, finishDrawing } from '@/view/drawTool';
import { editedPath } from '@/view/edited';
import { setSnap, typeParts, useSnap, isTypingParts } from '@/view/snap/snapState';
import { layOrnament, laySheet } from '../kinds/sheet/newSheet';
import { addShape, SHAPES } from '../lists/newPath';
import { addShapedSurface, SURFACE_SHAPES } from '../lists/newSurface';
import { askFit, chooseTool, setMode, useView } from '@/view/viewState';
import { openDialog, setTheme, useUi } from '../uiState';
import { duplicateSelected } from './duplicate';

/** Everything that can be done by name or key. The list of commands (Mod+K) shows these. */
export interface Action {
  id: string;
  title: string;
  /** As shown, e.g. "Mod+Z". */
  keys?: string;
  enabled?: () => boolean;
  run: () => void;
}

const node = () => useSelection.getState().node;
const doc = () => useDocument.getState();

/** Deletes what is selected: points first, then slots (removed by hand), then the node itself. */
function removeSelected(): void {
  const { points, slots } = useSelection.getState();
  if (points) return void dispatch(removePoints, { path: points.path, ids: points.ids });
  if (slots) {
    const { arrangement: id, ids } = slots;
    const found = doc().scene.arrangements.find((a) => a.id === id);
    if (!found || !kindOf(found).removeSlots) return undefined;
    return void dispatch(setSlotsRemoved, { id, slots: ids, removed: true });
  }
  const n = node();
  if (n?.kind === 'arrangement') dispatch(removeArrangement, { id: n.id });
  if (n?.kind === 'path') dispatch(removePath, { id: n.id });
  if (n?.kind === 'surface') dispatch(removeSurface, { id: n.id });
  if (n?.kind === 'prop') dispatch(removeProp, { id: n.id });
}

function stepOut(): void {
  const { tool } = useView.getState();
  if (tool === 'draw') drawStepBack();
  else if (tool === 'edge' || tool === 'peg' || tool === 'hold') chooseTool('pick');
  else stepBack();
}

/** The selected path, if it has its own points. */
const pathInHand = () => {
  const n = node();
  const path = n?.kind === 'path' ? doc().scene.paths.find((p) => p.id === n.id) : undefined;
  return hasPoints(path) ? path : undefined;
};

const drawing = () => useView.getState().tool === 'draw' && enoughDrawn();

export const ACTIONS: Action[] = [
  { id: 'undo', title: 'Undo', keys: 'Mod+Z', enabled: () => doc().past.length > 0, run: undo },
  { id: 'redo', title: 'Redo', keys: 'Shift+Mod+Z', enabled: () => doc().future.length > 0, run: redo },
  { id: 'pick', title: 'Pick', keys: '1', run: () => chooseTool('pick') },
  { id: 'draw', title: 'Draw path', keys: '2', run: () => chooseTool('draw') },
  {
    id: 'peg',
    title: 'Peg props onto surfaces, paths and the ground',
    keys: '3',
    run: () => chooseTool('peg'),
  },
  {
    id: 'finish',
    title: 'Finish the path',
    keys: 'Enter',
    enabled: drawing,
    run: () => finishDrawing(false),
  },
  {
    id: 'finish-closed',
    title: 'Finish the path as a loop',
    enabled: drawing,
    run: () => finishDrawing(true),
  },
  { id: 'fit', title: 'Fit the view', keys: 'Home', run: askFit },
  { id: 'free', title: 'Free view', keys: 'Alt+1', run: () => setMode('free') },
  { id: 'top', title: 'View from the top', keys: 'Alt+2', run: () => setMode('top') },
  { id: 'front', title: 'View from the front', keys: 'Alt+3', run: () => setMode('front') },
  { id: 'side', title: 'View from the side', keys: 'Alt+4', run: () => setMode('side') },
  { id: 'library', title: 'Add props from the library', run: () => openDialog('library') },
  { id: 'bring-in', title: 'Bring in a file', keys: 'Mod+I', run: () => openDialog('bring-in') },
  { id: 'send-out', title: 'Send out', keys: 'Mod+E', run: () => openDialog('send-out') },
  {
    id: 'duplicate',
    title: 'Duplicate',
    keys: 'Mod+D',
    enabled: () => node()?.kind === 'arrangement' || node()?.kind === 'path',
    run: duplicateSelected,
  },
  {
    id: 'reverse',
    title: 'Reverse the path',
    enabled: () => pathInHand() !== undefined,
    run: () => dispatch(reversePath, { id: pathInHand()!.id }),
  },
  {
    id: 'delete',
    title: 'Delete what is selected',
    keys: 'Delete',
    enabled: () => node() !== null,
    run: removeSelected,
  },
  { id: 'snap', title: 'Snapping on or off', keys: '5', run: () => setSnap({ on: !useSnap.getState().on }) },
  {
    id: 'play',
    title: 'Play or stop',
    keys: 'Space',
    run: () => play(!useClock.getState().playing),
  },
  { id: 'rewind', title: 'Back to the beginning', run: rewind },
  {
    id: 'all-points',
    title: 'Select all points of the path',
    keys: 'Mod+A',
    enabled: () => hasPoints(editedPath()),
    run: () => {
      const path = editedPath();
      if (hasPoints(path))
        selectPoints(
          path.id,
          path.source.points.map((p) => p.id),
        );
    },
  },
  ...SHAPES.map(({ shape, text }): Action => ({
    id: `add-${shape}`,
    title: `New path: ${text.toLowerCase()}`,
    run: () => addShape(shape),
  })),
  ...SURFACE_SHAPES.map((shape): Action => ({
    id: `make-${shape.shape}`,
    title: `New surface: ${shape.text.toLowerCase()}`,
    run: () => addShapedSurface(shape),
  })),
  {
    id: 'sheet',
    title: 'Lay a sheet over the surface',
    enabled: () => node()?.kind === 'surface',
    run: () => laySheet(node()!.id),
  },
  {
    id: 'ornament',
    title: 'Lay one prop on the surface',
    enabled: () => node()?.kind === 'surface',
    run: () => layOrnament(node()!.id),
  },
  { id: 'edge', title: 'New path: edge loop of a surface', run: () => chooseTool('edge') },
  {
    id: 'seeds',
    title: 'Compare seeds',
    enabled: () => node()?.kind === 'arrangement',
    run: () => openDialog('seeds'),
  },
  { id: 'escape', title: 'One step back', keys: 'Escape', run: stepOut },
  {
    id: 'dusk',
    title: 'Dusk or day',
    run: () => setTheme(useUi.getState().theme === 'day' ? 'dusk' : 'day'),
  },
  { id: 'commands', title: 'All commands', keys: 'Mod+K', run: () => openDialog('commands') },
];

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
      if (!action || e.defaultPrevented || useUi.getState().dialog) return;
      const held = e.ctrlKey || e.metaKey;
      // A number field with nothing half typed has nothing of its own to undo.
      const clean = !(e.target as HTMLElement).matches(
        'input:not([data-clean="true"]), textarea, [contenteditable]',
      );
      const undoing = action.id === 'undo' || action.id === 'redo';
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
