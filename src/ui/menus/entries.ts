import { gatherEntries, networkEntries } from '../gathered/entries';
import { isOwnMesh } from '@/core/mesh/meshRef';
import { hasPoints, type Path, type PointsPath } from '@/core/curve/schema';
import { has, kindOf, needsOf, type Arrangement } from '@/core/arrange/registry';
import { STATE } from '@/core/arrange/result';
import type { Mask } from '@/core/mesh/mask/schema';
import type { Prop } from '@/core/mesh/propSchema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { duplicateTo, setArrangement, setSlotsRemoved } from '@/store/commands/arrangements';
import { alignPoints, beginAt, insertMidway, splitPath, strokesApart } from '@/store/commands/pathEdits';
import { removePoints, setPath, setPointKind } from '@/store/commands/paths';
import { showNodes, showOnly, showAs, type ShownAs } from '@/store/commands/nodes';
import { putIntoBundle } from '@/store/commands/bundles';
import { shareRecipe } from '@/store/commands/recipes';
import { replaceGroup, replaceProp } from '@/store/commands/scene';
import { setSurface } from '@/store/commands/surfaces';
import { ask } from '@/store/asked';
import { stampOfProp } from '../stamps/make';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement, selectedNodes, selectNode, useSelection, type NodeRef } from '@/store/selection';
import { askFit, chooseTool, setShades, useView } from '@/view/viewState';
import { plural } from '@/words/numbers';
import { hangProp } from '../basket/hang';
import { bundlable, bundle, openToEdit, takeApart } from '../bundles/making';
import type { MenuEntry } from '../controls/PlainMenu';
import { KIND_UIS, uiOf } from '../kinds/registry';
import { freezeIntoPegs } from '../recipe/freezeIntoPegs';
import { renameSelected } from '../recipe/renameSelected';
import { copySelected, cutSelected, pasteCopied } from '../shell/clipboard';
import { duplicateNode, duplicateSelected } from '../shell/duplicate';
import { lookAtSelected } from '@/view/places';
import { nameGroup, openDialog, sendOnly } from '../uiState';
import { inListEntries } from './groupEntries';
import { giveThickness } from '../recipe/nodes/surface/giveThickness';
import { giveMaterial } from '../materials/giveMaterial';
import { motionEntries } from './motionEntries';
import { placesOf } from './placesOf';
import { removeThese } from '../shell/removeThese';

/** What can be done with one thing, for the menu in its panel and for that of the right button. It is in hand then. */

const doc = () => useDocument.getState();

const CLIPBOARD: MenuEntry[] = [
  { text: 'Copy', hint: 'To be pasted here or in another scene', run: () => void copySelected() },
  { text: 'Cut', hint: 'Taken out, to be pasted here or in another scene', run: cutSelected },
];

/** What is done alike with anything that is in hand. */
const inHand = (id: string, visible: boolean, show: (visible: boolean) => unknown): MenuEntry[] => [
  ...CLIPBOARD,
  { text: 'Rename', run: renameSelected },
  { text: 'Look at it', run: lookAtSelected },
  { text: visible ? 'Hide' : 'Show', run: () => void show(!visible) },
  { text: 'Show only this', run: () => dispatch(showOnly, { ids: [id] }) },
  ...inListEntries([id]),
];

const SHOWN: { as: ShownAs; text: string; hint: string }[] = [
  { as: 'full', text: 'Show in full', hint: 'Drawn as they are' },
  { as: 'boxes', text: 'Show as boxes', hint: 'Quicker: each as the box that it takes up' },
  { as: 'points', text: 'Show as points', hint: 'Quickest: each as a point of its size' },
];

/** The ways of being drawn that some arrangements are not all drawn in. */
function shownEntries(list: readonly Arrangement[]): MenuEntry[] {
  const ids = list.map((a) => a.id);
  return SHOWN.filter(({ as }) => list.some((a) => (a.shownAs ?? 'full') !== as)).map(({ as, ...entry }) => ({
    ...entry,
    run: () => void dispatch(showAs, { ids, as }),
  }));
}

