import { rampAt } from '../../math/ramp';
import { changesSince, differences, tellChanges } from './changes';
import type { Mask, MaskLayer } from './schema';

/** What becomes of measures: shares, through ramps, turned over, and layers put together. */

const known = new WeakMap<Float64Array, { layer: MaskLayer; values: Float64Array }>();

/**
 * What a layer makes of its measures, 0–1. Layers are never written over: the same one makes the same of them again.
 * What cannot be read (NaN) lets everything pass.
 */
export function valuesOf(layer: MaskLayer, measures: Float64Array): Float64Array {
  const have = known.get(measures);
  if (have && sameShape(have.layer, layer)) return have.values;
  const { from, to, ramp, over } = layer;
  // What is painted is from 0 to 1 already.
  if (layer.kind === 'painted' && from === 0 && to === 1 && ramp.length === 0 && !over) return measures;
  const wide = to - from;
  const values = new Float64Array(measures.length);
  for (let i = 0; i < values.length; i++) {
    const m = measures[i];
    // Where both ends are one it is a step.
    const share = wide === 0 ? (m >= from ? 1 : 0) : (m - from) / wide;
    const held = share <= 0 ? 0 : share >= 1 ? 1 : share;
    const value = ramp.length > 0 ? rampAt(ramp, held, held) : held;
    values[i] = m !== m ? 1 : over ? 1 - value : value;
  }
  known.set(measures, { layer, values });
  return values;
}

const sameShape = (a: MaskLayer, b: MaskLayer): boolean =>
  a === b || (a.from === b.from && a.to === b.to && a.over === b.over && a.ramp === b.ramp);

/** What was put together: where one layer alone is another one, only what changed of it is put together again. */
export interface Combined {
  how: Mask['combine'];
  layers: readonly Float64Array[];
  values: Float64Array;
}

/**
 * Layers put together, place by place.
 * @param last what was put together before of the same places
 */
export function combined(how: Mask['combine'], layers: readonly Float64Array[], last?: Combined): Combined {
  const other = last?.how === how ? onlyOther(last.layers, layers) : null;
  if (other === -1) return last!;
  const values = other === null ? layers[0].slice() : last!.values.slice();
  if (other === null) for (let i = 0; i < values.length; i++) values[i] = together(how, layers, i);
  else {
    const [was, now] = [last!.layers[other], layers[other]];
    const changes = changesSince(now, was) ?? differences(now, was);
    for (const i of changes) values[i] = together(how, layers, i);
    tellChanges(values, last!.values, changes);
  }
  return { how, layers, values };
}

/** The number of the only layer that is another one; -1: none is. Null where several are, or others stand there. */
function onlyOther(was: readonly Float64Array[], now: readonly Float64Array[]): number | null {
  if (was.length !== now.length) return null;
  let other = -1;
  for (let l = 0; l < now.length; l++) {
    if (was[l] === now[l]) continue;
    if (other >= 0 || was[l].length !== now[l].length) return null;
    other = l;
  }
  return other;
}

function together(how: Mask['combine'], layers: readonly Float64Array[], i: number): number {
  let value = layers[0][i];
  if (how === 'product') for (let l = 1; l < layers.length; l++) value *= layers[l][i];
  else if (how === 'largest') for (let l = 1; l < layers.length; l++) value = Math.max(value, layers[l][i]);
  else for (let l = 1; l < layers.length; l++) value = Math.max(0, value - layers[l][i]);
  return value;
}
