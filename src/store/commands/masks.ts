import {
  layerSchema,
  maskSchema,
  strokeSchema,
  type LayerOf,
  type Mask,
  type MaskLayer,
  type MaskLayerKind,
  type PaintStroke,
} from '@/core/mesh/mask/schema';
import { has, type Arrangement } from '@/core/arrange/registry';
import type { KeepOut } from '@/core/arrange/steps/schema';
import { takeId } from '@/core/scene/defaults';
import type { Scene } from '@/core/scene/schema';
import { LAYER_NAMES, LENGTH_LAYERS } from '@/words/masks';
import { command } from '../command';
import { findArrangement, findMask, freeName } from './find';
import { describeChange } from './naming';

/** Commands for masks and their layers. */

/** What a new layer is: its kind, and what of it is not at its default. */
export type NewLayer = { kind: MaskLayerKind } & Record<string, unknown>;

const layerOf = (scene: Scene, given: NewLayer): MaskLayer =>
  layerSchema.parse({ ...given, id: takeId(scene, 'layer') });

/** Adds a mask; the scene's other nodes are given it by their own commands. @returns its id */
export const addMask = command<{ name?: string; layers?: NewLayer[] }>({
  apply(scene, { name = 'Mask', layers = [] }) {
    const id = takeId(scene, 'mask');
    const made = layers.map((l) => layerOf(scene, l));
    scene.masks.push(maskSchema.parse({ id, name: freeName(scene.masks, name), layers: made }));
    return id;
  },
  name: (_, after) => `new mask “${after.masks.at(-1)!.name}”`,
});

export const setMask = command<{ id: string; values: Partial<Pick<Mask, 'name' | 'combine'>> }>({
  apply: (scene, { id, values }) => void Object.assign(findMask(scene, id), values),
  name: (before, _, { id, values }) =>
    values.name !== undefined
      ? `rename to “${values.name}”`
      : `${findMask(before, id).name}: ${describeChange(findMask(before, id), values, before.units)}`,
});

export const addLayer = command<{ id: string; layer: NewLayer }>({
  apply(scene, { id, layer }) {
    const made = layerOf(scene, layer);
    findMask(scene, id).layers.push(made);
    return made.id;
  },
  name: (before, _, { id, layer }) => `${LAYER_NAMES[layer.kind]} into “${findMask(before, id).name}”`,
});

const findLayer = (scene: Scene, id: string, layer: string): MaskLayer => {
  const found = findMask(scene, id).layers.find((l) => l.id === layer);
  if (!found) throw new Error(`The mask "${id}" has no layer "${layer}".`);
  return found;
};

export const setLayer = command<{ id: string; layer: string; values: object }>({
  apply: (scene, { id, layer, values }) => void Object.assign(findLayer(scene, id, layer), values),
  name(before, _, { id, layer, values }) {
    const found = findLayer(before, id, layer);
    const units = LENGTH_LAYERS.has(found.kind) ? before.units : 'm';
    return `${LAYER_NAMES[found.kind]}: ${describeChange(found, values, units)}`;
  },
});

export const removeLayer = command<{ id: string; layer: string }>({
  apply(scene, { id, layer }) {
    const mask = findMask(scene, id);
    mask.layers = mask.layers.filter((l) => l.id !== layer);
  },
  name: (before, _, { id, layer }) =>
    `${LAYER_NAMES[findLayer(before, id, layer).kind]} out of “${findMask(before, id).name}”`,
});

/** Moves a layer up or down by one. */
export const moveLayer = command<{ id: string; layer: string; way: 1 | -1 }>({
  apply(scene, { id, layer, way }) {
    const { layers } = findMask(scene, id);
    const at = layers.findIndex((l) => l.id === layer);
    const to = at + way;
    if (at >= 0 && to >= 0 && to < layers.length) [layers[at], layers[to]] = [layers[to], layers[at]];
  },
  name: (before, _, { id }) => `order of the layers of “${findMask(before, id).name}”`,
});

const findPainted = (scene: Scene, id: string, layer: string): LayerOf<'painted'> => {
  const found = findLayer(scene, id, layer);
  if (found.kind !== 'painted') throw new Error(`The layer "${layer}" is not painted.`);
  return found;
};