/** While a bundle is open: into it, or out of it. */
function openBundleEntries({ id }: Arrangement): MenuEntry[] {
  const { bundles, props } = doc().scene;
  const open = bundles.find((b) => b.open);
  const prop = props.find((p) => p.mesh.source === 'bundle' && p.mesh.bundle === open?.id);
  if (!open || !prop) return [];
  const within = !open.members.some((m) => m.id === id);
  return [
    {
      text: within ? `Put into ${prop.name}` : `Take out of ${prop.name}`,
      run: () => dispatch(putIntoBundle, { prop: prop.id, ids: [id], within }),
    },
  ];
}

export function arrangementEntries(a: Arrangement): MenuEntry[] {
  const { scene } = doc();
  const { paths, surfaces } = needsOf(a);
  const own = has(a, 'paths') ? a.paths.map((p) => p.path) : paths;
  const stands = (id: string) => own.includes(id) || (surfaces !== 'all' && surfaces.includes(id));
  const others = [
    ...(kindOf(a).moveToPath ? scene.paths : []).map(({ id, name }) => ({ id, name, to: { path: id } })),
    ...(kindOf(a).moveToSurface ? scene.surfaces : []).map(({ id, name }) => ({
      id,
      name,
      to: { surface: id },
    })),
  ].filter(({ id }) => !stands(id));
  return [
    { text: 'Duplicate', run: duplicateNode },
    ...inHand(a.id, a.visible, (visible) => dispatch(setArrangement, { id: a.id, values: { visible } })),
    ...shownEntries([a]),
    ...KIND_UIS.flatMap(({ onto }) => (onto ? [{ text: onto.text, run: () => onto.run(a.id) }] : [])),
    {
      text: 'Make a bundle of it',
      hint: 'It becomes one prop of the basket, placed like any other',
      run: () => void bundle({ members: [a.id], surfaces: [], loose: null }),
    },
    ...gatherEntries([a.id]),
    ...openBundleEntries(a),
    {
      text: 'Settings on top…',
      hint: 'The numbers that you want at hand, by names of your own',
      run: () => openDialog('on-top'),
    },
    ...motionEntries(a),
    ...(a.material === undefined
      ? [
          {
            text: 'Give it a material',
            hint: 'All that it places wears one, made by hand',
            run: () => giveMaterial(a.id),
          },
        ]
      : []),
    // Single pegs already stand by themselves.
    ...(has(a, 'pegs') ? [] : [{ text: 'Into pegs', run: () => freezeIntoPegs(a) }]),
    ...others.map(({ name, to }) => ({
      text: `Duplicate to ${name}`,
      run: () => {
        const made = dispatch(duplicateTo, { id: a.id, to });
        if (made) selectArrangement(made);
      },
    })),
    { text: 'Delete', danger: true, run: () => removeThese([a.id]) },
  ];
}

export function pathEntries(path: Path): MenuEntry[] {
  const { id } = path;
  const strokes = engine().state.result.paths.get(id)?.strokes.length ?? 1;
  return [
    { text: 'Duplicate', run: duplicateNode },
    ...inHand(id, path.visible, (visible) => dispatch(setPath, { id, values: { visible } })),
    ...networkEntries([id]),
    ...(hasPoints(path) && strokes > 1
      ? [{ text: 'Strokes apart', run: () => dispatch(strokesApart, { path: id }) }]
      : []),
    ...KIND_UIS.flatMap(({ ontoPath }) =>
      ontoPath ? [{ text: ontoPath.text, run: () => ontoPath.run(id) }] : [],
    ),
    { text: 'Delete', danger: true, run: () => removeThese([id]) },
  ];
}

export const surfaceEntries = ({ id, mesh, visible, thickness }: Surface): MenuEntry[] => [
  ...KIND_UIS.flatMap(({ ontoSurface = [] }) =>
    ontoSurface.map(({ text, run }) => ({ text, run: () => run(id) })),
  ),
  ...inHand(id, visible, (shown) => dispatch(setSurface, { id, values: { visible: shown } })),
  ...(!isOwnMesh(mesh)
    ? []
    : [
        {
          text: 'Make a bundle of it',
          hint: 'It becomes one prop of the basket, placed like any other',
          run: () => void bundle({ members: [], surfaces: [id], loose: null }),
        },
      ]),
  ...gatherEntries([id]),
  ...(thickness
    ? []
    : [{ text: 'Give it thickness', hint: 'It becomes a closed shell', run: () => void giveThickness(id) }]),
  ...(!isOwnMesh(mesh) ? [] : [{ text: 'Replace its mesh', run: () => openDialog('bring-in') }]),
  { text: 'Delete', danger: true, run: () => removeThese([id]) },
];

