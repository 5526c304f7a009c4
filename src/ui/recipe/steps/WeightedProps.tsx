'use client';

import { Plus, Trash2 } from 'lucide-react';
import type { Weighted } from '@/core/arrange/steps/weighted';
import { useDocument } from '@/store/document';
import { PropPicture } from '../../basket/PropPicture';
import { IconButton } from '../../controls/Button';
import { NumberBox } from '../../controls/NumberField';
import { PlainMenu } from '../../controls/PlainMenu';

/** Props that are drawn by weight. */
export function WeightedProps({
  label,
  value,
  onChange,
}: {
  label: string;
  value: Weighted;
  onChange: (value: Weighted, key?: string) => void;
}) {
  const props = useDocument((s) => s.scene.props);
  const propOf = (id: string) => props.find((p) => p.id === id);
  return (
    <>
      <ul aria-label={label}>
        {value.map(({ prop, weight }, i) => {
          const name = propOf(prop)?.name ?? 'missing';
          return (
            <li key={i} className="flex items-center gap-2 py-0.5 text-[13px]">
              <PropPicture prop={propOf(prop)} size={26} />
              <span className="min-w-0 flex-1 truncate">{name}</span>
              <NumberBox
                label={`Weight of ${name}`}
                prefix="×"
                value={weight}
                step={1}
                min={0}
                onChange={(v, key) =>
                  v !== null &&
                  onChange(
                    value.map((p, n) => (n === i ? { ...p, weight: Math.max(0, v) } : p)),
                    key,
                  )
                }
                className="w-16"
              />
              <IconButton
                name={`Take ${name} out`}
                className="!size-5"
                onClick={() => onChange(value.filter((_, n) => n !== i))}
              >
                <Trash2 size={13} />
              </IconButton>
            </li>
          );
        })}
      </ul>
      <div className="flex items-center justify-between text-sm">
        Another prop
        <PlainMenu
          name="Another prop"
          entries={props.map((p) => ({
            text: p.name,
            icon: <PropPicture prop={p} size={22} />,
            run: () => onChange([...value, { prop: p.id, weight: 1 }]),
          }))}
        >
          <Plus size={15} />
        </PlainMenu>
      </div>
    </>
  );
}
