'use client';

import { Plus, Trash2 } from 'lucide-react';
import { IconButton } from './Button';
import { PlainMenu } from './PlainMenu';

/** Some nodes of a list, each to be taken out, and another one put beside them. */
export function SeveralNodes(props: {
  /** What one of them is called: surface, path … */
  what: string;
  label: string;
  of: readonly { id: string; name: string }[];
  chosen: readonly string[];
  onChange: (chosen: string[]) => void;
}) {
  const { what, label, of, chosen, onChange } = props;
  const nameOf = (id: string) => of.find((x) => x.id === id)?.name ?? 'missing';
  const others = of.filter((x) => !chosen.includes(x.id));
  return (
    <>
      <ul aria-label={label} className="mt-1">
        {chosen.map((id) => (
          <li key={id} className="flex items-center justify-between gap-2 py-0.5 text-[13px]">
            <span className="min-w-0 truncate">{nameOf(id)}</span>
            <IconButton
              name={`Take ${nameOf(id)} out`}
              className="!size-5"
              onClick={() => onChange(chosen.filter((c) => c !== id))}
            >
              <Trash2 size={13} />
            </IconButton>
          </li>
        ))}
      </ul>
      {others.length > 0 && (
        <div className="flex items-center justify-between text-sm">
          Another {what}
          <PlainMenu
            name={`Another ${what}`}
            entries={others.map((x) => ({ text: x.name, run: () => onChange([...chosen, x.id]) }))}
          >
            <Plus size={15} />
          </PlainMenu>
        </div>
      )}
    </>
  );
}
