import { canTravel } from '@/core/arrange/registry';
import { reversePaths } from '@/store/commands/paths';
import { groupNodes } from '@/store/commands/lists';
import { showAs, showNodes, showOnly } from '@/store/commands/nodes';
import { alignPoints, beginAt, insertMidway } from '@/store/commands/pathEdits';
import { letGoOfPoints } from '@/store/commands/hanging';
import { setScene } from '@/store/commands/scene';
import { dispatch, redo, undo, useDocument } from '@/store/document';
import type { Arrangement } from '@/core/arrange/registry';
import { hasPoints } from '@/core/curve/schema';
import { selectedNodes, stepBack, useSelection } from '@/store/selection';
import { play, rewind, useClock } from '@/store/clock';
import { drawStepBack, enoughDrawn, finishDrawing } from '@/view/drawTool';
import { shownPointsOf } from '@/view/onSurface';
import { setSnap, useSnap } from '@/view/snap/snapState';
import { addShape, SHAPES } from '../lists/newPath';
import { stepSelected } from '../lists/stepRows';
import { groupSelected } from '../menus/groupEntries';
import { addShapedSurface, SURFACE_SHAPES } from '../lists/newSurface';
import { saveNow } from '@/store/keeping/keeper';
import { measureStepBack } from '@/view/measure/measureTool';
import { resizeBrush, strengthenBrush } from '@/view/masks/paintTool';
import { askFit, chooseTool, setMode, useView, setDevelops } from '@/view/viewState';
import { goingWith, hangProp } from '../basket/hang';
import { makeLine } from '../basket/makeLine';
import { bundlable, bundle, canBundle, closeBundle } from '../bundles/making';
import { KIND_UIS } from '../kinds/registry';
import { clipsOf } from '../recipe/clipsOf';
import { letPlay } from '../recipe/letPlay';
import { letTravel } from '../recipe/letTravel';
import { letFall } from '../recipe/letFall';
import { goToStep, hasStep, STEP_WORDS } from '../recipe/goToStep';
import { renameSelected } from '../recipe/renameSelected';
import { foldPanel, FOLDS, openDialog, say, sendOnly, setTheme, useUi } from '../uiState';
import type { Action } from './action';
import { makeItLoop } from './makeItLoop';
import { PICTURE_ACTIONS } from './pictureActions';
import { SOLID_ACTIONS } from './solidActions';
import { STAMP_ACTIONS } from './stampActions';
import { removeSelected } from './removeSelected';
import { copySelected, cutSelected, pasteCopied } from './clipboard';
import { selectAll } from './selectAll';
import { duplicateSelected } from './duplicate';
import { lookAtSelected } from '@/view/places';

/** Everything that can be done by name or key. The list of commands (Mod+K) shows these. */

const node = () => useSelection.getState().node;
const doc = () => useDocument.getState();
const selectedIds = () => selectedNodes().map((n) => n.id);
const arrangementsInHand = () => selectedNodes().flatMap((n) => (n.kind === 'arrangement' ? [n.id] : []));
/** The arrangement in hand, if its props bring animations along. */
const moving = () =>
  doc().scene.arrangements.find(
    (a) => node()?.kind === 'arrangement' && a.id === node()!.id && clipsOf(a, doc().scene).length > 0,
  );
/** The arrangement in hand, if it can travel. */
const travelling = () =>
  doc().scene.arrangements.find((a) => node()?.kind === 'arrangement' && a.id === node()!.id && canTravel(a));
const seen = () => selectedNodes().filter((n) => n.kind !== 'prop');

function hideOrShow(): void {
  const ids = selectedIds();
  const { arrangements, paths, surfaces } = doc().scene;
  const found = [...arrangements, ...paths, ...surfaces].filter((n) => ids.includes(n.id));
  dispatch(showNodes, { ids, visible: !found.some((n) => n.visible) });
}

const leaveFrame = () => useView.setState({ viewpoint: null });

function stepOut(): void {
  const { tool } = useView.getState();
  if (tool === 'draw') drawStepBack();
  else if (tool === 'measure') {
    if (!measureStepBack()) chooseTool('pick');
  } else if (tool !== 'pick') chooseTool('pick');
  // The last thing that is left is the frame of a viewpoint.
  else if (useView.getState().viewpoint !== null && !useSelection.getState().node) leaveFrame();
  else stepBack();
}

