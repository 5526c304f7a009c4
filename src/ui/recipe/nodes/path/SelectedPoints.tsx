import { Flag, Scissors, Split, Trash2 } from 'lucide-react';
import type { PointsPath } from '@/core/curve/schema';
import { alignPoints, beginAt, insertMidway, roundCorners, splitPath } from '@/store/commands/pathEdits';
import { removePoints, setPoints } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { plural } from '@/words/numbers';
import { Button } from '../../../controls/Button';
import { NumberBox } from '../../../controls/NumberField';
import { ConnectedPoint } from './ConnectedPoint';
import { Edit, Measured } from './Edit';

const PLANES = {
  level: { text: 'Level', name: 'level' },
  x: { text: 'X', name: 'upright across X' },
  z: { text: 'Z', name: 'upright across Z' },
  nearest: { text: 'Plane', name: 'to their nearest plane' },
} as const;

/** What can be done to the selected points of a path. */
export function SelectedPoints({ path, ids }: { path: PointsPath; ids: string[] }) {
  const units = useDocument((s) => s.scene.units);
  const { id } = path;
  const first = path.source.points.find((p) => p.id === ids[0]);
  const round = (radius: number) => dispatch(roundCorners, { path: id, ids, radius });
  return (
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
        {path.closed && (
          <Edit
            icon={<Flag size={14} />}
            text="Begin here"
            hint="The loop begins at this point: slots are counted from here"
            disabled={ids.length !== 1}
            run={() => dispatch(beginAt, { path: id, point: ids[0] })}
          />
        )}
        <Edit
          icon={<Trash2 size={14} />}
          text="Delete"
          hint="The neighbours are joined without them"
          run={() => dispatch(removePoints, { path: id, ids })}
        />
      </div>
      <Measured
        text="Round"
        hint="Makes these points corners with a radius"
        value={first?.fillet || 0.5}
        onValue={round}
        run={() => round(first?.fillet || 0.5)}
        unit={units}
      />
      {path.source.points.some((p) => p.kind === 'smooth' && ids.includes(p.id)) && (
        <div className="mt-1.5 flex items-center justify-between gap-2 text-sm">
          <label htmlFor="tension" title="How tightly smooth points round their corner: 100 % goes straight">
            Tension
          </label>
          <NumberBox
            id="tension"
            label="Tension of the points"
            dimension="percent"
            step={0.05}
            min={0}
            max={1}
            value={first?.tension ?? 0}
            className="w-[106px]"
            onChange={(v, key) =>
              v !== null && dispatch(setPoints, { path: id, ids, values: { tension: v } }, key)
            }
          />
        </div>
      )}
      <div className="mt-1.5 flex items-center justify-between gap-2 text-sm">
        <label htmlFor="zone">Zone</label>
        <NumberBox
          id="zone"
          label="Zone of the points"
          whole
          min={0}
          max={999}
          value={first?.zone ?? 0}
          className="w-[106px]"
          onChange={(v, key) =>
            v !== null &&
            dispatch(setPoints, { path: id, ids, values: { zone: Math.min(999, Math.max(0, v)) } }, key)
          }
        />
      </div>
      {ids.length === 1 && <ConnectedPoint path={path} point={ids[0]} />}
      {ids.length > 1 && (
        <div className="mt-1.5 flex items-center justify-between gap-1 text-sm">
          Align
          <span className="flex gap-1">
            {(Object.keys(PLANES) as (keyof typeof PLANES)[]).map((plane) => (
              <Button
                key={plane}
                look="bordered"
                title="Puts the selected points into one plane, halfway between them"
                className="!px-1.5 !py-0.5 !text-xs"
                aria-label={`Align: ${PLANES[plane].name}`}
                onClick={() => dispatch(alignPoints, { path: id, ids, plane })}
              >
                {PLANES[plane].text}
              </Button>
            ))}
          </span>
        </div>
      )}
    </div>
  );
}
