'use client';

import { isOwnMesh } from '@/core/mesh/meshRef';
import type { Surface } from '@/core/mesh/surfaceSchema';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch } from '@/store/document';
import { engine, useEngine } from '@/store/engine';
import { Choice } from '../../../controls/Choice';
import { NumberField } from '../../../controls/NumberField';
import { Toggle } from '../../../controls/Toggle';

/** The animation that a mesh brings along, where it has some. */
export function Plays({ surface }: { surface: Surface }) {
  // What the mesh brings is known once it has been worked out.
  useEngine((s) => s.result.surfaces.get(surface.id)?.key);
  const { id, mesh, plays } = surface;
  const clips = isOwnMesh(mesh) ? engine().clipsOf(mesh) : [];
  if (clips.length === 0 && !plays) return null;
  const set = (values: Partial<NonNullable<Surface['plays']>>, key?: string) =>
    plays && dispatch(setSurface, { id, values: { plays: { ...plays, ...values } } }, key);
  return (
    <section aria-label="Animation">
      <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Animation</h3>
      <Choice
        label="Plays"
        hint="An animation that the file brought"
        value={plays?.clip ?? ''}
        options={[
          { value: '', text: 'Nothing' },
          ...clips.map((c) => ({ value: c.name, text: `${c.name}, ${Number(c.duration.toFixed(2))} s` })),
        ]}
        none={`${plays?.clip} (missing)`}
        onChange={(clip) =>
          dispatch(setSurface, {
            id,
            values: { plays: clip ? { speed: 1, loop: true, ...plays, clip } : null },
          })
        }
      />
      {plays && (
        <>
          <NumberField
            label="Speed"
            hint="Of its own speed; negative runs backwards"
            dimension="percent"
            step={0.1}
            value={plays.speed}
            reset={1}
            onChange={(v, key) => set({ speed: v ?? 1 }, key)}
          />
          <Toggle
            label="Begins again"
            hint="At its end it begins again, else it stays there"
            value={plays.loop}
            onChange={(loop) => set({ loop })}
          />
        </>
      )}
    </section>
  );
}
