'use client';

import { useDocument } from '@/store/document';
import { Toggle } from './Toggle';

/** Every surface that is shown, or some of them by name. An empty list is all of them. */
export function SurfacesChoice({
  legend,
  chosen,
  onChange,
}: {
  legend: string;
  chosen: readonly string[];
  onChange: (surfaces: string[]) => void;
}) {
  const surfaces = useDocument((s) => s.scene.surfaces);
  if (surfaces.length === 0)
    return (
      <p className="my-1.5 text-[12.5px] text-soft">No surface yet: make one in the list, or bring one in.</p>
    );
  const all = chosen.length === 0;
  return (
    <fieldset className="my-1">
      <legend className="sr-only">{legend}</legend>
      <Toggle
        label="Every surface shown"
        hint="All surfaces that are shown carry, new ones too"
        value={all}
        onChange={(every) => onChange(every ? [] : [surfaces[0].id])}
      />
      {!all && (
        <div className="thin-scroll ml-2 max-h-40 overflow-y-auto border-l-2 border-edge pl-2">
          {surfaces.map((s) => (
            <Toggle
              key={s.id}
              label={s.name}
              hint={`“${s.name}” carries`}
              value={chosen.includes(s.id)}
              onChange={(on) => {
                const next = on ? [...chosen, s.id] : chosen.filter((id) => id !== s.id);
                // Without any it would be all of them.
                if (next.length > 0) onChange(next);
              }}
            />
          ))}
        </div>
      )}
    </fieldset>
  );
}
