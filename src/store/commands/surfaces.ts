import { thicknessSchema, type Thickness } from '@/core/mesh/solid/thicknessSchema';
import { deformerSchema, type Deformer, type DeformerKind } from '@/core/mesh/deform/schema';
import { shapeSchema, type SurfaceShape } from '@/core/mesh/make/schema';
import { newSurface, takeId } from '@/core/scene/defaults';
import type { OwnMeshRef } from '@/core/mesh/meshRef';
import type { Surface, SurfaceMesh } from '@/core/mesh/surfaceSchema';
import type { LinkedField } from './links';
import { command } from '../command';
import { called, findSurface, freeName } from './find';
import { describeChange } from './naming';

/** Commands for surfaces and what deforms them. */

type SurfaceSettings = Partial<Omit<Surface, 'id' | 'mesh' | 'deformers' | 'thickness'>>;

export const addSurface = command<{ name: string; mesh: OwnMeshRef; settings?: SurfaceSettings }>({
  apply(scene, { name, mesh, settings }) {
    const surface = newSurface(takeId(scene, 'surface'), freeName(scene.surfaces, name), mesh);
    scene.surfaces.push({ ...surface, ...settings });
    return surface.id;
  },
  name: (_, __, { name }) => `bring in surface “${name}”`,
});

/** A surface made from numbers or paths; `from` are the paths, where its shape needs some. */
export const makeSurface = command<{
  shape: SurfaceShape['shape'];
  name: string;
  from?: string[];
  position?: [number, number, number];
  values?: Partial<SurfaceShape>;
}>({
  apply(scene, { shape, name, from = [], position, values }) {
    const of =
      shape === 'loft'
        ? { paths: from }
        : shape === 'tube' || shape === 'turned' || shape === 'strip' || shape === 'swept'
          ? { path: from[0] }
          : {};
    const mesh: SurfaceMesh = {
      source: 'made',
      shape: shapeSchema.parse({ ...values, shape, ...of }),
      color: '#D8CDB6',
    };
    const surface = newSurface(takeId(scene, 'surface'), freeName(scene.surfaces, name), mesh);
    scene.surfaces.push({ ...surface, ...(position && { position }) });
    return surface.id;
  },
  name: (_, after) => `make “${after.surfaces.at(-1)!.name}”`,
});

export const setSurface = command<{ id: string; values: SurfaceSettings }>({
  apply: (scene, { id, values }) => void Object.assign(findSurface(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findSurface(before, id).name}: ${describeChange(findSurface(before, id), values, before.units)}`,
});

/** Gives a surface thickness, changes it, or takes it away (null). */
export const setThickness = command<{ id: string; values: Partial<Thickness> | null }>({
  apply(scene, { id, values }) {
    const surface = findSurface(scene, id);
    surface.thickness = values && thicknessSchema.parse({ ...surface.thickness, ...values });
  },
  name(before, _, { id, values }) {
    const { name, thickness } = findSurface(before, id);
    if (!values) return `take the thickness off “${name}”`;
    return thickness
      ? `${name}: ${describeChange(thickness, values, before.units)}`
      : `give “${name}” thickness`;
  },
});

/** What several surfaces have alike from now on. */
export const setSurfaces = command<{ ids: string[]; values: SurfaceSettings }>({
  apply(scene, { ids, values }) {
    for (const id of ids) Object.assign(findSurface(scene, id), values);
  },
  name: (before, _, { ids, values }) =>
    `${called(before, ids)}: ${describeChange(findSurface(before, ids[0]), values, before.units)}`,
});

/** Sets some numbers of a made surface's shape. */
export const setShape = command<{ id: string; values: Partial<SurfaceShape> }>({
  apply(scene, { id, values }) {
    const { mesh } = findSurface(scene, id);
    if (mesh.source === 'made') Object.assign(mesh.shape, values);
  },
  name(before, _, { id, values }) {
    const { name, mesh } = findSurface(before, id);
    return `${name}: ${mesh.source === 'made' ? describeChange(mesh.shape, values, before.units) : 'shape'}`;
  },
});

/** The colour of made surfaces; those of a mesh, and solids, have their own. */
export const setSurfaceColor = command<{ ids: string[]; color: string }>({
  apply(scene, { ids, color }) {
    for (const { mesh } of ids.map((id) => findSurface(scene, id))) if ('color' in mesh) mesh.color = color;
  },
  name: (before, _, { ids }) => `${called(before, ids)}: colour`,
});

/** Puts another mesh in place of a surface's own. What stands on it is found again where it lies nearest. */
export const replaceMesh = command<{ id: string; mesh: OwnMeshRef; settings?: SurfaceSettings }>({
  apply: (scene, { id, mesh, settings }) => void Object.assign(findSurface(scene, id), { mesh, ...settings }),
  name: (before, _, { id }) => `replace the mesh of “${findSurface(before, id).name}”`,
});

export const addDeformer = command<{ id: string; kind: DeformerKind; values?: Partial<Deformer> }>({
  apply(scene, { id, kind, values }) {
    const deformer = deformerSchema.parse({ ...values, id: takeId(scene, 'deformer'), kind });
    findSurface(scene, id).deformers.push(deformer);
    return deformer.id;
  },
  name: (before, _, { id, kind }) => `${kind} “${findSurface(before, id).name}”`,
});

export const setDeformer = command<{ id: string; deformer: string; values: Partial<Deformer> }>({
  apply(scene, { id, deformer, values }) {
    const found = findSurface(scene, id).deformers.find((d) => d.id === deformer);
    if (found) Object.assign(found, values);
  },
  name(before, _, { id, deformer, values }) {
    const found = findSurface(before, id).deformers.find((d) => d.id === deformer);
    return found ? `${found.kind}: ${describeChange(found, values, before.units)}` : 'deformer';
  },
});

export const removeDeformer = command<{ id: string; deformer: string }>({
  apply(scene, { id, deformer }) {
    const surface = findSurface(scene, id);
    surface.deformers = surface.deformers.filter((d) => d.id !== deformer);
    // What its numbers went by goes with it.
    const isOf = ({ node, field }: LinkedField) =>
      node === id && field[0] === 'deformers' && field[1] === deformer;
    scene.timed = scene.timed.filter((t) => !isOf(t));
    scene.links = scene.links.filter((l) => !isOf(l));
  },
  name: (before, _, { id }) => `take a deformer off “${findSurface(before, id).name}”`,
});

/** Moves a deformer up or down its stack by one. */
export const moveDeformer = command<{ id: string; deformer: string; way: 1 | -1 }>({
  apply(scene, { id, deformer, way }) {
    const { deformers } = findSurface(scene, id);
    const at = deformers.findIndex((d) => d.id === deformer);
    const to = at + way;
    if (at < 0 || to < 0 || to >= deformers.length) return;
    [deformers[at], deformers[to]] = [deformers[to], deformers[at]];
  },
  name: (before, _, { id }) => `order of the deformers of “${findSurface(before, id).name}”`,
});
