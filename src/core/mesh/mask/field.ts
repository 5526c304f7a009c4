import { combined, valuesOf, type Combined } from './layerValues';
import { measure, reachOf, type LayerTrouble, type MaskSources } from './measure';
import { maskNeeds } from './needs';
import { painted } from './painted';
import type { MaskPlaces } from './places';
import type { Mask, MaskLayer } from './schema';

/** A mask to be read: as often as one likes, wherever there are places. */
export interface MaskField {
  mask: Mask;
  /** Changes whenever any value of it may. */
  key: string;
  /** A number from 0 to 1 for each place, never written over: the same list again where nothing has changed. */
  at(places: MaskPlaces, trouble?: LayerTrouble): Float64Array;
  /** What one layer alone comes to, turned over where it is. */
  layerAt(layer: MaskLayer, places: MaskPlaces, trouble?: LayerTrouble): Float64Array;
}

interface Read {
  measures: Float64Array;
  /** What was wrong, to be told each time. */
  troubles: Parameters<LayerTrouble>[];
}

/** What was read, by place and by what it depends on: a ramp that is dragged reads nothing again. */
const read = new WeakMap<MaskPlaces, Map<string, Read>>();
const MOST_READ = 24;

/** What layers came to together, by place and mask. */
const together = new WeakMap<MaskPlaces, Map<string, Combined>>();

/**
 * A mask made ready to be read.
 * @param key changes whenever the mask, or anything that its layers name, does
 */
export function maskField(mask: Mask, key: string, sources: MaskSources): MaskField {
  const layerAt: MaskField['layerAt'] = (layer, places, trouble) =>
    valuesOf(layer, measured(layer, places, sources, trouble ?? (() => {})));
  return {
    mask,
    key,
    layerAt,
    at(places, trouble) {
      const layers = mask.layers.filter((l) => l.on);
      if (layers.length === 0) return new Float64Array(places.count).fill(1);
      let of = together.get(places);
      if (!of) together.set(places, (of = new Map()));
      const values = layers.map((layer) => layerAt(layer, places, trouble));
      const now = combined(mask.combine, values, of.get(mask.id));
      of.set(mask.id, now);
      return now.values;
    },
  };
}

/** Layers that look no farther than they reach. */
const FAR = new Set<MaskLayer['kind']>(['covered', 'outline', 'inside', 'distance']);

function measured(
  layer: MaskLayer,
  places: MaskPlaces,
  sources: MaskSources,
  trouble: LayerTrouble,
): Float64Array {
  // It keeps its own, stroke by stroke.
  if (layer.kind === 'painted') return painted(places, layer);
  const { ramp: _r, from: _f, to: _t, over: _o, on: _on, id: _id, ...own } = layer;
  const reach = FAR.has(layer.kind) ? reachOf(layer) : 0;
  const { paths, surfaces, arrangements } = maskNeeds({ layers: [layer] } as Mask);
  const key = JSON.stringify([
    own,
    reach,
    ...[...paths, ...surfaces, ...arrangements].map((id) => sources.keyOf(id)),
  ]);
  let of = read.get(places);
  if (!of) read.set(places, (of = new Map()));
  let have = of.get(key);
  if (!have) {
    const troubles: Read['troubles'] = [];
    have = { measures: measure(layer, places, sources, (...said) => troubles.push(said)), troubles };
    of.set(key, have);
    if (of.size > MOST_READ) of.delete(of.keys().next().value!);
  }
  for (const [kind, , id] of have.troubles) trouble(kind, layer, id);
  return have.measures;
}
