'use client';

import type { Target } from '@/core/arrange/steps/schema';
import { useDocument } from '@/store/document';
import { Choice } from '../../controls/Choice';
import { NumberBox } from '../../controls/NumberField';

/** What fronts point to: a point, a path, or the props of another arrangement. */
export function TargetFields(props: {
  /** The arrangement that looks: it is no target of its own. */
  id: string;
  target: Target;
  set: (values: { target: Target }, key?: string) => void;
}) {
  const { id: own, target, set } = props;
  const scene = useDocument((s) => s.scene);
  const others = scene.arrangements.filter((a) => a.id !== own);
  const options = [
    { value: 'point', text: 'a point' },
    ...scene.paths.map((p) => ({ value: p.id, text: `path ${p.name}` })),
    ...others.map((a) => ({ value: a.id, text: `props of ${a.name}` })),
  ];
  const value = target.kind === 'point' ? 'point' : target.kind === 'path' ? target.path : target.arrangement;
  const choose = (id: string) => {
    const next: Target =
      id === 'point'
        ? { kind: 'point', position: [0, 0, 0] }
        : scene.paths.some((p) => p.id === id)
          ? { kind: 'path', path: id }
          : { kind: 'props', arrangement: id, slot: null };
    set({ target: next });
  };
  return (
    <>
      <Choice
        label="Look at"
        hint="What the fronts point to"
        value={value}
        options={options}
        none="missing"
        onChange={choose}
      />
      {target.kind === 'point' && (
        <div className="grid grid-cols-3 gap-1.5">
          {(['X', 'Y', 'Z'] as const).map((name, axis) => (
            <NumberBox
              key={name}
              label={`Target ${name}`}
              prefix={name}
              dimension="length"
              unit={scene.units}
              step={0.1}
              value={target.position[axis]}
              className="!px-1.5"
              onChange={(v, key) =>
                v !== null &&
                set(
                  {
                    target: {
                      kind: 'point',
                      position: target.position.map((p, i) => (i === axis ? v : p)) as [
                        number,
                        number,
                        number,
                      ],
                    },
                  },
                  key,
                )
              }
            />
          ))}
        </div>
      )}
      {target.kind === 'props' && (
        <label className="flex min-h-9 items-center justify-between gap-3 text-sm">
          Slot
          <input
            aria-label="Slot to look at"
            title="The number of one slot; empty: the nearest one"
            placeholder="nearest"
            defaultValue={target.slot ?? ''}
            onBlur={(e) =>
              set({ target: { ...target, slot: e.target.value.trim().replace(/^#/, '') || null } })
            }
            onKeyDown={(e) => e.key === 'Enter' && e.currentTarget.blur()}
            className="num w-[106px] rounded-md border border-edge bg-card px-2 py-1 text-sm"
          />
        </label>
      )}
    </>
  );
}
