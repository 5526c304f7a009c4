'use client';

import {
  ArrowLeftRight,
  Blend,
  Combine,
  Copy,
  Link2,
  PenLine,
  Spline,
  SquareStack,
  Trash2,
} from 'lucide-react';
import { useState } from 'react';
import { hasPoints, type PointsPath } from '@/core/curve/schema';
import {
  joinPaths,
  joinStrokes,
  resamplePath,
  simplifyPath,
  subdividePath,
  weldPath,
} from '@/store/commands/pathEdits';
import { addOffset, reversePaths } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectNode, useSelection } from '@/store/selection';
import { chooseTool } from '@/view/viewState';
import { PlainMenu } from '../../../controls/PlainMenu';
import { duplicateNode } from '../../../shell/duplicate';
import { Edit, Measured } from './Edit';
import { EndsField } from './EndsField';
import { SelectedPoints } from './SelectedPoints';
import { removeThese } from '../../../shell/removeThese';

/** What can be done to a path that has its own points: to the whole, and to the selected points. */
export function EditButtons({ path }: { path: PointsPath }) {
  const scene = useDocument((s) => s.scene);
  const selected = useSelection((s) => s.points);
  const length = useEngine((s) => s.result.paths.get(path.id)?.length ?? 1);
  const [tolerance, setTolerance] = useState(0.05);
  const [step, setStep] = useState(1);
  const [within, setWithin] = useState(0.05);
  const { id } = path;
  const ids = selected?.path === id ? selected.ids : [];
  const { points } = path.source;
  const strokes = points.filter((p, i) => i === 0 || p.begins).length;
  const others = scene.paths.filter((p) => p.id !== id && hasPoints(p) && p.source.on === path.source.on);
  const endId = ids.length === 1 && !path.closed && isEnd(path, ids[0]) ? ids[0] : null;
  return (
    <>
      <EndsField paths={[path]} />
      <div className="mt-2 grid grid-cols-3 gap-1.5">
        <Edit
          icon={<ArrowLeftRight size={14} />}
          text="Reverse"
          hint="It runs the other way, and what hangs on it too"
          run={() => dispatch(reversePaths, { ids: [id] })}
        />
        <Edit icon={<Copy size={14} />} text="Duplicate" hint="A copy a step aside" run={duplicateNode} />
        <Edit
          icon={<Trash2 size={14} />}
          text="Delete"
          hint="What hangs on it loses its path"
          run={() => removeThese([id])}
        />
        <Edit
          icon={<PenLine size={14} />}
          text="Continue"
          hint="Go on drawing from the selected end, or from the last point"
          run={() => chooseTool('draw', { path: id, point: endId ?? points[points.length - 1]?.id ?? null })}
        />
        <Edit
          icon={<Spline size={14} />}
          text="Stroke"
          hint="Draw another stroke in this path: runs go along all of its strokes"
          run={() => chooseTool('draw', { path: id, point: null })}
        />
        <Edit
          icon={<SquareStack size={14} />}
          text="Offset"
          hint="A path that stays beside this one"
          run={() => {
            const made = dispatch(addOffset, { path: id, distance: 1 });
            if (made) selectNode('path', made);
          }}
        />
        <Edit
          icon={<Blend size={14} />}
          text="Subdivide"
          hint="A point in the middle of every side; the curve stays"
          run={() => dispatch(subdividePath, { path: id })}
        />
        {strokes > 1 && (
          <Edit
            icon={<Combine size={14} />}
            text="Join"
            hint="Its strokes become one, end to end"
            run={() => dispatch(joinStrokes, { path: id })}
          />
        )}
      </div>
      <Measured
        text="Simplify"
        hint="Fewer points, the curve within this distance"
        value={tolerance}
        onValue={(v) => setTolerance(Math.max(1e-6, v))}
        run={() => dispatch(simplifyPath, { path: id, tolerance })}
        unit={scene.units}
      />
      <Measured
        text="Resample"
        hint="Points evenly, so far apart"
        value={step}
        onValue={(v) => setStep(Math.max(length / 20000, v))}
        run={() => dispatch(resamplePath, { path: id, step })}
        unit={scene.units}
      />
      {!path.closed && (
        <Measured
          text="Weld ends"
          hint="Ends within this distance become one point; a path whose own ends meet closes"
          value={within}
          onValue={(v) => setWithin(Math.max(0, v))}
          run={() => dispatch(weldPath, { path: id, within })}
          unit={scene.units}
        />
      )}
      {others.length > 0 && (
        <div className="mt-1 flex items-center justify-between text-sm">
          Join with another path
          <PlainMenu
            name="Join with another path"
            entries={others.map((p) => ({
              text: p.name,
              run: () => dispatch(joinPaths, { path: id, other: p.id }),
            }))}
          >
            <Link2 size={15} />
          </PlainMenu>
        </div>
      )}
      {ids.length > 0 && <SelectedPoints path={path} ids={ids} />}
    </>
  );
}

/** Whether a point is the first or last of its stroke. */
function isEnd(path: PointsPath, id: string): boolean {
  const { points } = path.source;
  const i = points.findIndex((p) => p.id === id);
  return i === 0 || points[i].begins || i === points.length - 1 || points[i + 1].begins;
}
