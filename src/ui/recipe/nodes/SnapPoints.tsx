import { Plus, Trash2 } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { IconButton } from '../../controls/Button';
import { PlaceField } from '../../controls/NumberFields';
import { RenameField } from '../RenameField';

type Point = Prop['snapPoints'][number];

/** The named points of a prop, where members and other props may meet it: metres from its foot. */
export function SnapPoints(props: { points: Point[]; onChange: (points: Point[], key?: string) => void }) {
  const { points, onChange } = props;
  const put = (i: number, values: Partial<Point>, key?: string) =>
    onChange(
      points.map((p, k) => (k === i ? { ...p, ...values } : p)),
      key,
    );
  const free = () => {
    for (let n = points.length + 1; ; n++)
      if (!points.some((p) => p.name === `point ${n}`)) return `point ${n}`;
  };
  return (
    <div role="group" aria-label="Snap points" className="mt-1">
      <div className="flex items-center justify-between text-sm">
        Snap points
        <IconButton
          name="Add a snap point"
          onClick={() => onChange([...points, { name: free(), position: [0, 0, 0] }])}
        >
          <Plus size={15} />
        </IconButton>
      </div>
      {points.map((p, i) => (
        <div key={p.name}>
          <div className="flex items-center [&_input]:!font-sans [&_input]:!text-[13px] [&_input]:!font-medium">
            <RenameField
              label={`Name of ${p.name}`}
              name={p.name}
              onRename={(name) => {
                if (!points.some((q) => q.name === name)) put(i, { name });
              }}
            />
            <IconButton
              name={`Remove ${p.name}`}
              className="ml-auto"
              onClick={() => onChange(points.filter((_, k) => k !== i))}
            >
              <Trash2 size={13} />
            </IconButton>
          </div>
          <PlaceField
            label={p.name}
            hint="Metres from the foot: left, up, front"
            value={p.position}
            onChange={(position, key) => put(i, { position }, key)}
          />
        </div>
      ))}
    </div>
  );
}