export const maskEntries = ({ id }: Mask): MenuEntry[] => [
  { text: 'Duplicate', run: duplicateNode },
  ...CLIPBOARD,
  { text: 'Rename', run: renameSelected },
  {
    text: useView.getState().shades === id ? 'No shades' : 'Show in shades',
    run: () => setShades(useView.getState().shades === id ? null : id),
  },
  ...inListEntries([id]),
  { text: 'Delete', danger: true, run: () => removeThese([id]) },
];

export function propEntries({ id, mesh }: Prop): MenuEntry[] {
  const { arrangements, props } = doc().scene;
  const used = arrangements.some((a) => needsOf(a).props.includes(id));
  const others = used ? props.filter((p) => p.id !== id) : [];
  return [
    { text: 'Hang on the selected path', run: () => hangProp(id) },
    { text: 'Duplicate', run: duplicateNode },
    ...CLIPBOARD,
    { text: 'Rename', run: renameSelected },
    ...(mesh.source === 'bundle'
      ? [
          { text: 'Open to edit', run: () => openToEdit(id) },
          { text: 'Take apart', run: () => takeApart(id) },
        ]
      : mesh.source === 'line' || mesh.source === 'stamp'
        ? []
        : [{ text: 'A newer file of it', run: () => openDialog('bring-in') }]),
    ...(mesh.source === 'stamp' ? [] : [{ text: 'Make a stamp of it', run: () => stampOfProp(id) }]),
    ...inListEntries([id]),
    { text: 'Delete', danger: true, run: () => removeThese([id]) },
    ...others.map((p, i) => ({
      text: p.name,
      run: () => {
        dispatch(replaceProp, { id, by: p.id });
        selectNode('prop', p.id);
      },
      ...(i === 0 && { under: `In its ${plural(placesOf(id), 'place')} instead` }),
    })),
  ];
}

/** Some slots of an arrangement, and after them the whole. */
function slotEntries(a: Arrangement, ids: number[]): MenuEntry[] {
  const p = engine().state.result.arrangements.get(a.id)?.placements;
  const chosen = new Set(ids);
  const gone = p ? [...p.slot].every((slot, i) => !chosen.has(slot) || p.state[i] !== STATE.placed) : false;
  const { slotActions = [], duplicateSlots } = uiOf(a);
  const what = ids.length === 1 ? 'it' : 'them';
  return [
    { text: `Look at ${what}`, run: lookAtSelected },
    ...(ids.length === 1
      ? [
          {
            text: 'Why is it so?',
            hint: 'What made it so: which step, which mask, which keep-out, whose hand',
            run: () => {
              ask({ arrangement: a.id, slot: ids[0] });
              openDialog('ask');
            },
          },
        ]
      : []),
    ...CLIPBOARD.slice(0, 1),
    ...(duplicateSlots ? [{ text: `Duplicate ${what}`, run: duplicateSelected }] : []),
    ...(kindOf(a).removeSlots
      ? [
          {
            text: gone ? `Bring ${what} back` : `Remove ${what}`,
            run: () => void dispatch(setSlotsRemoved, { id: a.id, slots: ids, removed: !gone }),
          },
        ]
      : []),
    ...(kindOf(a).removeSlots
      ? [
          {
            text: `Make a bundle of ${what}`,
            hint: 'Out of its arrangement, as one prop of the basket',
            run: () => void bundle({ members: [], surfaces: [], loose: { arrangement: a.id, slots: ids } }),
          },
        ]
      : []),
    ...slotActions
      .filter(({ least }) => ids.length >= least)
      .map(({ title, run }) => ({ text: title, run: () => run(a, ids) })),
    ...arrangementEntries(a)
      .filter(({ text }) => !['Look at it', 'Copy', 'Cut', 'Make a bundle of it'].includes(text))
      .map((e, i) => (i === 0 ? { ...e, under: a.name } : e)),
  ];
}

