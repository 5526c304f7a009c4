'use client';

import type { Vec3 } from '@/core/math/vec3';
import type { PointsPath } from '@/core/curve/schema';
import { movePoints } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { selectPoint, selectPoints, useSelection } from '@/store/selection';
import { Button } from '../../../controls/Button';
import { VirtualList } from '../../../controls/VirtualList';
import { NumberBox } from '../../../controls/NumberField';

/** The points of a path by numbers. */
export function PointList({ path }: { path: PointsPath }) {
  const units = useDocument((s) => s.scene.units);
  const selected = useSelection((s) => s.points);
  const { points } = path.source;
  const chosen = new Set(selected?.ids);
  const move = (point: string, from: Vec3, axis: number, value: number, key?: string) => {
    const to: Vec3 = [...from];
    to[axis] = value;
    dispatch(movePoints, { path: path.id, to: { [point]: to } }, key);
  };
  return (
    <>
      <div className="mb-1 mt-4 flex items-center justify-between">
        <h3 className="font-display text-sm font-semibold">Points</h3>
        <Button
          title="Takes all points of the path in hand"
          className="!px-1.5 !py-0.5 text-soft"
          onClick={() =>
            selectPoints(
              path.id,
              points.map((p) => p.id),
            )
          }
        >
          Select all
        </Button>
      </div>
      <p className="mb-1.5 text-[12.5px] text-soft">
        Click the path in the scene to insert one. Shift-click or Shift-drag selects several.
      </p>
      <table className="w-full text-sm">
        <thead className="text-left text-xs text-soft">
          <tr>
            <th className="font-normal">#</th>
            <th className="font-normal">X</th>
            <th className="font-normal">Y</th>
            <th className="font-normal">Z</th>
          </tr>
        </thead>
        <VirtualList as="tbody" space="tr" count={points.length} height={32}>
          {(i) => {
            const p = points[i];
            return (
              <tr key={p.id} className={p.begins ? 'border-t border-edge' : undefined}>
                <td>
                  <button
                    type="button"
                    aria-label={`Select point ${i + 1}`}
                    title="Takes this point in hand"
                    onClick={(e) => selectPoint(path.id, p.id, e.shiftKey)}
                    className={`num size-6 rounded text-xs ${chosen.has(p.id) ? 'bg-ink-900 text-linen-50' : 'hover:bg-groove'}`}
                  >
                    {i + 1}
                  </button>
                </td>
                {p.position.map((v, axis) => (
                  <td key={axis} className="p-0.5">
                    <NumberBox
                      label={`Point ${i + 1} ${'XYZ'[axis]} in the list`}
                      value={v}
                      dimension="length"
                      unit={units}
                      step={0.1}
                      className="!px-1.5 [&_span]:hidden"
                      onChange={(value, key) => value !== null && move(p.id, p.position, axis, value, key)}
                    />
                  </td>
                ))}
              </tr>
            );
          }}
        </VirtualList>
      </table>
    </>
  );
}
