'use client';

import type { AreaFacts } from '@/core/arrange/result';
import type { Scatter, ScatterOver } from '@/core/arrange/scatter/schema';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { Choice } from '../../../controls/Choice';
import { Segmented } from '../../../controls/Segmented';
import { SeveralNodes } from '../../../controls/SeveralNodes';

const KINDS = [
  { value: 'surfaces', text: 'Surfaces', hint: 'Over their whole area; places go with their material' },
  { value: 'paths', text: 'Paths', hint: 'Inside closed paths, seen from above' },
  { value: 'volume', text: 'Inside', hint: 'Inside a closed surface' },
] as const;

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
        <SeveralNodes
          what="surface"
          label="Filled surfaces"
          of={surfaces}
          chosen={over.surfaces}
          onChange={(chosen) => set({ kind: 'surfaces', surfaces: chosen })}
        />
      )}
      {over.kind === 'paths' && (
        <SeveralNodes
          what="path"
          label="Filled paths"
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
