'use client';

import { useDocument } from '@/store/document';
import { finishDrawing } from '@/view/drawTool';
import { useSnap } from '@/view/snap/snapState';
import { setDrawAs, useView } from '@/view/viewState';
import { Button } from '../controls/Button';
import { Segmented } from '../controls/Segmented';
import { Toggle } from '../controls/Toggle';

const KINDS = [
  { value: 'smooth', text: 'Smooth' },
  { value: 'corner', text: 'Corners' },
] as const;
const PLANES = [
  { value: 'auto', text: 'Surfaces', hint: 'What is under the pointer: a surface, else the ground' },
  { value: 'ground', text: 'Ground', hint: 'The ground alone, at height 0' },
  { value: 'x', text: 'Across X', hint: 'An upright plane through the last point' },
  { value: 'z', text: 'Across Z', hint: 'An upright plane through the last point' },
  { value: 'view', text: 'Facing', hint: 'The plane that faces you, through the last point' },
] as const;

/** While a path is drawn: what the points are, where they go, and the next step. */
export function DrawOptions() {
  const { plane, pointKind, stays } = useView();
  const { points, onto } = useView((s) => s.drawing);
  const parts = useSnap((s) => (s.on ? s.parts : 1));
  const path = useDocument((s) => s.scene.paths.find((p) => p.id === onto?.path)?.name);
  const count = points.length;
  const enough = count >= (onto?.point ? 1 : 2);
  const doing = onto ? (onto.point ? `Going on with ${path}. ` : `Another stroke of ${path}. `) : '';
  return (
    <div className="absolute inset-x-0 top-[70px] mx-auto flex w-fit max-w-[96%] flex-col items-center gap-1.5">
      <div className="flex flex-wrap items-center justify-center gap-x-4 gap-y-1 rounded-lg bg-paper/95 px-2 py-1 shadow">
        <Segmented
          label="Kind of the points"
          hint="What points are that are drawn now"
          value={pointKind}
          options={KINDS}
          onChange={(k) => setDrawAs({ pointKind: k })}
        />
        <Segmented
          label="Where points go"
          hint="On what a click puts a point"
          value={plane}
          options={PLANES}
          onChange={(p) => setDrawAs({ plane: p })}
        />
        {plane === 'auto' && !onto && (
          <Toggle
            label="Stay on it"
            hint="What is drawn on one surface lies on it between the points too, and goes with it"
            value={stays}
            onChange={(v) => setDrawAs({ stays: v })}
          />
        )}
      </div>
      <div
        className="flex items-center gap-3 rounded-lg bg-paper/95 px-3 py-1.5 text-[12.5px] shadow"
        role="status"
      >
        <span>
          {doing}
          {count === 0 && !onto && 'Click where the path begins; the end of another path goes on with it.'}
          {count === 0 && onto && 'Click the next point.'}
          {count > 0 && !enough && 'Click the next point. Escape takes the last one back.'}
          {enough &&
            `Enter or a double click finishes${count >= 3 && !onto ? '; a click on the first point closes the loop' : ''}.`}
          {parts > 1 ? ` Snaps to ${parts} parts.` : ' A number divides every path for snapping.'}
        </span>
        {enough && (
          <Button
            look="ink"
            title="The path ends at its last point (Enter)"
            onClick={() => finishDrawing(false)}
          >
            Finish
          </Button>
        )}
      </div>
    </div>
  );
}
