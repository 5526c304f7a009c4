import { has } from '@/core/arrange/registry';
import { quatRotate } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { poseOn, restingFront, turnTowards } from '@/core/mesh/pin';
import { setArrangement } from '@/store/commands/arrangements';
import { dispatch, useDocument } from '@/store/document';
import type { SurfacePlace } from '../../../view/pick';

/** Flat frames of sheets, held to places of surfaces. */

const local = (place: SurfacePlace) => ({ face: 0, u: place.u, v: place.v });

/** A frame at a place of a surface: out of it, its up as nearly along `front` as can be, or as such things rest. */
export function framePin(place: SurfacePlace, front?: Vec3, lift = 0) {
  const here = local(place);
  const flat = poseOn(place.around, here, { lift: 0, turnDeg: 0, lean: 1 });
  const turnDeg = turnTowards(
    place.around,
    here,
    1,
    front ?? restingFront(quatRotate(flat.rotation, [0, 1, 0])),
  );
  const { surface, face, u, v, faces, uv } = place;
  const pin = { surface, face, u, v, faces, ...(uv && { uv }), lift, turnDeg, lean: 1 };
  return { pin, ...poseOn(place.around, here, pin) };
}

/** Moves a sheet's flat frame to a place of a surface; its up goes on pointing as it did. */
export function moveFrame(id: string, place: SurfacePlace, front: Vec3, key: string): void {
  const sheet = useDocument.getState().scene.arrangements.find((a) => a.id === id);
  if (!has(sheet, 'over') || sheet.over.kind !== 'frame') return;
  const pose = framePin(place, front, sheet.over.pin?.lift);
  dispatch(setArrangement, { id, values: { surface: place.surface, over: { ...sheet.over, ...pose } } }, key);
}
