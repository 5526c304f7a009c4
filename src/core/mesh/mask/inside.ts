import type { CompiledPath } from '../../curve/compile';
import { polyline } from '../../curve/sample';
import { outlineOf } from '../scatter/outline';
import { distancesTo } from './above';
import { lineMesh, TURN } from './lineMesh';
import type { MaskPlaces } from './places';

/**
 * Metres in from the border of closed paths as seen from above; outside they are negative.
 * @param rings strokes that close
 */
export function depthsInside(
  places: MaskPlaces,
  rings: readonly CompiledPath[],
  most = Infinity,
): Float64Array {
  const outline = outlineOf(rings.map((r) => polyline(r, TURN).position));
  const away = distancesTo(places, [lineMesh(rings, true)], true, most);
  return away.map((d, i) => (outline.inside(places.position[i * 3], places.position[i * 3 + 2]) ? d : -d));
}
