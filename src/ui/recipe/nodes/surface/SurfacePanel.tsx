'use client';

import type { Surface } from '@/core/mesh/surfaceSchema';
import { setSurface } from '@/store/commands/surfaces';
import { dispatch, useDocument } from '@/store/document';
import { useEngine } from '@/store/engine';
import { setSurfaceMarks, useView, type SurfaceMarks } from '@/view/viewState';
import { Button } from '../../../controls/Button';
import { NumberFields, PlaceField } from '../../../controls/NumberFields';
import { angleFields, sizeField } from '../../../controls/poseFields';
import { Segmented } from '../../../controls/Segmented';
import { Toggle } from '../../../controls/Toggle';
import { layOrnament, laySheet } from '../../../kinds/sheet/newSheet';
import { takesFrom } from '../../../lists/newPath';
import { surfaceEntries } from '../../../menus/entries';
import { sentence } from '@/words/findings';
import { plural } from '@/words/numbers';
import { AxisField, UnitField } from '../MeshFields';
import { NodeHead } from '../NodeHead';
import { Deformers } from './Deformers';
import { Plays } from './Plays';
import { ShapeFields } from './ShapeFields';

const PLACING = [...angleFields(), sizeField(0.001)];
const NORMALS = [
  { value: 'smooth', text: 'Smooth' },
  { value: 'flat', text: 'Flat' },
] as const;
const UVS = [
  { value: 'own', text: 'Own', hint: 'The texture coordinates that its mesh has' },
  { value: 'plane', text: 'Plane' },
  { value: 'cylinder', text: 'Round', hint: 'Round its upright axis' },
  { value: 'sphere', text: 'Sphere' },
] as const;
const MARKS: { value: SurfaceMarks; text: string; hint?: string }[] = [
  { value: 'none', text: 'None' },
  { value: 'normals', text: 'Normals', hint: 'Short hairs to the side that faces outside' },
  { value: 'uv', text: 'u, v', hint: 'Red runs along u, blue along v' },
  { value: 'slope', text: 'Slope', hint: 'Green is level, yellow steep, red upright' },
];

/** A surface: what it is made of, where it stands, and what deforms it. */
export function SurfacePanel({ id }: { id: string }) {
  const scene = useDocument((s) => s.scene);
  const surface = scene.surfaces.find((x) => x.id === id);
  const readOnly = useDocument((s) => s.readOnly !== null);
  const served = useEngine((s) => s.result.surfaces.get(id));
  const marks = useView((s) => s.marks[id] ?? 'none');
  if (!surface) return null;
  const set = (values: Partial<Omit<Surface, 'id' | 'mesh' | 'deformers'>>, key?: string) =>
    dispatch(setSurface, { id, values }, key);
  const problem = served?.findings[0];
  const made = surface.mesh.source === 'made';
  return (
    <>
      <NodeHead
        name={surface.name}
        kind="surface"
        color="var(--color-linen-400)"
        detail={served ? plural(served.faces, 'face') : 'Being worked out…'}
        onRename={(name) => set({ name })}
        menu={() => surfaceEntries(surface)}
      />
      <fieldset disabled={readOnly} className="thin-scroll min-w-0 min-h-0 flex-1 overflow-y-auto px-3 py-2">
        {problem && (
          <p role="alert" className="mb-2 text-[13px] text-danger">
            {sentence(problem, scene)}
          </p>
        )}
        <ShapeFields surface={surface} />
        <h3 className="mb-1 mt-2 font-display text-sm font-semibold">Place</h3>
        <PlaceField
          label="Position"
          hint="Where it stands: x, y, z"
          value={surface.position}
          onChange={(position, key) => set({ position }, key)}
        />
        <NumberFields fields={PLACING} values={surface} set={set} />
        <Toggle
          label="Locked"
          hint="The pointer does not move it"
          value={surface.locked}
          onChange={(locked) => set({ locked })}
        />
        <h3 className="mb-1 mt-2 font-display text-sm font-semibold">Faces</h3>
        <Segmented
          shown
          label="Normals"
          hint="Which way props stand between the corners of a face"
          value={surface.normals}
          options={NORMALS}
          onChange={(normals) => set({ normals })}
        />
        <Segmented
          shown
          tight
          label="uv"
          hint="Where its texture coordinates come from"
          value={surface.uv}
          options={UVS}
          onChange={(uv) => set({ uv })}
        />
        <Toggle
          label="Inside out"
          hint="Its other side is the outer one"
          value={surface.flipped}
          onChange={(flipped) => set({ flipped })}
        />
        <Segmented
          shown
          tight
          label="Show"
          hint="What is drawn over the surface to see how it runs"
          value={marks}
          options={MARKS}
          onChange={(value) => setSurfaceMarks(id, value)}
        />
        {surface.mesh.source === 'file' && <Plays surface={surface} />}
        <Deformers surface={surface} />
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Lay on it</h3>
        <div className="mb-2 grid grid-cols-2 gap-1">
          <Button look="bordered" title="Props in rows and columns all over it" onClick={() => laySheet(id)}>
            Sheet of props
          </Button>
          <Button
            look="bordered"
            title="One prop, as large as one likes, laid on it"
            onClick={() => layOrnament(id)}
          >
            One ornament
          </Button>
        </div>
        <h3 className="mb-1 mt-3 font-display text-sm font-semibold">Take a path</h3>
        <div className="mb-2 grid gap-1">
          {takesFrom(surface).map((t) => (
            <Button
              key={t.text}
              look="bordered"
              title="A path that goes with the surface"
              className="!justify-start !text-[12.5px]"
              onClick={t.run}
            >
              {t.text}
            </Button>
          ))}
        </div>
        {!made && (
          <>
            <UnitField value={surface.unitScale} onChange={(unitScale) => set({ unitScale })} />
            <AxisField label="Up axis" value={surface.up} onChange={(up) => set({ up })} />
          </>
        )}
      </fieldset>
    </>
  );
}
