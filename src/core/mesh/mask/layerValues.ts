import { rampAt } from '../../math/ramp';
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

/** Layers put together. */
export function combined(how: Mask['combine'], layers: readonly Float64Array[]): Float64Array {
  const out = layers[0].slice();
  for (const next of layers.slice(1)) {
    if (how === 'product') for (let i = 0; i < out.length; i++) out[i] *= next[i];
    else if (how === 'largest') for (let i = 0; i < out.length; i++) out[i] = Math.max(out[i], next[i]);
    else for (let i = 0; i < out.length; i++) out[i] = Math.max(0, out[i] - next[i]);
  }
  return out;
}
