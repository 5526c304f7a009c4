'use client';

import { THREADS } from '@/core/arrange/base';
import { hasPoints } from '@/core/curve/schema';
import { setThreads } from '@/store/commands/nodes';
import { reversePaths } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { selectNodes, type NodeRef } from '@/store/selection';
import { THREAD_COLORS } from '@/view/colors';
import { Button } from '../controls/Button';
import { MaterialChoice } from '../materials/MaterialChoice';
import { severalEntries } from '../menus/entries';
import { EndsField } from './nodes/path/EndsField';
import { FaceFields, LockedField, SurfaceColor } from './nodes/surface/FaceFields';
import { SetAlike } from './SetAlike';

/** What can be done with several nodes at once, and what they have in common. */
export function SeveralPanel({ nodes }: { nodes: readonly NodeRef[] }) {
  const scene = useDocument((s) => s.scene);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const lists = {
    arrangement: scene.arrangements,
    path: scene.paths,
    surface: scene.surfaces,
    prop: scene.props,
    mask: scene.masks,
  };
  const named = nodes.map((node) => ({ node, name: lists[node.kind].find((n) => n.id === node.id)?.name }));
  const taken = <T extends { id: string }>(list: readonly T[]) =>
    list.filter((n) => nodes.some((node) => node.id === n.id));
  const arrangements = taken(scene.arrangements);
  const leader = arrangements.find((a) => a.id === nodes.at(-1)?.id);
  const ids = arrangements.map((a) => a.id);
  const surfaces = taken(scene.surfaces);
  const paths = taken(scene.paths).filter(hasPoints);
  const dressed = [...arrangements, ...surfaces, ...taken(scene.props)];
  const [first] = dressed;
  const worn = dressed.every((n) => (n.material ?? null) === (first.material ?? null))
    ? (first?.material ?? null)
    : 'several';
  return (
    <div className="thin-scroll min-h-0 overflow-y-auto px-4 pb-4 pt-3">
      <h2 className="font-display text-lg font-semibold">{nodes.length} selected</h2>
      <ul className="mt-1.5 max-h-40 overflow-y-auto text-[13px]">
        {named.map(({ node, name }) => (
          <li key={node.id}>
            <button
              type="button"
              className="w-full truncate rounded px-1 py-0.5 text-left hover:bg-well"
              title="Takes this one alone in hand"
              onClick={() => selectNodes([node])}
            >
              {name}
            </button>
          </li>
        ))}
      </ul>
      <fieldset disabled={readOnly} className="mt-3">
        {arrangements.length > 0 && (
          <div className="mb-3 flex items-center gap-2">
            <span className="text-[13px] text-soft">Thread</span>
            {THREADS.map((thread) => (
              <button
                key={thread}
                type="button"
                aria-label={`Thread of all: ${thread}`}
                title={`All on the ${thread} thread`}
                onClick={() => dispatch(setThreads, { ids, thread })}
                className="size-[18px] rounded-full"
                style={{ background: THREAD_COLORS[thread] }}
              />
            ))}
          </div>
        )}
        {paths.length > 0 && (
          <>
            <EndsField paths={paths} />
            <Button
              look="bordered"
              className="my-2 w-full"
              title="Each of them runs the other way"
              onClick={() => dispatch(reversePaths, { ids: paths.map((p) => p.id) })}
            >
              Reverse the paths
            </Button>
          </>
        )}
        {surfaces.length > 0 && (
          <>
            <SurfaceColor surfaces={surfaces} />
            <LockedField surfaces={surfaces} />
            <FaceFields surfaces={surfaces} />
          </>
        )}
        {dressed.length > 0 && <MaterialChoice ids={dressed.map((n) => n.id)} value={worn} />}
        {leader && arrangements.length > 1 && <SetAlike leader={leader} others={arrangements} />}
        <div className="mt-3 grid grid-cols-2 gap-1.5">
          {severalEntries(nodes).map((e) => (
            <Button
              key={e.text}
              look="bordered"
              title={e.hint ?? ''}
              className={`w-full ${e.danger ? 'text-danger' : ''}`}
              onClick={e.run}
            >
              {e.text}
            </Button>
          ))}
        </div>
      </fieldset>
    </div>
  );
}
