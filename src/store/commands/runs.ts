import { freePart } from '@/core/arrange/run/parts';
import type { Rows } from '@/core/arrange/steps/schema';
import { newEntry, takeId } from '@/core/scene/defaults';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findPath, findProp, findWith } from './find';
import { describeChange } from './naming';

/** Commands for what stands along paths. */

/**
 * Hangs a prop on a path. @param with other props that are mixed with it, in equal shares. @returns the run's id
 */
export const addRun = command<{ prop: string | null; path: string | null; name?: string; with?: string[] }>({
  apply(scene, { prop, path, name, with: others = [] }) {
    const props = prop ? [prop, ...others] : others;
    const title =
      name ??
      (props
        .map((id) => findProp(scene, id).name)
        .join(', ')
        .slice(0, 60) ||
        'Run');
    return addArrangement(scene, 'run', title, () => ({
      paths: path ? [{ part: 0, path }] : [],
      order: {
        entries: props.map((id) => newEntry(takeId(scene, 'entry'), { kind: 'prop', prop: id })),
        ...(props.length > 1 && { mode: 'mix', bag: true }),
      },
    }));
  },
  name: (_, after) => `hang “${after.arrangements.at(-1)!.name}”`,
});

/** Puts a run on these paths, in this order; a path it already stood on keeps its part number and so its slots. */
export const setRunPaths = command<{ id: string; paths: string[] }>({
  apply(scene, { id, paths }) {
    const run = findWith(scene, id, 'paths');
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

/** Sets some fields of the rows. */
export const setRows = command<{ id: string; values: Partial<Rows> }>({
  apply: (scene, { id, values }) => void Object.assign(findWith(scene, id, 'spacing').spacing.rows, values),
  name: (before, _, { id, values }) =>
    `rows: ${describeChange(findWith(before, id, 'spacing').spacing.rows, values, before.units)}`,
});
