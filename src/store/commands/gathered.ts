import { dustSchema, type DustSpec } from '@/core/mesh/dust/dustSchema';
import { networkSchema, type NetworkSpec } from '@/core/mesh/network/networkSchema';
import { solidSchema, solidStepSchema, type SolidStep } from '@/core/mesh/solid/solidSchema';
import { newSurface, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { called, findSurface, freeName, nodesOf } from './find';
import { describeChange } from './naming';

/** Commands for surfaces that are made from others: solids and dust sheets. */

const HOW: Record<SolidStep['how'], string> = { join: 'join', cut: 'cut out', keep: 'keep within' };

const nameOf = (scene: Scene, id: string): string =>
  nodesOf(scene).find((n) => n.id === id)?.name ?? 'what is gone';

/** A solid of arrangements and surfaces, in order; what it is made of is not shown any more, since it stands for that. */
export const makeSolid = command<{ name: string; steps: { how: SolidStep['how']; of: string }[] }>({
  apply(scene, { name, steps }) {
    const made = steps.map((s) => solidStepSchema.parse({ ...s, id: takeId(scene, 'step') }));
    const mesh = solidSchema.parse({ source: 'solid', steps: made });
    const solid = newSurface(takeId(scene, 'surface'), freeName(scene.surfaces, name), mesh);
    const of = new Set(steps.map((s) => s.of));
    for (const node of [...scene.surfaces, ...scene.arrangements]) if (of.has(node.id)) node.visible = false;
    scene.surfaces.push(solid);
    return solid.id;
  },
  name: (_, after) => `make “${after.surfaces.at(-1)!.name}”`,
});

/** The steps of a solid; one that is none is a fault of the caller. */
function stepsOf(scene: Scene, id: string): SolidStep[] {
  const { mesh } = findSurface(scene, id);
  if (mesh.source !== 'solid') throw new Error(`The surface "${id}" is no solid.`);
  return mesh.steps;
}

export const addStep = command<{ id: string; how: SolidStep['how']; of: string }>({
  apply(scene, { id, how, of }) {
    const step = solidStepSchema.parse({ how, of, id: takeId(scene, 'step') });
    stepsOf(scene, id).push(step);
    return step.id;
  },
  name: (before, _, { id, how, of }) =>
    `${findSurface(before, id).name}: ${HOW[how]} “${nameOf(before, of)}”`,
});

export const setStep = command<{ id: string; step: string; values: Partial<Omit<SolidStep, 'id'>> }>({
  apply(scene, { id, step, values }) {
    const found = stepsOf(scene, id).find((s) => s.id === step);
    if (found) Object.assign(found, values);
  },
  name(before, _, { id, step, values }) {
    const found = stepsOf(before, id).find((s) => s.id === step);
    const what = values.of === undefined && found ? describeChange(found, values, before.units) : 'a step';
    return `${findSurface(before, id).name}: ${what}`;
  },
});

export const removeStep = command<{ id: string; step: string }>({
  apply(scene, { id, step }) {
    const steps = stepsOf(scene, id);
    const at = steps.findIndex((s) => s.id === step);
    if (at >= 0) steps.splice(at, 1);
  },
  name: (before, _, { id }) => `take a step out of “${findSurface(before, id).name}”`,
});

/** Moves a step up or down by one. */
export const moveStep = command<{ id: string; step: string; way: 1 | -1 }>({
  apply(scene, { id, step, way }) {
    const steps = stepsOf(scene, id);
    const at = steps.findIndex((s) => s.id === step);
    const to = at + way;
    if (at < 0 || to < 0 || to >= steps.length) return;
    [steps[at], steps[to]] = [steps[to], steps[at]];
  },
  name: (before, _, { id }) => `order of the steps of “${findSurface(before, id).name}”`,
});

/** A network of tubes along paths. */
export const makeNetwork = command<{ paths: string[]; values?: Partial<NetworkSpec> }>({
  apply(scene, { paths, values }) {
    const mesh = networkSchema.parse({ ...values, source: 'network', paths });
    const network = newSurface(takeId(scene, 'surface'), freeName(scene.surfaces, 'Network'), mesh);
    scene.surfaces.push(network);
    return network.id;
  },
  name: (before, _, { paths }) => `network of ${called(before, paths)}`,
});

export const setNetwork = command<{ id: string; values: Partial<Omit<NetworkSpec, 'source'>> }>({
  apply(scene, { id, values }) {
    const { mesh } = findSurface(scene, id);
    if (mesh.source === 'network') Object.assign(mesh, values);
  },
  name(before, _, { id, values }) {
    const { name, mesh } = findSurface(before, id);
    const what =
      values.paths || mesh.source !== 'network' ? 'its paths' : describeChange(mesh, values, before.units);
    return `${name}: ${what}`;
  },
});

/** A sheet let down over arrangements and surfaces. */
export const makeDustSheet = command<{ over: string[]; values?: Partial<DustSpec> }>({
  apply(scene, { over, values }) {
    const mesh = dustSchema.parse({ ...values, source: 'dust', over });
    const sheet = newSurface(takeId(scene, 'surface'), freeName(scene.surfaces, 'Dust sheet'), mesh);
    scene.surfaces.push(sheet);
    return sheet.id;
  },
  name: (before, _, { over }) => `dust sheet over ${called(before, over)}`,
});

export const setDustSheet = command<{ id: string; values: Partial<Omit<DustSpec, 'source'>> }>({
  apply(scene, { id, values }) {
    const { mesh } = findSurface(scene, id);
    if (mesh.source === 'dust') Object.assign(mesh, values);
  },
  name(before, _, { id, values }) {
    const { name, mesh } = findSurface(before, id);
    const what =
      values.over || mesh.source !== 'dust'
        ? 'what it lies over'
        : describeChange(mesh, values, before.units);
    return `${name}: ${what}`;
  },
});
