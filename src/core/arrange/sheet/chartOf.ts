import type { SurfaceStates } from '../context';
import type { FindingKind } from '../result';
import type { Quat } from '../../math/quat';
import { distance, type Vec3 } from '../../math/vec3';
import type { Chart } from '../../mesh/chart/chart';
import { frameChart } from '../../mesh/chart/frameChart';
import { uvChart } from '../../mesh/chart/uvChart';
import { placeOfPin, poseOn, type Place } from '../../mesh/pin';
import { placeOn, type TriMesh } from '../../mesh/triMesh';
import type { Sheet } from './schema';

/** A chart that can also tell the place of the material. */
export type SurfaceChart = Chart & { place(u: number, v: number, out: Place): boolean };

/** The side of a flat frame where a sheet has none. */
const FRAME = 1;

/** The chart that a sheet lies over, or why there is none. */
export function chartOf(sheet: Sheet, { now, rest, size }: SurfaceStates): SurfaceChart | FindingKind {
  const { over } = sheet;
  if (over.kind === 'uv') return uvChart(rest, now, size, over) ?? 'sheet-no-uv';
  const pose = frameNow(sheet, now);
  if (!pose) return 'pin-lost';
  const { along, reach } = over;
  return frameChart(now, {
    ...pose,
    width: sheet.width ?? FRAME,
    height: sheet.height ?? FRAME,
    along,
    reach,
  });
}

/** How far the pin of a sheet's frame was found from where it lay, if its own face is another now; null where it is not. */
export function frameMoved({ over }: Sheet, { now }: SurfaceStates): number | null {
  if (over.kind !== 'frame' || !over.pin) return null;
  const place = placeOfPin(over.pin, over.position, now);
  if (!place || place === over.pin) return null;
  return distance(placeOn(now, place.face, place.u, place.v), over.position);
}

/** Where a sheet's flat frame stands now; null where its pin is lost, or it has none. */
function frameNow(sheet: Sheet, now: TriMesh): { position: Vec3; rotation: Quat } | null {
  const { over } = sheet;
  if (over.kind !== 'frame') return null;
  const { pin, position, rotation } = over;
  if (!pin) return { position, rotation };
  const place = placeOfPin(pin, position, now);
  return place && poseOn(now, place, pin);
}
