import { keepPegs } from '@/core/arrange/pegs/blocks';
import { pegNumber } from '@/core/arrange/pegs/schema';
import type { Riders } from '@/core/arrange/riders/schema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { addArrangement } from './arrangements';
import { findArrangement, findWith } from './find';

/** Commands that make riders. */

type Values = Partial<Omit<Riders, 'id' | 'kind' | 'ground' | 'variation'>>;

const add = (scene: Scene, on: string, values: Values): string =>
  addArrangement(scene, 'riders', `On ${findArrangement(scene, on).name}`, () => ({ on, ...values }), on);

/** Puts a prop on each placed prop of an arrangement. @returns the riders' id */
export const addRiders = command<{ on: string; values?: Values }>({
  apply: (scene, { on, values = {} }) => add(scene, on, values),
  name: (before, _, { on }) => `riders on “${findArrangement(before, on).name}”`,
});

/** Makes riders of pegs: each becomes one on the leading peg, where it stood to it. */
export const groupPegs = command<{ id: string; leader: string; riders: { peg: string; values: Values }[] }>({
  apply(scene, { id, leader, riders }) {
    const pegs = findWith(scene, id, 'pegs');
    const gone = new Set(riders.map((r) => r.peg));
    for (const { values } of riders) add(scene, id, { ...values, only: [String(pegNumber(leader))] });
    pegs.pegs = keepPegs(pegs.pegs, (p) => !gone.has(p.id));
  },
  name: (_, __, { riders }) => `group ${riders.length + 1} pegs`,
});
