import { ridersSchema, type Riders } from '@/core/arrange/riders/schema';
import { pegNumber } from '@/core/arrange/pegs/evaluate';
import type { Ground, Variation } from '@/core/arrange/steps/schema';
import { newThread, takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findArrangement, freeName } from './find';
import { describeChange } from './naming';

/** Commands for riders. */

function findRiders(scene: Scene, id: string): Riders {
  const found = findArrangement(scene, id);
  if (found.kind !== 'riders') throw new Error(`"${id}" has no riders.`);
  return found;
}

type Values = Partial<Omit<Riders, 'id' | 'kind' | 'ground' | 'variation'>>;

function add(scene: Scene, on: string, values: Values): string {
  const leader = findArrangement(scene, on);
  const id = takeId(scene, 'riders');
  const at = scene.arrangements.indexOf(leader);
  const made = ridersSchema.parse({
    id,
    kind: 'riders',
    name: freeName(scene.arrangements, `On ${leader.name}`),
    thread: newThread(scene),
    on,
    ...values,
  });
  scene.arrangements.splice(at + 1, 0, made);
  return id;
}

/** Puts a prop on each placed prop of an arrangement. @returns the riders' id */
export const addRiders = command<{ on: string; values?: Values }>({
  apply: (scene, { on, values = {} }) => add(scene, on, values),
  name: (before, _, { on }) => `riders on “${findArrangement(before, on).name}”`,
});

export const setRiders = command<{ id: string; values: Values }>({
  apply: (scene, { id, values }) => void Object.assign(findRiders(scene, id), values),
  name: (before, _, { id, values }) => describeChange(findRiders(before, id), values),
});

export const setRidersGround = command<{ id: string; values: Partial<Ground> }>({
  apply: (scene, { id, values }) => void Object.assign(findRiders(scene, id).ground, values),
  name: (before, _, { id, values }) => describeChange(findRiders(before, id).ground, values),
});

export const setRidersVariation = command<{ id: string; values: Partial<Variation> }>({
  apply: (scene, { id, values }) => void Object.assign(findRiders(scene, id).variation, values),
  name: (before, _, { id, values }) => describeChange(findRiders(before, id).variation, values),
});

/** Makes riders of pegs: each becomes one on the leading peg, where it stood to it. */
export const groupPegs = command<{ id: string; leader: string; riders: { peg: string; values: Values }[] }>({
  apply(scene, { id, leader, riders }) {
    const pegs = findArrangement(scene, id);
    if (pegs.kind !== 'pegs') return;
    const gone = new Set(riders.map((r) => r.peg));
    for (const { values } of riders) add(scene, id, { ...values, only: [String(pegNumber(leader))] });
    pegs.pegs = pegs.pegs.filter((p) => !gone.has(p.id));
  },
  name: (_, __, { riders }) => `group ${riders.length + 1} pegs`,
});