/** The selected path, if it has its own points. */
const pathInHand = () => {
  const n = node();
  const path = n?.kind === 'path' ? doc().scene.paths.find((p) => p.id === n.id) : undefined;
  return hasPoints(path) ? path : undefined;
};

/** The selected path, whatever it is made from. */
const anyPathInHand = (): string | null => {
  const n = node();
  return n?.kind === 'path' ? n.id : null;
};
const pointsInHand = () => useSelection.getState().points;
/** For what is enabled only where there are some. */
const pointsOf = () => pointsInHand()!;

/** The points in hand that are connected to something. */
function connectedInHand() {
  const hand = pointsInHand();
  const path = hand ? doc().scene.paths.find((p) => p.id === hand.path) : undefined;
  return hasPoints(path) ? path.source.points.filter((p) => p.tie && hand!.ids.includes(p.id)) : [];
}

function letConnectedGo(): void {
  const { path } = pointsOf();
  const now = new Map(shownPointsOf(path).map((p) => [p.id, p.position]));
  const at = Object.fromEntries(connectedInHand().map((p) => [p.id, now.get(p.id) ?? p.position]));
  dispatch(letGoOfPoints, { path, at });
}

/** The selected slots of an arrangement of a kind, if there are so many. */
function slotsOf(kind: string, least: number): { a: Arrangement; ids: readonly number[] } | null {
  const { slots } = useSelection.getState();
  const a = slots && doc().scene.arrangements.find((one) => one.id === slots.arrangement);
  return a?.kind === kind && slots!.ids.length >= least ? { a, ids: slots!.ids } : null;
}

export const drawing = () => useView.getState().tool === 'draw' && enoughDrawn();

