import { brushedSchema, type BrushedStroke } from '@/core/arrange/scatter/schema';
import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findProp, findWith } from './find';

/** Commands of the brush over what is scattered: which way it turns, and which prop stands there. */

/** A stroke without its id and its dabs' defaults. */
export type NewBrushed =
  | (Omit<Extract<BrushedStroke, { does: 'comb' | 'uncomb' | 'unprop' }>, 'id'> & { id?: never })
  | (Omit<Extract<BrushedStroke, { does: 'prop' }>, 'id'> & { id?: never });

const DOING: Record<BrushedStroke['does'], string> = {
  comb: 'comb',
  uncomb: 'uncomb',
  prop: 'brush',
  unprop: 'brush back',
};

const named = (scene: Scene, id: string, stroke: NewBrushed | BrushedStroke): string =>
  `${DOING[stroke.does]} ${stroke.does === 'prop' ? `${findProp(scene, stroke.prop).name} into ` : ''}“${
    findWith(scene, id, 'brushed').name
  }”`;

/** Begins a stroke over what an arrangement has placed. @returns its id */
export const addBrushed = command<{ id: string; stroke: NewBrushed }>({
  apply(scene, { id, stroke }) {
    const made = brushedSchema.parse({ ...stroke, id: takeId(scene, 'stroke') });
    findWith(scene, id, 'brushed').brushed.push(made);
    return made.id;
  },
  name: (before, _, { id, stroke }) => named(before, id, stroke),
});

/** Adds dabs to a stroke. @param dabs x, y, z one after the other */
export const addBrushedDabs = command<{ id: string; stroke: string; dabs: number[] }>({
  apply(scene, { id, stroke, dabs }) {
    findWith(scene, id, 'brushed')
      .brushed.find((s) => s.id === stroke)
      ?.dabs.push(...dabs);
  },
  name(_, after, { id, stroke }) {
    const found = findWith(after, id, 'brushed').brushed.find((s) => s.id === stroke);
    return found ? named(after, id, found) : 'brush';
  },
});

const COMBING = ['comb', 'uncomb'];

/** Takes all strokes of one sort back: those that comb, or those that give props. */
export const clearBrushed = command<{ id: string; what: 'turn' | 'prop' }>({
  apply(scene, { id, what }) {
    const found = findWith(scene, id, 'brushed');
    found.brushed = found.brushed.filter((s) => COMBING.includes(s.does) !== (what === 'turn'));
  },
  name: (before, _, { id, what }) =>
    `${what === 'turn' ? 'uncomb all of' : 'take the brush’s props out of'} “${findWith(before, id, 'brushed').name}”`,
});
