'use client';

import type { AreaFacts } from '@/core/arrange/result';
import type { Scatter, ScatterOver } from '@/core/arrange/scatter/schema';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Choice } from '../../../controls/Choice';
import { NumberField } from '../../../controls/NumberField';
import { Segmented } from '../../../controls/Segmented';
import { SeveralNodes } from '../../../controls/SeveralNodes';

const KINDS = [
  { value: 'surfaces', text: 'Surfaces', hint: 'Over their whole area; places go with their material' },
  { value: 'paths', text: 'Paths', hint: 'Inside closed paths, seen from above' },
  { value: 'volume', text: 'Inside', hint: 'Inside a closed surface' },
] as const;

const OPEN = [
  { value: 'as-is', text: 'As it is', hint: 'As well as it goes' },
  { value: 'closed', text: 'Closed', hint: 'With a lid over each border' },
  { value: 'box', text: 'Its box', hint: 'The box about it' },
] as const;

/** What a scatter fills. */
export function AreaStep({ scatter, area }: { scatter: Scatter; area: AreaFacts | undefined }) {
  const { surfaces, paths } = useDocument((s) => s.scene);
  const { id, over } = scatter;
  const units = useDocument((s) => s.scene.units);
  const open = useEngine((s) =>
    s.result.arrangements.get(id)?.findings.some((f) => f.kind === 'area-volume-open'),
  );
  const set = (next: ScatterOver, key?: string) =>
    dispatch(setArrangement, { id, values: { over: next } }, key);
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
    else if (surface) set({ kind, surface, open: 'as-is', shell: null });
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
          onChange={(surface) => set({ ...over, surface })}
        />
      )}
      {over.kind === 'volume' && (open || over.open !== 'as-is') && (
        <Segmented
          shown
          tight
          label="It is open"
          hint="What its inside is, as long as it has a border"
          value={over.open}
          options={OPEN}
          onChange={(how) => set({ ...over, open: how })}
        />
      )}
      {over.kind === 'volume' && (
        <NumberField
          label="Shell"
          hint="Only so near to the surface; empty: all of the inside"
          dimension="length"
          unit={units}
          step={0.1}
          min={0}
          value={over.shell ?? 1}
          auto={over.shell === null ? 'all of it' : undefined}
          reset={null}
          onChange={(shell, key) => set({ ...over, shell: shell === null ? null : Math.max(0, shell) }, key)}
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
