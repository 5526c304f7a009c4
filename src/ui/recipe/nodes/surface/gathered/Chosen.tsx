import { useState } from 'react';
import { Toggle } from '../../../../controls/Toggle';

/** Some of a list of things, each switched on and off by its name; those that were chosen when it came up stand first. */
export function Chosen({
  all,
  ids,
  hint,
  onChange,
}: {
  all: readonly { id: string; name: string }[];
  ids: readonly string[];
  hint: (name: string) => string;
  onChange: (ids: string[]) => void;
}) {
  const [first] = useState(ids);
  const sorted = [...all].sort((a, b) => Number(first.includes(b.id)) - Number(first.includes(a.id)));
  return (
    <div className="thin-scroll mb-2 ml-2 max-h-40 overflow-y-auto border-l-2 border-edge pl-2">
      {sorted.map(({ id, name }) => (
        <Toggle
          key={id}
          label={name}
          hint={hint(name)}
          value={ids.includes(id)}
          onChange={(on) => onChange(on ? [...ids, id] : ids.filter((o) => o !== id))}
        />
      ))}
    </div>
  );
}
