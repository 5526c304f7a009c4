import { freePart } from '@/core/arrange/run/parts';
import type { Peg } from '@/core/arrange/pegs/schema';
import { pegsSchema } from '@/core/arrange/pegs/schema';
import type { Run } from '@/core/arrange/run/schema';
import { allEntries } from '@/core/arrange/steps/schema';
import { newEntry, newRun, newThread, takeId } from '@/core/scene/defaults';
import type { Arrangement, Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement, findPath, findOrdered, findProp, findRun, freeName } from './find';
import { describeChange } from './naming';

/** Commands for runs as a whole and for the settings of their steps. The order has its own file, so has the hand. */

export const addRun = command<{ prop: string | null; path: string | null; name?: string }>({
  apply(scene, { prop, path, name }) {
    const id = takeId(scene, 'run');
    const entries = prop ? [newEntry(takeId(scene, 'entry'), { kind: 'prop', prop })] : [];
    const title = name ?? (prop ? findProp(scene, prop).name : 'Run');
    scene.arrangements.push(newRun(id, freeName(scene.arrangements, title), newThread(scene), path, entries));
    return id;
  },
  name: (_, after) => `hang “${after.arrangements.at(-1)!.name}”`,
});

export const setArrangement = command<{
  id: string;
  values: Partial<Pick<Run, 'name' | 'thread' | 'visible'>>;
}>({
  apply: (scene, { id, values }) => void Object.assign(findArrangement(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findArrangement(before, id).name}: ${describeChange(findArrangement(before, id), values)}`,
});

export const setSeed = command<{ id: string; seed: number }>({
  apply: (scene, { id, seed }) => void (findOrdered(scene, id).seed = seed),
  name: (before, _, { id, seed }) => `seed ${findOrdered(before, id).seed} → ${seed}`,
});

export const removeArrangement = command<{ id: string }>({
  apply: (scene, { id }) => void (scene.arrangements = scene.arrangements.filter((a) => a.id !== id)),
  name: (before, _, { id }) => `remove “${findArrangement(before, id).name}”`,
});

/** Fresh ids for what a copy of a run's steps holds. */
function rename(scene: Scene, steps: Pick<Run, 'order'> & Partial<Pick<Run, 'gaps'>>): void {
  for (const e of allEntries(steps.order.entries)) e.id = takeId(scene, 'entry');
  for (const k of steps.gaps?.keepOuts ?? []) k.id = takeId(scene, 'keep');
}

/**
 * A copy beside the original. On another path it keeps its whole recipe and stands there instead; what was corrected
 * by hand and stretches to keep out stay with the original: they are places of the old path.
 */
export const duplicateArrangement = command<{ id: string; path?: string }>({
  apply(scene, { id, path }) {
    const at = scene.arrangements.findIndex((a) => a.id === id);
    const copy: Arrangement = JSON.parse(JSON.stringify(findArrangement(scene, id)));
    copy.id = takeId(scene, copy.kind);
    copy.name = freeName(scene.arrangements, copy.name);
    if (copy.kind === 'run' || copy.kind === 'sheet') rename(scene, copy);
    if (copy.kind === 'sheet') {
      for (const item of copy.items) item.id = takeId(scene, 'item');
      for (const curve of copy.curves) curve.id = takeId(scene, 'curve');
    }
    if (copy.kind === 'pegs') for (const peg of copy.pegs) peg.id = takeId(scene, 'peg');
    if (path && copy.kind === 'run') {
      copy.paths = [{ part: 0, path }];
      copy.gaps.keepOuts = copy.gaps.keepOuts.filter((k) => k.kind !== 'range');
      copy.hand = {};
    }
    scene.arrangements.splice(at + 1, 0, copy);
    return copy.id;
  },
  name: (before, _, { id, path }) =>
    `duplicate “${findArrangement(before, id).name}”${path ? ` to “${findPath(before, path).name}”` : ''}`,
});

/** Puts a run on these paths, in this order; a path it already stood on keeps its part number and so its slots. */
export const setRunPaths = command<{ id: string; paths: string[] }>({
  apply(scene, { id, paths }) {
    const run = findRun(scene, id);
    // One path for another keeps the number too, so that what the hand did stays.
    if (run.paths.length === 1 && paths.length === 1) {
      run.paths[0].path = paths[0];
      return;
    }
    const kept = [...run.paths];
    run.paths = paths.map((path) => {
      const have = kept.find((p) => p.path === path);
      if (have) return have;
      kept.push({ part: freePart(kept), path });
      return kept[kept.length - 1];
    });
  },
  name: (_, after, { paths }) =>
    paths.length
      ? `path ${paths.map((p) => `“${findPath(after, p).name}”`).join(', ')}`
      : 'take off the path',
});

/** The steps whose settings are one block each. */
export type Step = 'order' | 'spacing' | 'facing' | 'ground' | 'variation' | 'gaps' | 'pulley';

/** A run, or for the steps that it shares with them a sheet. */
const withStep = (scene: Scene, id: string, step: Step): Run =>
  step === 'order' || step === 'variation' ? (findOrdered(scene, id) as Run) : findRun(scene, id);

/** Sets some fields of one step. */
export const setStep = command<{ [S in Step]: { id: string; step: S; values: Partial<Run[S]> } }[Step]>({
  apply: (scene, { id, step, values }) => void Object.assign(withStep(scene, id, step)[step], values),
  name: (before, _, { id, step, values }) => describeChange(withStep(before, id, step)[step], values),
});

/** Sets some fields of the rows. */
export const setRows = command<{ id: string; values: Partial<Run['spacing']['rows']> }>({
  apply: (scene, { id, values }) => void Object.assign(findRun(scene, id).spacing.rows, values),
  name: (before, _, { id, values }) => `rows: ${describeChange(findRun(before, id).spacing.rows, values)}`,
});

/** Puts one step back to its defaults. */
export const resetStep = command<{ id: string; step: Exclude<Step, 'order'> }>({
  apply(scene, { id, step }) {
    const run = withStep(scene, id, step);
    Object.assign(run, { [step]: newRun('', '', 'madder', null, [])[step] });
  },
  name: (_, __, { step }) => `reset ${step}`,
});

/** One step of a recipe, copied to be pasted into others. */
export type CopiedStep = { [S in Step]: { step: S; settings: Run[S] } }[Step];

/** Puts a copied step in place of a run's own. Stretches to keep out belong to their path and are not pasted. */
export const pasteStep = command<{ id: string; copied: CopiedStep }>({
  apply(scene, { id, copied }) {
    const run = findRun(scene, id);
    const settings = JSON.parse(JSON.stringify(copied.settings));
    if (copied.step === 'gaps') {
      const own = run.gaps.keepOuts.filter((k) => k.kind === 'range');
      settings.keepOuts = [
        ...own,
        ...copied.settings.keepOuts.filter((k) => k.kind !== 'range').map((k) => ({ ...k })),
      ];
    }
    Object.assign(run, { [copied.step]: settings });
    rename(scene, run);
  },
  name: (_, __, { copied }) => `paste ${copied.step}`,
});

/**
 * Makes single pegs of a run's placed props: nothing moves, and nothing follows the recipe any more. It keeps its id,
 * so that what looks at it or keeps away from it goes on.
 */
export const freezeRun = command<{ id: string; pegs: Omit<Peg, 'id'>[] }>({
  apply(scene, { id, pegs }) {
    const at = scene.arrangements.findIndex((a) => a.id === id);
    const { name, thread, visible } = findRun(scene, id);
    scene.arrangements[at] = pegsSchema.parse({
      id,
      kind: 'pegs',
      name,
      thread,
      visible,
      pegs: pegs.map((p) => ({ ...p, id: takeId(scene, 'peg') })),
    });
  },
  name: (before, _, { id }) => `freeze “${findArrangement(before, id).name}”`,
});
