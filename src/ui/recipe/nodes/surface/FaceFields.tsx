'use client';

import type { Surface } from '@/core/mesh/surfaceSchema';
import { ColorField } from '../../../controls/ColorField';
import { setSurfaceColor, setSurfaces } from '@/store/commands/surfaces';
import { dispatch } from '@/store/document';
import { setSurfaceMarks, useView, type SurfaceMarks } from '@/view/viewState';
import { Segmented } from '../../../controls/Segmented';
import { alike } from '../../alike';

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
const SIDES = [
  { value: 'own', text: 'As made' },
  { value: 'flipped', text: 'Inside out', hint: 'Its other side is the outer one' },
] as const;
const MARKS: { value: SurfaceMarks; text: string; hint?: string }[] = [
  { value: 'none', text: 'None' },
  { value: 'normals', text: 'Normals', hint: 'Short hairs to the side that faces outside' },
  { value: 'uv', text: 'u, v', hint: 'Red runs along u, blue along v' },
  { value: 'slope', text: 'Slope', hint: 'Green is level, yellow steep, red upright' },
];
const HELD = [
  { value: 'moved', text: 'Moved' },
  { value: 'locked', text: 'Locked' },
] as const;

const idsOf = (surfaces: readonly Surface[]) => surfaces.map((s) => s.id);

/** How the faces of one surface, or of several alike, are taken and shown. */
export function FaceFields({ surfaces }: { surfaces: readonly Surface[] }) {
  const ids = idsOf(surfaces);
  const shown = useView((s) => alike(surfaces, (one) => s.marks[one.id] ?? 'none'));
  const set = (values: Partial<Pick<Surface, 'normals' | 'uv' | 'flipped'>>) =>
    dispatch(setSurfaces, { ids, values });
  return (
    <>
      <Segmented
        shown
        label="Normals"
        hint="Which way props stand between the corners of a face"
        value={alike(surfaces, (s) => s.normals)}
        options={NORMALS}
        onChange={(normals) => set({ normals })}
      />
      <Segmented
        shown
        tight
        label="uv"
        hint="Where its texture coordinates come from"
        value={alike(surfaces, (s) => s.uv)}
        options={UVS}
        onChange={(uv) => set({ uv })}
      />
      <Segmented
        shown
        label="Outside"
        hint="Which side of its faces is the outer one"
        value={alike(surfaces, (s) => (s.flipped ? 'flipped' : 'own'))}
        options={SIDES}
        onChange={(side) => set({ flipped: side === 'flipped' })}
      />
      <Segmented
        shown
        tight
        label="Show"
        hint="What is drawn over the surface to see how it runs"
        value={shown}
        options={MARKS}
        onChange={(marks) => ids.forEach((id) => setSurfaceMarks(id, marks))}
      />
    </>
  );
}

/** Whether the pointer may move surfaces. */
export function LockedField({ surfaces }: { surfaces: readonly Surface[] }) {
  return (
    <Segmented
      shown
      label="By pointer"
      hint="Locked: the pointer does not move it"
      value={alike(surfaces, (s) => (s.locked ? 'locked' : 'moved'))}
      options={HELD}
      onChange={(v) => dispatch(setSurfaces, { ids: idsOf(surfaces), values: { locked: v === 'locked' } })}
    />
  );
}

/** The colour of those that are made here; a mesh has its own. */
export function SurfaceColor({ surfaces }: { surfaces: readonly Surface[] }) {
  const made = surfaces.filter((s) => 'color' in s.mesh);
  const first = made[0]?.mesh;
  if (!first || !('color' in first)) return null;
  const ids = idsOf(made);
  return (
    <ColorField
      name="Colour of the surface"
      hint="What colour the surface is drawn in"
      value={first.color}
      onChange={(color) => dispatch(setSurfaceColor, { ids, color }, `color ${ids.join()}`)}
    />
  );
}