/** Of one node its own menu; where it is selected beside others, theirs. */
export const menuOf = (own: () => MenuEntry[]): MenuEntry[] => {
  const several = selectedNodes();
  return several.length > 1 ? severalEntries(several) : own();
};

const KINDS = ['smooth', 'corner', 'free'] as const;

/** Some points of a path, and after them the whole. */
function pointEntries(path: PointsPath, ids: string[]): MenuEntry[] {
  const { id } = path;
  const what = ids.length === 1 ? 'it' : 'them';
  return [
    ...KINDS.map((kind) => ({
      text: kind === 'corner' ? 'Make a corner' : `Make ${kind}`,
      run: () => dispatch(setPointKind, { path: id, id: ids[0], kind, ids }),
    })),
    { text: 'Insert midway', run: () => dispatch(insertMidway, { path: id, ids }) },
    ...(ids.length === 1
      ? [{ text: 'Split here', run: () => dispatch(splitPath, { path: id, point: ids[0] }) }]
      : [
          {
            text: 'Align at one height',
            run: () => dispatch(alignPoints, { path: id, ids, plane: 'level' }),
          },
        ]),
    ...(ids.length === 1 && path.closed
      ? [{ text: 'Begin the loop here', run: () => dispatch(beginAt, { path: id, point: ids[0] }) }]
      : []),
    ...CLIPBOARD,
    { text: `Duplicate ${ids.length === 1 ? 'its stroke' : what}`, run: duplicateSelected },
    { text: `Look at ${what}`, run: lookAtSelected },
    { text: `Delete ${what}`, danger: true, run: () => dispatch(removePoints, { path: id, ids }) },
    ...pathEntries(path)
      .filter(({ text }) => !['Look at it', 'Copy', 'Cut'].includes(text))
      .map((e, i) => (i === 0 ? { ...e, under: path.name } : e)),
  ];
}

/** Whether arrangements are of one kind, and some do not share their recipe yet. */
const canShare = (list: readonly Arrangement[]): boolean =>
  list.length > 1 &&
  list.every((a) => a.kind === list[0].kind && !has(a, 'pegs')) &&
  list.some((a) => a.recipe === undefined || a.recipe !== list[0].recipe);

/** Several nodes at once. */
export function severalEntries(nodes: readonly NodeRef[]): MenuEntry[] {
  const ids = nodes.map((n) => n.id);
  const seen = nodes.filter((n) => n.kind !== 'prop' && n.kind !== 'mask');
  const { scene } = doc();
  const hidden = [...scene.arrangements, ...scene.paths, ...scene.surfaces].filter(
    (n) => !n.visible && ids.includes(n.id),
  );
  const props = nodes.filter((n) => n.kind === 'prop').map((n) => n.id);
  const bundles = nodes.filter((n) => n.kind === 'arrangement').map((n) => n.id);
  const paths = nodes.flatMap((n) => (n.kind === 'path' ? [n.id] : []));
  const bodies = nodes.flatMap((n) => (n.kind === 'surface' || n.kind === 'arrangement' ? [n.id] : []));
  return [
    ...gatherEntries(bodies),
    ...networkEntries(paths),
    ...(props.length > 1
      ? [
          {
            text: 'Line up',
            hint: 'Side by side, with feet, fronts and sizes to set',
            run: () => openDialog('line-up'),
          },
          {
            text: 'Hang as one mix',
            hint: 'Equal shares of each, where there is a place for them',
            run: () => hangProp(props[0], undefined, props.slice(1)),
          },
        ]
      : []),
    { text: 'Duplicate', hint: 'Copies a step aside', run: duplicateNode },
    ...CLIPBOARD,
    ...(seen.length > 0
      ? [
          { text: 'Look at them', hint: 'The view goes to all of them', run: lookAtSelected },
          hidden.length > 0
            ? {
                text: 'Show',
                hint: 'Drawn again, and stood on',
                run: () => void dispatch(showNodes, { ids, visible: true }),
              }
            : {
                text: 'Hide',
                hint: 'Neither drawn nor stood on, until shown',
                run: () => void dispatch(showNodes, { ids, visible: false }),
              },
          {
            text: 'Show only these',
            hint: 'Hides the others of their sort',
            run: () => void dispatch(showOnly, { ids }),
          },
          ...(bundles.length > 0
            ? [
                {
                  text: 'Make a bundle of them',
                  hint: 'They become one prop of the basket, placed like any other',
                  run: () => void bundle(bundlable()),
                },
              ]
            : []),
          ...(canShare(scene.arrangements.filter((a) => ids.includes(a.id)))
            ? [
                {
                  text: 'Share one recipe',
                  hint: 'All take the recipe of the last one; a change of one is a change of all',
                  run: () => void dispatch(shareRecipe, { ids: bundles.toReversed() }),
                },
              ]
            : []),
          ...shownEntries(scene.arrangements.filter((a) => ids.includes(a.id))),
          { text: 'Send out these', hint: 'A file with these alone', run: () => sendOnly(true) },
        ]
      : []),
    ...inListEntries(ids),
    {
      text: 'Delete',
      hint: 'Takes them out of the scene',
      danger: true,
      run: () => removeThese(ids),
    },
  ];
}

