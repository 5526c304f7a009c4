import type { Run } from '@/core/arrange/run/schema';
import type { OrderEntry } from '@/core/arrange/steps/schema';
import type { MeshRef, Prop, Scene } from '@/core/scene/schema';
import { newProp, takeId } from '@/core/scene/defaults';
import { command } from '../command';
import { findProp, freeName } from './find';
import { describeChange } from './naming';

/** Commands for the scene itself and its props. */

export const setScene = command<Partial<Pick<Scene, 'name' | 'units'>>>({
  apply: (scene, values) => void Object.assign(scene, values),
  name: (before, _, values) =>
    values.name !== undefined ? `rename to “${values.name}”` : `units ${before.units} → ${values.units}`,
});

type PropSettings = Partial<Omit<Prop, 'id' | 'mesh'>>;

export const addProp = command<{ name: string; mesh: MeshRef; settings?: PropSettings }>({
  apply(scene, { name, mesh, settings }) {
    const prop = { ...newProp(takeId(scene, 'prop'), freeName(scene.props, name), mesh), ...settings };
    scene.props.push(prop);
    return prop.id;
  },
  name: (_, __, { name }) => `bring in “${name}”`,
});

export const setProp = command<{ id: string; values: PropSettings }>({
  apply: (scene, { id, values }) => void Object.assign(findProp(scene, id), values),
  name: (before, _, { id, values }) =>
    `${findProp(before, id).name}: ${describeChange(findProp(before, id), values)}`,
});

/** Takes a prop out of the basket and out of every order that has it. */
export const removeProp = command<{ id: string }>({
  apply(scene, { id }) {
    scene.props = scene.props.filter((p) => p.id !== id);
    for (const a of scene.arrangements) {
      if (a.kind === 'pegs') a.pegs = a.pegs.filter((p) => p.prop !== id);
      else if (a.kind === 'riders' || a.kind === 'spans') {
        a.props = a.props.filter((p) => p.prop !== id);
        if (a.kind === 'spans' && a.corner?.prop === id) a.corner = null;
      } else {
        forgetProp(a, id);
        if (a.kind === 'sheet') a.items = a.items.filter((i) => i.prop !== id);
      }
    }
  },
  name: (before, _, { id }) => `remove “${findProp(before, id).name}”`,
});

function forgetProp(run: Pick<Run, 'order' | 'hand'>, id: string): void {
  const without = (entries: OrderEntry[]): OrderEntry[] =>
    entries
      .filter((e) => e.item.kind !== 'prop' || e.item.prop !== id)
      .map((e) =>
        e.item.kind === 'group' ? { ...e, item: { kind: 'group', entries: without(e.item.entries) } } : e,
      );
  const { order } = run;
  order.entries = without(order.entries);
  for (const place of ['first', 'last', 'corner'] as const) {
    const item = order[place];
    if (item?.kind === 'prop' && item.prop === id) order[place] = null;
  }
  if (order.every?.item.kind === 'prop' && order.every.item.prop === id) order.every = null;
  for (const [name, h] of Object.entries(run.hand)) {
    if (h.prop === id) delete h.prop;
    if (h.lock?.prop === id) delete h.lock;
    if (Object.keys(h).length === 0) delete run.hand[name];
  }
}
