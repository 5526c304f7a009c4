'use client';

import {
  ArrowLeftRight,
  Blend,
  Combine,
  Copy,
  Link2,
  PenLine,
  Ruler,
  Scissors,
  Spline,
  Split,
  SquareStack,
  Trash2,
} from 'lucide-react';
import { useState, type ReactNode } from 'react';
import { hasPoints, type PointsPath } from '@/core/curve/schema';
import {
  alignPoints,
  insertMidway,
  joinPaths,
  joinStrokes,
  resamplePath,
  roundCorners,
  simplifyPath,
  splitPath,
  subdividePath,
  weldPath,
} from '@/store/commands/pathEdits';
import { addOffset, removePath, removePoints, reversePath, setPath, setPoints } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { selectNode, useSelection } from '@/store/selection';
import { chooseTool } from '@/view/viewState';
import { Button } from '../../../controls/Button';
import { NumberBox } from '../../../controls/NumberField';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Segmented } from '../../../controls/Segmented';
import { duplicateSelected } from '../../../shell/duplicate';
import { plural } from '@/words/numbers';

const ENDS = [
  { value: 'open', text: 'Open' },
  { value: 'closed', text: 'Closed' },
] as const;

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
      <Segmented
        shown
        label="Ends"
        value={path.closed ? 'closed' : 'open'}
        options={ENDS}
        onChange={(v) => dispatch(setPath, { id, values: { closed: v === 'closed' } })}
      />
      <div className="mt-2 grid grid-cols-3 gap-1.5">
        <Edit icon={<ArrowLeftRight size={14} />} text="Reverse" run={() => dispatch(reversePath, { id })} />
        <Edit icon={<Copy size={14} />} text="Duplicate" run={duplicateSelected} />
        <Edit icon={<Trash2 size={14} />} text="Delete" run={() => dispatch(removePath, { id })} />
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
        <Edit icon={<Blend size={14} />} text="Subdivide" run={() => dispatch(subdividePath, { path: id })} />
        {strokes > 1 && (
          <Edit icon={<Combine size={14} />} text="Join" run={() => dispatch(joinStrokes, { path: id })} />
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
      {ids.length > 0 && (
        <div className="mt-2 rounded-lg bg-well px-2.5 py-2" role="group" aria-label="Selected points">
          <p className="mb-1.5 text-[13px] font-medium">{plural(ids.length, 'point')} selected</p>
          <div className="grid grid-cols-3 gap-1.5">
            <Edit
              icon={<Split size={14} />}
              text="Midway"
              hint="A point in the middle of the side after each"
              run={() => dispatch(insertMidway, { path: id, ids })}
            />
            <Edit
              icon={<Scissors size={14} />}
              text="Split"
              hint="Cut the path at this point"
              disabled={ids.length !== 1}
              run={() => dispatch(splitPath, { path: id, point: ids[0] })}
            />
            <Edit
              icon={<Trash2 size={14} />}
              text="Delete"
              run={() => dispatch(removePoints, { path: id, ids })}
            />
          </div>
          <Measured
            text="Round"
            hint="Makes these points corners with a radius"
            value={points.find((p) => p.id === ids[0])?.fillet || 0.5}
            onValue={(v) => dispatch(roundCorners, { path: id, ids, radius: v })}
            run={() =>
              dispatch(roundCorners, {
                path: id,
                ids,
                radius: points.find((p) => p.id === ids[0])?.fillet || 0.5,
              })
            }
            unit={scene.units}
          />
          <div className="mt-1.5 flex items-center justify-between gap-2 text-sm">
            <label htmlFor="zone">Zone</label>
            <NumberBox
              id="zone"
              label="Zone of the points"
              whole
              min={0}
              max={999}
              value={points.find((p) => p.id === ids[0])?.zone ?? 0}
              className="w-[106px]"
              onChange={(v, key) =>
                v !== null &&
                dispatch(setPoints, { path: id, ids, values: { zone: Math.min(999, Math.max(0, v)) } }, key)
              }
            />
          </div>
          {ids.length > 1 && (
            <div className="mt-1.5 flex items-center justify-between gap-1 text-sm">
              Align
              <span className="flex gap-1">
                {(['level', 'x', 'z', 'nearest'] as const).map((plane) => (
                  <Button
                    key={plane}
                    look="bordered"
                    className="!px-1.5 !py-0.5 !text-xs"
                    aria-label={`Align: ${{ level: 'level', x: 'upright across X', z: 'upright across Z', nearest: 'to their nearest plane' }[plane]}`}
                    onClick={() => dispatch(alignPoints, { path: id, ids, plane })}
                  >
                    {{ level: 'Level', x: 'X', z: 'Z', nearest: 'Plane' }[plane]}
                  </Button>
                ))}
              </span>
            </div>
          )}
        </div>
      )}
    </>
  );
}

/** Whether a point is the first or last of its stroke. */
function isEnd(path: PointsPath, id: string): boolean {
  const { points } = path.source;
  const i = points.findIndex((p) => p.id === id);
  return i === 0 || points[i].begins || i === points.length - 1 || points[i + 1].begins;
}

function Edit({
  icon,
  text,
  hint,
  run,
  disabled,
}: {
  icon: ReactNode;
  text: string;
  hint?: string;
  run: () => void;
  disabled?: boolean;
}) {
  return (
    <Button
      look="bordered"
      className="!gap-1 !px-0.5 !text-[12.5px]"
      title={hint}
      disabled={disabled}
      onClick={run}
    >
      {icon} {text}
    </Button>
  );
}

/** An edit by a measure: typing or the button does it. */
function Measured(props: {
  text: string;
  hint: string;
  value: number;
  unit: 'm' | 'cm';
  onValue: (v: number) => void;
  run: () => void;
}) {
  return (
    <div className="mt-1.5 flex items-center gap-1.5" title={props.hint}>
      <Button look="bordered" className="flex-1 !justify-start !px-2 !text-[12.5px]" onClick={props.run}>
        <Ruler size={13} /> {props.text}
      </Button>
      <NumberBox
        label={`${props.text} by`}
        dimension="length"
        unit={props.unit}
        step={0.05}
        min={0}
        value={props.value}
        className="w-[106px]"
        onChange={(v) => v !== null && props.onValue(v)}
      />
    </div>
  );
}