export const ACTIONS: Action[] = [
  {
    id: 'undo',
    title: 'Undo',
    words: 'back revert take back',
    keys: 'Mod+Z',
    enabled: () => doc().past.length > 0,
    run: undo,
  },
  {
    id: 'redo',
    title: 'Redo',
    words: 'again repeat forward',
    keys: 'Shift+Mod+Z',
    enabled: () => doc().future.length > 0,
    run: redo,
  },
  {
    id: 'pick',
    title: 'Pick',
    words: 'select choose pointer arrow',
    keys: '1',
    run: () => chooseTool('pick'),
  },
  {
    id: 'draw',
    title: 'Draw path',
    words: 'pen spline curve line create polyline',
    keys: '2',
    run: () => chooseTool('draw'),
  },
  {
    id: 'peg',
    title: 'Peg props onto surfaces, paths and the ground',
    words: 'pin place stick single attach scatter by hand',
    keys: '3',
    run: () => chooseTool('peg'),
  },
  {
    id: 'paint',
    title: 'Paint where props stand',
    words: 'brush mask density erase weight spray',
    keys: '4',
    run: () => chooseTool('paint'),
  },
  {
    id: 'measure',
    title: 'Measure',
    words: 'ruler distance length angle size height dimension tape protractor',
    keys: '6',
    run: () => chooseTool('measure'),
  },
  {
    id: 'brush-smaller',
    title: 'Smaller brush',
    words: 'paint radius size less',
    keys: ',',
    enabled: () => useView.getState().tool === 'paint',
    run: () => resizeBrush(-1),
  },
  {
    id: 'brush-larger',
    title: 'Larger brush',
    words: 'paint radius size more',
    keys: '.',
    enabled: () => useView.getState().tool === 'paint',
    run: () => resizeBrush(1),
  },
  {
    id: 'brush-weaker',
    title: 'Weaker brush',
    words: 'paint strength pressure less',
    keys: 'Alt+,',
    enabled: () => useView.getState().tool === 'paint',
    run: () => strengthenBrush(-1),
  },
  {
    id: 'brush-stronger',
    title: 'Stronger brush',
    words: 'paint strength pressure more',
    keys: 'Alt+.',
    enabled: () => useView.getState().tool === 'paint',
    run: () => strengthenBrush(1),
  },
  {
    id: 'finish',
    title: 'Finish the path',
    words: 'done end complete confirm',
    keys: 'Enter',
    enabled: drawing,
    run: () => finishDrawing(false),
  },
  {
    id: 'finish-closed',
    title: 'Finish the path as a loop',
    words: 'close ring done',
    enabled: drawing,
    run: () => finishDrawing(true),
  },
  {
    id: 'fit',
    title: 'Fit the view',
    words: 'zoom all frame everything home centre',
    keys: 'Home',
    run: askFit,
  },
  {
    id: 'free',
    title: 'Free view',
    words: 'perspective orbit camera',
    keys: 'Alt+1',
    run: () => setMode('free'),
  },
  {
    id: 'top',
    title: 'View from the top',
    words: 'plan camera orthographic above',
    keys: 'Alt+2',
    run: () => setMode('top'),
  },
  {
    id: 'front',
    title: 'View from the front',
    words: 'elevation camera orthographic',
    keys: 'Alt+3',
    run: () => setMode('front'),
  },
  {
    id: 'side',
    title: 'View from the side',
    words: 'elevation camera orthographic left right',
    keys: 'Alt+4',
    run: () => setMode('side'),
  },
  {
    id: 'library',
    title: 'Add props from the library',
    words: 'assets objects models catalogue shelf',
    run: () => openDialog('library'),
  },
  {
    id: 'line-tube',
    title: 'Make a tube for lines',
    words: 'cable wire pipe hose cord strand prop new',
    run: () => makeLine('tube'),
  },
  {
    id: 'line-rope',
    title: 'Make a rope for lines',
    words: 'twisted strands hawser cable cord lay prop new',
    run: () => makeLine('rope'),
  },
  {
    id: 'bring-in',
    title: 'Bring in a file',
    words: 'import open load file mesh model glb gltf csv obj',
    keys: 'Mod+I',
    run: () => openDialog('bring-in'),
  },
  {
    id: 'send-out',
    title: 'Send out',
    words: 'export save as download share picture file render glb csv',
    keys: 'Mod+E',
    run: () => sendOnly(false),
  },
  {
    id: 'duplicate',
    title: 'Duplicate',
    words: 'copy clone double',
    keys: 'Mod+D',
    enabled: () => node() !== null,
    run: duplicateSelected,
  },
  {
    id: 'copy',
    title: 'Copy',
    words: 'clipboard take duplicate',
    keys: 'Mod+C',
    enabled: () => node() !== null,
    run: () => void copySelected(),
  },
  {
    id: 'cut',
    title: 'Cut',
    words: 'clipboard move take out',
    keys: 'Mod+X',
    enabled: () => node() !== null,
    run: cutSelected,
  },
  {
    id: 'paste',
    title: 'Paste',
    words: 'clipboard insert put from another scene',
    keys: 'Mod+V',
    run: () => void pasteCopied(),
  },
  {
    id: 'reverse',
    title: 'Reverse the path',
    words: 'flip direction turn round swap',
    enabled: () => pathInHand() !== undefined,
    run: () => dispatch(reversePaths, { ids: [pathInHand()!.id] }),
  },
  {
    id: 'delete',
    title: 'Delete what is selected',
    words: 'remove erase clear cut',
    keys: 'Delete',
    enabled: () => node() !== null,
    run: removeSelected,
  },
  {
    id: 'hang',
    title: 'Hang the prop on the path',
    words: 'repeat array instance distribute place along add run',
    enabled: () => node()?.kind === 'prop',
    run: () => hangProp(node()!.id, undefined, goingWith(node()!.id)),
  },
  {
    id: 'save',
    title: 'Save now',
    words: 'store keep write disk',
    keys: 'Mod+S',
    run: () =>
      void saveNow().then(() =>
        say('Everything is saved in this browser. Send it out as a scene to have it as a file.'),
      ),
  },
  {
    id: 'rename',
    title: 'Rename what is selected',
    words: 'name title call',
    keys: 'F2',
    enabled: () => node() !== null,
    run: renameSelected,
  },
  {
    id: 'look-at',
    title: 'Look at what is selected',
    words: 'zoom frame focus centre find go to',
    keys: 'Shift+Home',
    enabled: () => node() !== null,
    run: lookAtSelected,
  },
  {
    id: 'show-only',
    title: 'Show only this',
    words: 'isolate solo hide others',
    enabled: () => seen().length > 0,
    run: () => dispatch(showOnly, { ids: selectedIds() }),
  },
  {
    id: 'hide',
    title: 'Hide or show what is selected',
    words: 'invisible visible toggle eye',
    keys: 'H',
    enabled: () => seen().length > 0,
    run: hideOrShow,
  },
  {
    id: 'send-only',
    title: 'Send out what is selected',
    words: 'export save part some',
    enabled: () => seen().length > 0,
    run: () => sendOnly(true),
  },
  {
    id: 'show-all',
    title: 'Show everything',
    words: 'unhide reveal isolate off',
    run: () => dispatch(showOnly, { ids: [] }),
  },
  ...(['full', 'boxes', 'points'] as const).map((as): Action => ({
    id: `show-as-${as}`,
    title: `Show the arrangement ${as === 'full' ? 'in full' : `as ${as}`}`,
    words: 'display proxy bounding box cloud fast draft detail speed',
    enabled: () => arrangementsInHand().length > 0,
    run: () => dispatch(showAs, { ids: arrangementsInHand(), as }),
  })),
  {
    id: 'midway',
    title: 'Insert points midway',
    words: 'subdivide add point between split',
    enabled: () => pointsInHand() !== null,
    run: () => dispatch(insertMidway, pointsOf()),
  },
  {
    id: 'begin-at',
    title: 'Begin the loop at this point',
    words: 'start first seam origin closed path',
    enabled: () => pointsInHand()?.ids.length === 1 && (pathInHand()?.closed ?? false),
    run: () => dispatch(beginAt, { path: pointsOf().path, point: pointsOf().ids[0] }),
  },
  {
    id: 'align-level',
    title: 'Align points at one height',
    words: 'flatten level straighten',
    enabled: () => (pointsInHand()?.ids.length ?? 0) > 1,
    run: () => dispatch(alignPoints, { ...pointsOf(), plane: 'level' }),
  },
  {
    id: 'let-go',
    title: 'Let points go of what they are connected to',
    words: 'disconnect detach unlink untie free release loosen',
    keys: 'L',
    enabled: () => connectedInHand().length > 0,
    run: letConnectedGo,
  },
  ...(['m', 'cm'] as const).map((units): Action => ({
    id: `units-${units}`,
    title: `Units: ${units === 'm' ? 'metres' : 'centimetres'}`,
    words: 'measure scale settings unit',
    enabled: () => doc().scene.units !== units,
    run: () => dispatch(setScene, { units }),
  })),
  ...KIND_UIS.flatMap(({ kind, slotActions }) =>
    (slotActions ?? []).map(({ title, words, least, run }): Action => ({
      id: `${kind} ${title}`,
      title,
      words,
      enabled: () => slotsOf(kind, least) !== null,
      run: () => {
        const found = slotsOf(kind, least);
        if (found) run(found.a, found.ids);
      },
    })),
  ),
  ...KIND_UIS.flatMap(({ kind, ontoPath }): Action[] =>
    ontoPath
      ? [
          {
            id: `${kind} on a path`,
            title: `${ontoPath.text} (of the path in hand)`,
            words: ontoPath.words,
            enabled: () => anyPathInHand() !== null,
            run: () => ontoPath.run(anyPathInHand()!),
          },
        ]
      : [],
  ),
  {
    id: 'help',
    title: 'What you can do',
    words: 'help keys shortcuts manual tutorial guide learn',
    keys: '?',
    run: () => openDialog('help'),
  },
  {
    id: 'snap',
    title: 'Snapping on or off',
    words: 'magnet grid',
    keys: '5',
    run: () => setSnap({ on: !useSnap.getState().on }),
  },
  {
    id: 'play',
    title: 'Play or stop',
    words: 'animation start stop pause run time',
    keys: 'Space',
    run: () => play(!useClock.getState().playing),
  },
  { id: 'rewind', title: 'Back to the beginning', words: 'start reset time', run: rewind },
  {
    id: 'line-up',
    title: 'Line up the props',
    words: 'compare size scale foot pivot front axis prepare side by side',
    enabled: () => doc().scene.props.length > 0,
    run: () => openDialog('line-up'),
  },
  {
    id: 'group',
    title: 'Group what is selected',
    words: 'folder gather collect organise',
    keys: 'Mod+G',
    enabled: () => node() !== null,
    run: () => groupSelected(),
  },
  {
    id: 'ungroup',
    title: 'Take out of the group',
    words: 'ungroup folder',
    keys: 'Shift+Mod+G',
    enabled: () => node() !== null,
    run: () => dispatch(groupNodes, { ids: selectedNodes().map((n) => n.id), group: '' }),
  },
  ...([-1, 1] as const).map((by): Action => ({
    id: by < 0 ? 'row-up' : 'row-down',
    title: by < 0 ? 'Move up in the list' : 'Move down in the list',
    words: `order reorder arrange ${by < 0 ? 'earlier front' : 'later back'}`,
    enabled: () => node() !== null,
    run: () => stepSelected(by),
  })),
  {
    id: 'all',
    title: 'Select all',
    words: 'everything points props rows',
    keys: 'Mod+A',
    run: selectAll,
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
  ...KIND_UIS.flatMap(({ ontoSurface = [] }) => ontoSurface).map(({ text, words, run }): Action => ({
    id: text,
    title: text.replace(/ it$/, ' the surface').replace(' its boards', ' the boards of the surface'),
    words,
    enabled: () => node()?.kind === 'surface',
    run: () => run(node()!.id),
  })),
  {
    id: 'bundle',
    title: 'Make a bundle of what is selected',
    words: 'group nest prefab assembly compound combine instance component',
    enabled: () => canBundle(bundlable()),
    run: () => void bundle(bundlable()),
  },
  {
    id: 'close bundle',
    title: 'Close the open bundle',
    words: 'done back exit leave nested prefab',
    enabled: () => useDocument.getState().scene.bundles.some((b) => b.open),
    run: closeBundle,
  },
  {
    id: 'edge',
    title: 'New path: edge loop of a surface',
    words: 'border loop ring seam',
    run: () => chooseTool('edge'),
  },
  {
    id: 'release',
    title: 'Let it fall',
    words: 'physics simulate drop gravity rigid body pile heap settle release collapse',
    enabled: () => node()?.kind === 'arrangement',
    run: () => letFall(node()!.id),
  },
  {
    id: 'poses',
    title: 'Let it play',
    words: 'animation clip walk cycle crowd idle pose phase loop animate characters',
    enabled: () => moving() !== undefined,
    run: () => letPlay(moving()!.id),
  },
  {
    id: 'travel',
    title: 'Let it travel',
    words: 'move slide animate motion speed over surface along path turn rotate steer crowd flock drive walk',
    enabled: () => travelling() !== undefined,
    run: () => letTravel(travelling()!),
  },
  {
    id: 'seeds',
    title: 'Compare seeds',
    words: 'random variations shuffle',
    enabled: () => node()?.kind === 'arrangement',
    run: () => openDialog('seeds'),
  },
  {
    id: 'checks',
    title: 'Checks of the scene',
    words: 'findings problems errors warnings issues overlaps collisions intersections mend fix repair clean',
    run: () => openDialog('checks'),
  },
  {
    id: 'loop',
    title: 'Make it loop',
    words: 'cycle seamless repeat animation period whole time',
    run: makeItLoop,
  },
  {
    id: 'ask',
    title: 'Ask a place',
    words: 'why here inspect explain reason cause missing gap empty mask keep-out debug',
    run: () => openDialog('ask'),
  },
  ...PICTURE_ACTIONS,
  ...SOLID_ACTIONS,
  ...STAMP_ACTIONS,
  {
    id: 'costs',
    title: 'What things cost',
    words: 'triangles polygons polycount budget memory file size statistics performance heavy weight',
    run: () => openDialog('costs'),
  },
  {
    id: 'on-top',
    title: 'Settings on top…',
    words: 'expose publish favourite parameters pin own names recipe interface controls quick',
    enabled: () => node()?.kind === 'arrangement' && !useDocument.getState().readOnly,
    run: () => openDialog('on-top'),
  },
  ...FOLDS.map(({ id, name, words }): Action => ({
    id: `fold-${id}`,
    title: `Fold or show ${name}`,
    words: `hide collapse panel ${words}`,
    run: () => foldPanel(id, !useUi.getState().folded[id]),
  })),
  {
    id: 'develop',
    title: 'Picture develops at rest: on or off',
    words: 'soft shadows smooth edges antialias ambient occlusion quality render develop',
    run: () => {
      const { develops } = useView.getState();
      setDevelops(!develops);
      say(develops ? 'The picture stays as it is drawn.' : 'The picture develops when nothing moves.');
    },
  },
  { id: 'escape', title: 'One step back', words: 'cancel back leave deselect', keys: 'Escape', run: stepOut },
  {
    id: 'dusk',
    title: 'Dusk or day',
    words: 'theme dark light night mode colours',
    run: () => setTheme(useUi.getState().theme === 'day' ? 'dusk' : 'day'),
  },
  ...STEP_WORDS.map(({ title, words }): Action => ({
    id: `step-${title}`,
    title: `Go to ${title}`,
    words: `recipe settings ${words}`,
    enabled: () => hasStep(title),
    run: () => goToStep(title),
  })),
  {
    id: 'commands',
    title: 'All commands',
    words: 'search find menu',
    keys: 'Mod+K',
    run: () => openDialog('commands'),
  },
];
