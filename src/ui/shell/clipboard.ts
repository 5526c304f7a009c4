import { inBlocks } from '@/core/arrange/pegs/blocks';
import { pegNumber, type Peg } from '@/core/arrange/pegs/schema';
import { has, newArrangement } from '@/core/arrange/registry';
import { splitStrokes } from '@/core/curve/compile';
import { mergeStrokes } from '@/core/curve/edit';
import { hasPoints } from '@/core/curve/schema';
import { clip, type Clipping } from '@/core/scene/clipping';
import type { Scene } from '@/core/scene/schema';
import { addPegs } from '@/store/commands/pegs';
import { nodesOf } from '@/store/commands/find';
import { paste } from '@/store/commands/nodes';
import { dispatch, useDocument } from '@/store/document';
import { keepClipping, keptClipping } from '@/store/keeping/clippings';
import { selectedNodes, selectSlots, useSelection, type NodeRef } from '@/store/selection';
import { plural } from '@/words/numbers';
import { placedAsPegs } from '../recipe/freezeIntoPegs';
import { say } from '../uiState';
import { asidesOf, selectMade } from './duplicate';
import { handOverMeshes } from './handOverMeshes';
import { removeSelected } from './removeSelected';

/**
 * Copy, cut and paste of what is selected. What was copied is kept in the browser, so that it can be put into another
 * scene and into another tab.
 */

const doc = () => useDocument.getState();

/** The scene with some points of a path alone, as a path of their own. */
function onlyPoints(scene: Scene, path: string, ids: readonly string[]): Scene {
  return {
    ...scene,
    paths: scene.paths.map((p) => {
      if (p.id !== path || !hasPoints(p)) return p;
      const strokes = splitStrokes(p.source.points, p.closed).map((s) => s.points);
      const points = mergeStrokes(strokes.map((s) => s.filter((point) => ids.includes(point.id))));
      return {
        ...p,
        closed: p.closed && points.length === p.source.points.length,
        source: { ...p.source, points },
      };
    }),
  };
}

/** The scene with some placed props of an arrangement as pegs in its stead. */
function onlySlots(scene: Scene, id: string, slots: readonly number[]): Scene {
  const chosen = new Set(slots);
  const a = scene.arrangements.find((one) => one.id === id)!;
  const pegs: Peg[] = has(a, 'pegs')
    ? a.pegs.flat().filter((p) => chosen.has(pegNumber(p.id)))
    : placedAsPegs(a)
        .filter(({ slot }) => chosen.has(slot))
        .map(({ slot, peg }) => ({ ...peg, id: `peg${slot}` }));
  const made = newArrangement('pegs', { id, name: a.name, thread: a.thread }, { pegs: inBlocks(pegs) });
  return { ...scene, arrangements: scene.arrangements.map((one) => (one === a ? made : one)) };
}

/** What is selected, slots and points before the whole that they are of; null where nothing is. */
function selectedClipping(): Clipping | null {
  const { scene, sceneId } = doc();
  const { points, slots } = useSelection.getState();
  const from = sceneId ?? '';
  if (points) return clip(onlyPoints(scene, points.path, points.ids), [points.path], from);
  if (slots) return clip(onlySlots(scene, slots.arrangement, slots.ids), [slots.arrangement], from);
  const ids = selectedNodes().map((n) => n.id);
  return ids.length > 0 ? clip(scene, ids, from) : null;
}

/** How often the last copy was pasted here: each copy lies beside the one before. */
let pasted = 0;

/** @returns whether there was something to copy */
export async function copySelected(): Promise<boolean> {
  const clipping = selectedClipping();
  if (!clipping) return false;
  const { points, slots } = useSelection.getState();
  pasted = 0;
  await keepClipping(clipping);
  const what = points
    ? plural(points.ids.length, 'point')
    : slots
      ? plural(slots.ids.length, 'placed prop')
      : clipping.chosen.length > 1
        ? `${clipping.chosen.length} things`
        : `“${nameOf(clipping)}”`;
  say(`${what} copied. Paste here, or in another scene.`);
  return true;
}

/** Copies, and takes away what was copied once it is kept. */
export const cutSelected = (): void =>
  void copySelected().then((isCopied) => isCopied && !doc().readOnly && removeSelected());

const nameOf = ({ scene, chosen }: Clipping) => nodesOf(scene).find((n) => n.id === chosen[0])?.name ?? '';

const refsOf = ({ scene, chosen }: Clipping): NodeRef[] =>
  chosen.map((id) => {
    const is = (list: readonly { id: string }[]) => list.some((n) => n.id === id);
    const kind = is(scene.props)
      ? 'prop'
      : is(scene.paths)
        ? 'path'
        : is(scene.surfaces)
          ? 'surface'
          : 'arrangement';
    return { kind, id };
  });

/** Puts what was copied last into the open scene: pegs into the pegs in hand, everything else as nodes of its own. */
export async function pasteCopied(): Promise<void> {
  const clipping = await keptClipping();
  if (!clipping) return say('Nothing was copied yet. Select something and press Copy first.');
  if (doc().readOnly) return;
  const { sceneId, scene } = doc();
  const isSame = clipping.from === sceneId;
  const refs = refsOf(clipping);
  pasted++;
  const aside = isSame
    ? Object.fromEntries(Object.entries(asidesOf(refs)).map(([id, by]) => [id, by * pasted]))
    : {};
  const [first] = clipping.scene.arrangements.filter((a) => a.id === clipping.chosen[0]);
  const into = scene.arrangements.find((a) => a.id === useSelection.getState().node?.id);
  if (isSame && has(first, 'pegs') && has(into, 'pegs') && clipping.chosen.length === 1) {
    const by = aside[first.id];
    const pegs = first.pegs.flat().map(({ position: [x, y, z], ...peg }) => ({
      ...peg,
      position: [peg.pin ? x : x + by, y, z] as [number, number, number],
    }));
    const made = dispatch(addPegs, { id: into.id, pegs });
    if (made) selectSlots(into.id, made.split(' ').slice(1).map(pegNumber));
    return;
  }
  const made = dispatch(paste, { clipping, key: sceneId ?? '', aside });
  selectMade(refs, made);
  await handOverMeshes(clipping.scene);
}
