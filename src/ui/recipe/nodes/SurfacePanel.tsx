'use client';

import type { Surface } from '@/core/scene/schema';
import { removeSurface, setSurface } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { Button } from '../../controls/Button';
import { NumberField } from '../../controls/NumberField';
import { takesFrom } from '../../lists/newPath';
import { plural } from '../../words/numbers';
import { AxisField, UnitField } from './MeshFields';
import { NodeHead } from './NodeHead';

export function SurfacePanel({ id }: { id: string }) {
  const surface = useDocument((s) => s.scene.surfaces.find((x) => x.id === id));
  const unit = useDocument((s) => s.scene.units);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const faces = useEngine((s) => s.result.surfaces.get(id)?.faces);
  if (!surface) return null;
  const set = (values: Partial<Omit<Surface, 'id' | 'mesh'>>, key?: string) =>
    dispatch(setSurface, { id, values }, key);
  return (
    <>
      <NodeHead
        name={surface.name}
        kind="surface"
        color="var(--color-linen-400)"
        detail={
          faces === undefined ? 'Its mesh is not at hand. Bring the file in again.' : plural(faces, 'face')
        }
        onRename={(name) => set({ name })}
        menu={[{ text: 'Delete', danger: true, run: () => dispatch(removeSurface, { id }) }]}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-2">
        {(['X', 'Y', 'Z'] as const).map((name, axis) => (
          <NumberField
            key={name}
            label={`Position ${name}`}
            dimension="length"
            unit={unit}
            step={0.1}
            value={surface.position[axis]}
            reset={0}
            onChange={(v, key) =>
              set(
                {
                  position: surface.position.map((p, i) =>
                    i === axis ? (v ?? 0) : p,
                  ) as Surface['position'],
                },
                key,
              )
            }
          />
        ))}
        <NumberField
          label="Turn"
          dimension="angle"
          step={5}
          value={surface.turnDeg}
          reset={0}
          onChange={(v, key) => set({ turnDeg: v ?? 0 }, key)}
        />
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Take a path</h3>
        <div className="mb-2 grid gap-1">
          {takesFrom(surface).map((t) => (
            <Button key={t.text} look="bordered" className="!justify-start !text-[12.5px]" onClick={t.run}>
              {t.text}
            </Button>
          ))}
        </div>
        <UnitField value={surface.unitScale} onChange={(unitScale) => set({ unitScale })} />
        <AxisField label="Up axis" value={surface.up} onChange={(up) => set({ up })} />
      </fieldset>
    </>
  );
}
