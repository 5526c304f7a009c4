'use client';

import { Plus, Trash2 } from 'lucide-react';
import type { AreaFacts } from '@/core/arrange/result';
import type { Scatter, ScatterOver } from '@/core/arrange/scatter/schema';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { IconButton } from '../../../controls/Button';
import { Choice } from '../../../controls/Choice';
import { PlainMenu } from '../../../controls/PlainMenu';
import { Segmented } from '../../../controls/Segmented';

const KINDS = [
  { value: 'surfaces', text: 'Surfaces', hint: 'Over their whole area; places go with their material' },
  { value: 'paths', text: 'Paths', hint: 'Inside closed paths, seen from above' },
  { value: 'volume', text: 'Inside', hint: 'Inside a closed surface' },
] as const;

interface Named {
  id: string;
  name: string;
}

/** What a scatter fills. */
export function AreaStep({ scatter, area }: { scatter: Scatter; area: AreaFacts | undefined }) {
  const { surfaces, paths } = useDocument((s) => s.scene);
  const { id, over } = scatter;
  const set = (next: ScatterOver) => dispatch(setArrangement, { id, values: { over: next } });
  /** Another kind of area keeps what it can of the one before. */
  const become = (kind: ScatterOver['kind']) => {
    if (kind === over.kind) return;
    const own = over.kind === 'surfaces' ? over.surfaces : over.kind === 'volume' ? [over.surface] : [];
    const surface = own[0] ?? surfaces[0]?.id;
    if (kind === 'paths')
      set({
        kind,
        paths: paths
          .filter((p) => p.closed)
          .slice(0, 1)
          .map((p) => p.id),
      });
    else if (kind === 'surfaces') set({ kind, surfaces: surface ? [surface] : [] });
    else if (surface) set({ kind, surface });
  };
  return (
    <>
      <Segmented
        fill
        label="Fills"
        hint="What the places are spread over"
        value={over.kind}
        options={KINDS}
        onChange={become}
      />
      {over.kind === 'volume' && (
        <Choice
          label="Surface"
          hint="The closed surface that is filled"
          value={over.surface}
          options={surfaces.map((s) => ({ value: s.id, text: s.name }))}
          none="Missing"
          onChange={(surface) => set({ kind: 'volume', surface })}
        />
      )}
      {over.kind === 'surfaces' && (
        <Several
          what="surface"
          of={surfaces}
          chosen={over.surfaces}
          onChange={(chosen) => set({ kind: 'surfaces', surfaces: chosen })}
        />
      )}
      {over.kind === 'paths' && (
        <Several
          what="path"
          of={paths}
          chosen={over.paths}
          onChange={(chosen) => set({ kind: 'paths', paths: chosen })}
        />
      )}
      {area && (
        <p className="text-[12.5px] text-soft">
          {Number(area.size.toPrecision(4)).toLocaleString('en-GB')} {area.dimensions === 3 ? 'm³' : 'm²'} in
          all
        </p>
      )}
    </>
  );
}

/** Some of the surfaces, or of the paths, each to be taken out, and another one put beside them. */
function Several(props: {
  what: string;
  of: readonly Named[];
  chosen: string[];
  onChange: (chosen: string[]) => void;
}) {
  const { what, of, chosen, onChange } = props;
  const nameOf = (id: string) => of.find((x) => x.id === id)?.name ?? 'missing';
  const others = of.filter((x) => !chosen.includes(x.id));
  return (
    <>
      <ul aria-label={`Filled ${what}s`} className="mt-1">
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