const DOING = { add: 'paint', take: 'take paint away', smooth: 'smooth paint' } as const;

/**
 * Gives an arrangement a mask with a painted layer, for what the brush paints: how many there are, or how large. Where
 * it goes by a mask that has no paint yet, that gets a layer.
 * @param does what the first stroke does: before one that takes away all is there, before one that adds nothing is
 * @returns ids of the mask and of its layer
 */
export const paintOnto = command<{ id: string; what: 'density' | 'size'; does: PaintStroke['does'] }>({
  apply(scene, { id, what, does }) {
    const found = findArrangement(scene, id);
    const given = maskGiven(found, what);
    const own = scene.masks.find((m) => m.id === given);
    // Beside other layers it begins with what they leave: there is only something to be taken away.
    const layer = layerOf(scene, { kind: 'painted', base: own || does !== 'add' ? 1 : 0 });
    if (own) {
      own.layers.push(layer);
      return `${own.id} ${layer.id}`;
    }
    const mask = maskSchema.parse({
      id: takeId(scene, 'mask'),
      name: freeName(scene.masks, `${what === 'size' ? 'Size of' : 'Where'} ${found.name}`.slice(0, 200)),
      layers: [layer],
    });
    scene.masks.push(mask);
    giveMask(scene, found, what, mask.id);
    return `${mask.id} ${layer.id}`;
  },
  name: (before, _, { id }) => `paint on “${findArrangement(before, id).name}”`,
});

/** The mask that an arrangement goes by in how many there are, or how large; null where there is none. */
export function maskGiven(a: Arrangement, what: 'density' | 'size'): string | null {
  if (what === 'size') return has(a, 'variation') ? a.variation.sizeMask : null;
  if (has(a, 'spread')) return a.spread.mask;
  const keeps: KeepOut[] = has(a, 'gaps') ? a.gaps.keepOuts : [];
  const keep = keeps.find((k) => k.kind === 'mask');
  return keep?.kind === 'mask' ? keep.mask : null;
}

function giveMask(scene: Scene, a: Arrangement, what: 'density' | 'size', mask: string): void {
  if (what === 'size' && has(a, 'variation')) a.variation.sizeMask = mask;
  else if (has(a, 'spread')) a.spread.mask = mask;
  else if (has(a, 'gaps')) {
    const keeps: KeepOut[] = a.gaps.keepOuts;
    keeps.push({ id: takeId(scene, 'keep'), name: freeName(keeps, 'Painted'), kind: 'mask', mask });
  }
}

/** Begins a stroke of the brush on the surface of a painted layer; one that has none yet takes it. @returns its id */
export const addStroke = command<{
  id: string;
  layer: string;
  surface: string;
  stroke: Omit<PaintStroke, 'id'>;
}>({
  apply(scene, { id, layer, surface, stroke }) {
    const found = findPainted(scene, id, layer);
    found.surface ??= surface;
    const made = strokeSchema.parse({ ...stroke, id: takeId(scene, 'stroke') });
    found.strokes.push(made);
    return made.id;
  },
  // With the first stroke of all the mask is new too.
  name: (_, after, { id, stroke }) => `${DOING[stroke.does]} on “${findMask(after, id).name}”`,
});

/** Adds dabs to a stroke. @param dabs x, y, z one after the other */
export const addDabs = command<{ id: string; layer: string; stroke: string; dabs: number[] }>({
  apply(scene, { id, layer, stroke, dabs }) {
    const found = findPainted(scene, id, layer).strokes.find((s) => s.id === stroke);
    found?.dabs.push(...dabs);
  },
  name(_, after, { id, layer, stroke }) {
    const found = findPainted(after, id, layer).strokes.find((s) => s.id === stroke);
    return `${DOING[found?.does ?? 'add']} on “${findMask(after, id).name}”`;
  },
});

/** Takes all strokes off a painted layer. */
export const clearPaint = command<{ id: string; layer: string }>({
  apply: (scene, { id, layer }) => void (findPainted(scene, id, layer).strokes = []),
  name: (before, _, { id }) => `take all paint off “${findMask(before, id).name}”`,
});
