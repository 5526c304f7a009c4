import { acos } from '../../math/portable';
import type { SheetMap } from './map';

/**
 * What the way from the layout to the surface does to a small square: how much larger it becomes, and how far its
 * corners are from right angles, degrees. Written to `out` at 2·i.
 * @param at what {@link SheetMap.at} wrote at the place
 */
export function distortionAt(map: SheetMap, b: number, at: Float64Array, out: Float32Array, i: number): void {
  const across = Math.sqrt(at[6] * at[6] + at[7] * at[7] + at[8] * at[8]);
  const up = Math.sqrt(at[9] * at[9] + at[10] * at[10] + at[11] * at[11]);
  if (!(across > 0 && up > 0)) {
    out[i * 2] = 0;
    out[i * 2 + 1] = 90;
    return;
  }
  const k = (at[6] * at[9] + at[7] * at[10] + at[8] * at[11]) / (across * up);
  const width = map.chart.flat ? across / map.width : map.scaleAcross(b);
  const height = map.chart.flat ? up / map.height : up * map.rise(b);
  out[i * 2] = width * height * Math.sqrt(Math.max(0, 1 - k * k));
  out[i * 2 + 1] = Math.abs(90 - (acos(Math.max(-1, Math.min(1, k))) * 180) / Math.PI);
}
