import { inOrder, valueAtTime } from '@/core/evaluate/timed/moments';
import { isTimeable } from '@/core/evaluate/timed/timed';
import type { LoopChange } from '@/core/evaluate/timed/loop';
import { takeId } from '@/core/scene/defaults';
import type { Moment, Timed } from '@/core/scene/timedSchema';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { linkOf, setNumber, type LinkedField } from './links';

/** Commands of numbers that change with time. */

/** Moments nearer than this, seconds, are one. */
export const SAME_MOMENT = 1e-3;

export const timedOf = (scene: Pick<Scene, 'timed'>, { node, field }: LinkedField): Timed | undefined =>
  scene.timed.find((t) => t.node === node && t.field.join() === field.join());

const momentAt = (timed: Timed, at: number): Moment | undefined =>
  timed.moments.find((m) => Math.abs(m.at - at) < SAME_MOMENT);

const find = (scene: Scene, id: string): Timed => {
  const found = scene.timed.find((t) => t.id === id);
  if (!found) throw new Error('That number no longer changes with time.');
  return found;
};

const seconds = (at: number): string => `${Number(at.toFixed(2))} s`;

/** Says what a number is at a moment; from the first one on it changes with time. */
export const setMoment = command<LinkedField & { at: number; value: number }>({
  apply(scene, { node, field, at, value }) {
    const have = timedOf(scene, { node, field });
    if (!have) {
      if (!isTimeable(scene, { node, field: [...field] }))
        throw new Error('What is worked out from its beginning on goes by what this number is then.');
      // A number goes by one of the two: the time, or what it follows.
      scene.links = scene.links.filter((l) => l !== linkOf(scene, { node, field }));
      scene.timed.push({
        id: takeId(scene, 'timed'),
        node,
        field: [...field],
        moments: [{ at, value, way: 'eased' }],
      });
      return;
    }
    const moment = momentAt(have, at);
    if (moment) moment.value = value;
    else have.moments = inOrder([...have.moments, { at, value, way: wayAt(have, at) }]);
  },
  name: (before, _, { field, at, ...of }) =>
    timedOf(before, { ...of, field })
      ? `${field[field.length - 1]} at ${seconds(at)}`
      : `${field[field.length - 1]} changes with time`,
});

/** How a value goes on at a time, so that a moment put in between goes on alike. */
const wayAt = ({ moments }: Timed, at: number): Moment['way'] =>
  inOrder(moments).findLast((m) => m.at <= at)?.way ?? moments[0].way;

/** Puts a moment at another time. One that is there is passed over, not lost: it takes the value of the moved one. */
export const moveMoment = command<{ id: string; from: number; to: number }>({
  apply(scene, { id, from, to }) {
    const timed = find(scene, id);
    const moved = momentAt(timed, from);
    if (!moved) return;
    const others = timed.moments.filter((m) => m !== moved && Math.abs(m.at - to) >= SAME_MOMENT);
    timed.moments = inOrder([...others, { ...moved, at: to }]);
  },
  name: (_, __, { from, to }) => `moment ${seconds(from)} → ${seconds(to)}`,
});

/** How a value goes on from a moment to the next. */
export const setMomentWay = command<{ id: string; at: number; way: Moment['way'] }>({
  apply(scene, { id, at, way }) {
    const moment = momentAt(find(scene, id), at);
    if (moment) moment.way = way;
  },
  name: (_, __, { at, way }) => `${way} from ${seconds(at)}`,
});

/** Takes a moment away; with the last one the number stays as it was then. */
export const removeMoment = command<{ id: string; at: number }>({
  apply(scene, { id, at }) {
    const timed = find(scene, id);
    const moment = momentAt(timed, at);
    if (!moment) return;
    if (timed.moments.length > 1) timed.moments = timed.moments.filter((m) => m !== moment);
    else end(scene, timed, moment.value);
  },
  name: (_, __, { at }) => `take away the moment ${seconds(at)}`,
});

/** A number that is the same at every time again: as it is at one. */
export const endTimed = command<{ id: string; at: number }>({
  apply(scene, { id, at }) {
    const timed = find(scene, id);
    end(scene, timed, valueAtTime(inOrder(timed.moments), at));
  },
  name: (before, _, { id }) => `${find(before, id).field.at(-1)} no longer changes with time`,
});

/** Makes numbers others, so that what moves comes back to itself. @param span seconds of the loop */
export const makeLoop = command<{ changes: LoopChange[]; span: number }>({
  apply(scene, { changes }) {
    for (const { value, ...at } of changes) setNumber(scene, at, value);
  },
  name: (_, __, { span }) => `a loop of ${seconds(span)}`,
});

function end(scene: Scene, timed: Timed, value: number): void {
  scene.timed = scene.timed.filter((t) => t !== timed);
  setNumber(scene, timed, value);
}
