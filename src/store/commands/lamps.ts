import { MOST_LAMPS, type Glow, type Lamp } from '@/core/light/lampSchema';
import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { command } from '../command';
import { findProp, freeName } from './find';
import { describeChange } from './naming';

/** Commands of lights that are put into a scene by hand, and of props that glow. */

const find = (scene: Scene, id: string): Lamp => {
  const found = scene.lamps.find((l) => l.id === id);
  if (!found) throw new Error(`The scene has no light "${id}".`);
  return found;
};

/** Puts lights into the scene; beyond as many as there may be they are left out. @returns the id of the first */
export const addLamps = command<{ lamps: readonly Omit<Lamp, 'id'>[] }>({
  apply(scene, { lamps }) {
    let first: string | undefined;
    for (const lamp of lamps.slice(0, MOST_LAMPS - scene.lamps.length)) {
      const id = takeId(scene, 'lamp');
      scene.lamps.push({ ...lamp, id, name: freeName(scene.lamps, lamp.name) });
      first ??= id;
    }
    return first;
  },
  name: (_, after, { lamps }) =>
    lamps.length === 1
      ? `put in “${after.lamps.at(-1)?.name ?? 'a light'}”`
      : `put in ${lamps.length} lights`,
});

export const setLamp = command<{ id: string; values: Partial<Omit<Lamp, 'id'>> }>({
  apply: (scene, { id, values }) => void Object.assign(find(scene, id), values),
  name: (before, _, { id, values }) =>
    `${find(before, id).name}: ${describeChange(find(before, id), values, before.units, LAMP)}`,
});

/** Takes a light out, and what of it changes with time or follows other things. */
export const removeLamp = command<{ id: string }>({
  apply(scene, { id }) {
    scene.lamps = scene.lamps.filter((l) => l.id !== id);
    scene.timed = scene.timed.filter((t) => t.node !== id);
    scene.links = scene.links.filter((l) => l.node !== id);
  },
  name: (before, _, { id }) => `remove “${find(before, id).name}”`,
});

/** Lets a prop glow; null: no more. */
export const setGlow = command<{ id: string; glow: Glow | null }>({
  apply: (scene, { id, glow }) => void (findProp(scene, id).glow = glow),
  name(before, _, { id, glow }) {
    const { name, glow: was } = findProp(before, id);
    if (!glow || !was) return `${name}: ${glow ? 'glows' : 'glows no more'}`;
    return `${name}: glow ${describeChange(was, glow, before.units, LAMP)}`;
  },
});

const LAMP = {
  on: 'on',
  kind: 'kind',
  at: 'place',
  aim: 'aim',
  aimedAt: 'aimed at',
  strength: 'strength',
  warmth: 'warmth',
  size: 'size',
  spreadDeg: 'spread',
  seen: 'seen',
  color: 'colour',
};
