'use client';

import type { Run } from '@/core/arrange/run/schema';
import { STATE } from '@/core/evaluate/result';
import { duplicateArrangement, freezeRun, removeArrangement, setArrangement } from '@/store/commands/runs';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import { selectArrangement } from '@/store/selection';
import { PlainMenu } from '../../controls/PlainMenu';
import { duplicateSelected } from '../../shell/actions';
import { say } from '../../uiState';
import { addRidersOn } from '../riders/addRidersOn';
import { addSpansOn } from '../spans/addSpansOn';

/** Makes single pegs of what a run places right now. */
function freeze(run: Run): void {
  const result = engine().state.result.arrangements.get(run.id);
  if (!result) return;
  const p = result.placements;
  const rows = [...Array(p.count).keys()].filter((i) => p.state[i] === STATE.placed);
  const read = (a: ArrayLike<number>, i: number, n: number) =>
    Array.from({ length: n }, (_, k) => a[i * n + k]);
  const pegs = rows.map((i) => ({
    prop: p.props[p.prop[i]],
    position: read(p.position, i, 3) as [number, number, number],
    rotation: read(p.rotation, i, 4) as [number, number, number, number],
    scale: read(p.scale, i, 3) as [number, number, number],
    ...(p.tint && { tint: read(p.tint, i, 3) as [number, number, number] }),
  }));
  dispatch(freezeRun, { id: run.id, pegs });
  selectArrangement(run.id);
  say(`“${run.name}” is now ${pegs.length} single pegs. Undo makes it a run again.`);
}

/** Everything that is done with a run as a whole. */
export function RunMenu({ run }: { run: Run }) {
  const paths = useDocument((s) => s.scene.paths);
  const others = paths.filter((p) => !run.paths.some((q) => q.path === p.id));
  return (
    <PlainMenu
      name="More for this run"
      entries={[
        { text: 'Duplicate', run: duplicateSelected },
        ...others.map((p) => ({
          text: `Duplicate to ${p.name}`,
          run: () => {
            const made = dispatch(duplicateArrangement, { id: run.id, path: p.id });
            if (made) selectArrangement(made);
          },
        })),
        {
          text: run.visible ? 'Hide' : 'Show',
          run: () => dispatch(setArrangement, { id: run.id, values: { visible: !run.visible } }),
        },
        { text: 'Add riders', run: () => addRidersOn(run.id) },
        { text: 'Add spans', run: () => addSpansOn(run.id) },
        { text: 'Freeze into pegs', run: () => freeze(run) },
        { text: 'Delete', danger: true, run: () => dispatch(removeArrangement, { id: run.id }) },
      ]}
    />
  );
}
