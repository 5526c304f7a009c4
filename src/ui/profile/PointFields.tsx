import type { PathPoint, PointsPath } from '@/core/curve/schema';
import type { ProfilePlane } from '@/core/mesh/make/profilePlane';
import { movePoints, setPointKind } from '@/store/commands/paths';
import { dispatch, useDocument } from '@/store/document';
import { NumberField } from '../controls/NumberField';
import { Segmented } from '../controls/Segmented';
import { flatOf, placedAt } from './profile';

/** A point of a profile in numbers: how far to the right and up, and how the line goes through it. */
export function PointFields({
  path,
  point,
  plane,
}: {
  path: PointsPath;
  point: PathPoint;
  plane: ProfilePlane;
}) {
  const units = useDocument((s) => s.scene.units);
  const at = flatOf(point.position, plane);
  return (
    <div className="flex shrink-0 items-center gap-3">
      {(['Right', 'Up'] as const).map((label, k) => (
        <NumberField
          key={label}
          label={label}
          hint={`Metres ${label === 'Right' ? 'to the right' : 'up'} in the plane of the profile`}
          dimension="length"
          unit={units}
          step={0.01}
          value={at[k]}
          onChange={(v, key) => {
            if (v === null) return;
            const to: [number, number] = k === 0 ? [v, at[1]] : [at[0], v];
            dispatch(
              movePoints,
              { path: path.id, to: { [point.id]: placedAt(point.position, plane, to) } },
              key,
            );
          }}
        />
      ))}
      <Segmented
        label="Kind of point"
        hint="How the line goes through this point"
        value={point.kind}
        options={[
          { value: 'corner', text: 'Corner' },
          { value: 'smooth', text: 'Smooth' },
          { value: 'free', text: 'Free' },
        ]}
        onChange={(kind) => dispatch(setPointKind, { path: path.id, id: point.id, kind })}
      />
    </div>
  );
}
