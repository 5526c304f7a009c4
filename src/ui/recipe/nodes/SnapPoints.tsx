import { ArrowDownAZ, ChevronDown, ChevronUp, Plus, Trash2 } from 'lucide-react';
import type { Prop } from '@/core/mesh/propSchema';
import { renameSnap } from '@/store/commands/snapNames';
import { dispatch } from '@/store/document';
import { chooseTool, useView } from '@/view/viewState';
import { Button, IconButton } from '../../controls/Button';
import { PlaceField } from '../../controls/NumberFields';
import { RenameField } from '../RenameField';

type Point = Prop['snapPoints'][number];

/** The named points of a prop, where members and other props may meet it: metres from its foot. */
export function SnapPoints(props: {
  prop: string;
  points: Point[];
  onChange: (points: Point[], key?: string) => void;
}) {
  const { prop, points, onChange } = props;
  const picking = useView((s) => s.tool === 'snap-point' && s.snapPick?.prop === prop);
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
        <Button
          look={picking ? 'ink' : 'bordered'}
          className="ml-auto !px-2 !py-0.5 !text-xs"
          title="Click on a placed copy of it: a corner, the middle of an edge, anywhere on a face"
          onClick={() => {
            chooseTool(picking ? 'pick' : 'snap-point');
            useView.setState({ snapPick: { prop, said: null } });
          }}
        >
          {picking ? 'Done' : 'Pick in the scene'}
        </Button>
        <IconButton
          name="Sort by name"
          disabled={points.length < 2}
          onClick={() => onChange(points.toSorted((a, b) => byName.compare(a.name, b.name)))}
        >
          <ArrowDownAZ size={15} />
        </IconButton>
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
                if (!points.some((q) => q.name === name))
                  dispatch(renameSnap, { prop, from: p.name, to: name });
              }}
            />
            <IconButton
              name={`${p.name} earlier`}
              className="ml-auto"
              disabled={i === 0}
              onClick={() => onChange(moved(points, i, i - 1))}
            >
              <ChevronUp size={13} />
            </IconButton>
            <IconButton
              name={`${p.name} later`}
              disabled={i === points.length - 1}
              onClick={() => onChange(moved(points, i, i + 1))}
            >
              <ChevronDown size={13} />
            </IconButton>
            <IconButton name={`Remove ${p.name}`} onClick={() => onChange(points.filter((_, k) => k !== i))}>
              <Trash2 size={13} />
            </IconButton>
          </div>
          <PlaceField
            label={p.name}
            hint="Metres from the foot: left, up, front"
            value={p.position}
            onChange={(position, key) => put(i, { position }, key)}
          />
          {p.direction && (
            <PlaceField
              way
              label={`${p.name} points to`}
              hint="Its direction: left, up, front; stiff lines leave it that way"
              value={p.direction}
              onChange={(direction, key) => put(i, { direction }, key)}
            />
          )}
          <div className="flex justify-end gap-1">
            {!p.direction && (
              <Button
                title="Stiff lines leave it in its direction"
                className="!px-1.5 !py-0.5 !text-xs text-soft"
                onClick={() => put(i, { direction: [0, 0, 1] })}
              >
                Direction
              </Button>
            )}
            <Button
              title="The same on the other side, left and right"
              className="!px-1.5 !py-0.5 !text-xs text-soft"
              onClick={() => onChange([...points, mirrored(p, points)])}
            >
              Mirror
            </Button>
          </div>
        </div>
      ))}
    </div>
  );
}

/** "post 2" before "post 10". */
const byName = new Intl.Collator('en', { numeric: true });

const moved = (points: readonly Point[], from: number, to: number): Point[] => {
  const out = points.filter((_, k) => k !== from);
  out.splice(to, 0, points[from]);
  return out;
};

/** A point on the other side of a prop, by a name that is free. */
function mirrored(p: Point, points: readonly Point[]): Point {
  const flipped = ([x, y, z]: Point['position']): Point['position'] => [x === 0 ? 0 : -x, y, z];
  const swap: Record<string, string> = { left: 'right', right: 'left' };
  const other = p.name.replace(/\b(left|right)\b/, (side) => swap[side]);
  let name = other === p.name ? `${p.name} mirrored` : other;
  for (let n = 2; points.some((q) => q.name === name); n++) name = `${other} ${n}`;
  return {
    ...p,
    name,
    position: flipped(p.position),
    ...(p.direction && { direction: flipped(p.direction) }),
  };
}