/** Of a group of the lists as a whole. */
export const groupEntries = (group: string, members: readonly NodeRef[]): MenuEntry[] => [
  { text: 'Rename', run: () => nameGroup(group) },
  ...severalEntries(members),
  ...otherGroups(group, members),
];

/** Of a group of the basket: the others, to stand in all of its places. */
function otherGroups(group: string, members: readonly NodeRef[]): MenuEntry[] {
  const { props } = doc().scene;
  const ids = members.map((n) => n.id);
  if (members.some((n) => n.kind !== 'prop') || ids.every((id) => placesOf(id) === 0)) return [];
  const names = new Set(props.flatMap((p) => (p.group && p.group !== group ? [p.group] : [])));
  return [...names].map((name, i) => ({
    text: name,
    run: () => {
      const by = props.flatMap((p) => (p.group === name ? [p.id] : []));
      dispatch(replaceGroup, { ids, by, name });
    },
    ...(i === 0 && { under: 'In all of their places instead' }),
  }));
}

/** What can be done with what is selected; with nothing in hand, with the view and the scene. */
export function selectionEntries(): MenuEntry[] {
  const { readOnly, scene } = doc();
  if (readOnly) return [{ text: 'Fit the view', run: askFit }];
  const { node, points, slots } = useSelection.getState();
  const onPath = scene.paths.find((p) => p.id === points?.path);
  if (points && hasPoints(onPath)) return pointEntries(onPath, points.ids);
  const of = scene.arrangements.find((a) => a.id === slots?.arrangement);
  const several = selectedNodes();
  if (several.length > 1) return severalEntries(several);
  if (slots && of) return slotEntries(of, slots.ids);
  const find = <T extends { id: string }>(list: readonly T[]) => list.find((n) => n.id === node?.id);
  const [a, path, surface, prop, mask] = [
    find(scene.arrangements),
    find(scene.paths),
    find(scene.surfaces),
    find(scene.props),
    find(scene.masks),
  ];
  if (node?.kind === 'arrangement' && a) return arrangementEntries(a);
  if (node?.kind === 'path' && path) return pathEntries(path);
  if (node?.kind === 'surface' && surface) return surfaceEntries(surface);
  if (node?.kind === 'prop' && prop) return propEntries(prop);
  if (node?.kind === 'mask' && mask) return maskEntries(mask);
  return groundEntries();
}

/** Where nothing is: what begins something. */
const groundEntries = (): MenuEntry[] => [
  { text: 'Draw path', run: () => chooseTool('draw') },
  { text: 'Peg props', run: () => chooseTool('peg') },
  { text: 'Add props', run: () => openDialog('library') },
  { text: 'Paste', run: () => void pasteCopied() },
  { text: 'Fit the view', run: askFit },
  { text: 'Show everything', run: () => dispatch(showOnly, { ids: [] }) },
];
