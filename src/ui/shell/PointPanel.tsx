'use client';

import { Trash2 } from 'lucide-react';
import { memo } from 'react';
import { hasPoints, type PathPoint } from '@/core/curve/schema';
import type { Vec3 } from '@/core/math/vec3';
import type { Scene } from '@/core/scene/schema';
import { movePoints, removePoints, setPoint, setPointKind } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { useSelection } from '@/store/selection';
import { shownPoints } from '@/view/onSurface';
import { IconButton } from '../controls/Button';
import { NumberBox } from '../controls/NumberField';
import { Segmented } from '../controls/Segmented';
import { useBeside } from './useBeside';

const KINDS = [
  { value: 'smooth', text: 'Smooth' },
  { value: 'corner', text: 'Corner' },
  { value: 'free', text: 'Free' },
] as const;
/** So many points before and after it are kept clear of where that is possible. */
const NEIGHBOURS = 40;
const SIZE = { width: 288, height: 148 };

/** The small dark panel beside the selected point. */
export function PointPanel() {
  const selected = useSelection((s) => s.points);
  const found = useDocument((s) => s.scene.paths.find((p) => p.id === selected?.path));
  const path = hasPoints(found) ? found : undefined;
  const units = useDocument((s) => s.scene.units);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const index =
    path && selected?.ids.length === 1 ? path.source.points.findIndex((p) => p.id === selected.ids[0]) : -1;
  const point: PathPoint | undefined = path?.source.points[index];
  const result = useEngine((s) => (path ? s.result.paths.get(path.id) : undefined));
  const all = path && index >= 0 ? shownPoints(path, result) : [];
  const shown = all[index]?.position ?? null;
  const at = useBeside(
    shown,
    SIZE,
    all
      .slice(Math.max(0, index - NEIGHBOURS), index + NEIGHBOURS)
      .filter((p) => p.id !== point?.id)
      .map((p) => p.position),
  );
  if (!path || !point || !at || readOnly) return null;
  return (
    <div
      role="group"
      aria-label={`Point ${index + 1} of ${path.name}`}
      className="absolute z-10 rounded-lg bg-ink-900 p-2 text-linen-50 shadow-xl"
      style={{ ...at, width: SIZE.width }}
    >
      <PointFields path={path.id} index={index} point={point} units={units} />
    </div>
  );
}

/** What the point is: made anew with it, not with each frame in which the panel moves along. */
const PointFields = memo(function PointFields({
  path,
  index,
  point,
  units,
}: {
  path: string;
  index: number;
  point: PathPoint;
  units: Scene['units'];
}) {
  const set = (values: Partial<Omit<PathPoint, 'id' | 'position'>>, key?: string) =>
    dispatch(setPoint, { path, id: point.id, values }, key);
  const move = (axis: number, value: number, key?: string) => {
    const to: Vec3 = [...point.position];
    to[axis] = value;
    dispatch(movePoints, { path, to: { [point.id]: to } }, key);
  };
  const dark = '!border-ink-500 !bg-ink-700/60 !px-1.5 text-linen-50 [&_input]:h-6 [&_span]:!text-linen-300';
  const small = 'text-[12px] text-linen-300';
  return (
    <>
      <div className="flex items-center justify-between">
        <span className="pl-1 text-[13px] font-medium">Point {index + 1}</span>
        <Segmented
          dark
          label="Kind of point"
          hint="How the path goes through this point"
          value={point.kind}
          options={KINDS}
          onChange={(kind) => dispatch(setPointKind, { path, id: point.id, kind })}
        />
        <IconButton
          name="Delete the point"
          keys="Delete"
          className="!text-linen-300 hover:!bg-ink-700 hover:!text-linen-50"
          onClick={() => dispatch(removePoints, { path, ids: [point.id] })}
        >
          <Trash2 size={14} />
        </IconButton>
      </div>
      <div className="mt-1.5 grid grid-cols-3 gap-1.5">
        {(['X', 'Y', 'Z'] as const).map((name, axis) => (
          <NumberBox
            key={name}
            label={`Point ${name}`}
            prefix={name}
            value={point.position[axis]}
            dimension="length"
            unit={units}
            step={0.1}
            onChange={(v, key) => v !== null && move(axis, v, key)}
            className={dark}
          />
        ))}
      </div>
      <div className="mt-1.5 grid grid-cols-[auto_1fr_auto_1fr] items-center gap-1.5">
        <span className={`pl-1 ${small}`}>Roll</span>
        <NumberBox
          label="Point roll"
          value={point.rollDeg}
          dimension="angle"
          step={5}
          onChange={(v, key) => v !== null && set({ rollDeg: v }, key)}
          className={dark}
        />
        {point.kind === 'smooth' && (
          <>
            <span className={small}>Tension</span>
            <NumberBox
              label="Point tension"
              value={point.tension}
              dimension="percent"
              step={0.05}
              min={0}
              max={1}
              onChange={(v, key) => v !== null && set({ tension: Math.min(1, Math.max(0, v)) }, key)}
              className={dark}
            />
          </>
        )}
        {point.kind === 'corner' && (
          <>
            <span className={small}>Fillet</span>
            <NumberBox
              label="Point fillet"
              value={point.fillet}
              dimension="length"
              unit={units}
              step={0.1}
              min={0}
              onChange={(v, key) => v !== null && set({ fillet: Math.max(0, v) }, key)}
              className={dark}
            />
          </>
        )}
        <span className={`pl-1 ${small}`}>Size</span>
        <NumberBox
          label="Point size"
          value={point.size}
          dimension="percent"
          step={0.05}
          min={0.01}
          onChange={(v, key) => v !== null && set({ size: Math.max(0.01, v) }, key)}
          className={dark}
        />
        <span className={small}>Zone</span>
        <NumberBox
          label="Point zone"
          whole
          value={point.zone}
          min={0}
          max={999}
          onChange={(v, key) => v !== null && set({ zone: Math.min(999, Math.max(0, v)) }, key)}
          className={dark}
        />
      </div>
    </>
  );
});
