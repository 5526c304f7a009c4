import { Matrix3, Vector3 } from 'three';
import { quatRotate, type Quat } from '@/core/math/quat';
import { normalize, type Vec3 } from '@/core/math/vec3';
import { setProp } from '@/store/commands/scene';
import { dispatch, useDocument } from '@/store/document';
import { engine } from '@/store/engine';
import type { ViewHandle } from './handle';
import { matrixOf, targetsIn, type InstancePick } from './pick';
import { rayAt, toScreen } from './project';
import { holesNear } from './snap/holes';
import { meshPlacesUnder } from './snap/meshPlaces';
import { useSnap } from './snap/snapState';
import { useView } from './viewState';

/**
 * The snap point tool: a click on any placed copy of a prop gives the prop a snap point there, on a corner, the middle
 * of an edge or of a hole where one is near, with the face's or the hole's normal as its direction.
 */

/** Pixels within which a corner or the middle of an edge is meant. */
const CATCH = 10;

export function snapPointClick(view: ViewHandle, x: number, y: number, free: boolean): void {
  const { snapPick } = useView.getState();
  const { scene, readOnly } = useDocument.getState();
  const prop = scene.props.find((p) => p.id === snapPick?.prop);
  if (!prop || readOnly) return;
  const say = (said: string | null) => useView.setState({ snapPick: { prop: prop.id, said } });
  // Where one sees through a hole, what is under the pointer is something else.
  const hole = free ? undefined : holesNear(view, x, y, CATCH).find((h) => h.of && propOf(h.of) === prop.id);
  const hit = hole ? { ...hole.of!, point: hole.at, normal: hole.normal } : placedUnder(view, x, y);
  if (!hit) return say(`Click on a placed ${prop.name}.`);
  const p = engine().state.result.arrangements.get(hit.arrangement)?.placements;
  const row = p ? p.slot.indexOf(hit.slot) : -1;
  if (!p || p.props[p.prop[row]] !== prop.id)
    return say(`That is no ${prop.name}: click on one that is placed.`);
  if (p.shape && p.shape[row] >= 0)
    return say('This one is bent, and its mesh is elsewhere for it: click on one that keeps its shape.');
  const near =
    free || hole
      ? undefined
      : meshPlacesUnder(view, x, y, useSnap.getState().parts).find((place) => {
          const at = toScreen(view, place.at);
          return Math.hypot(at.x - x, at.y - y) <= CATCH;
        });
  const at = near?.at ?? hit.point;
  const [qx, qy, qz, qw] = p.rotation.subarray(row * 4, row * 4 + 4);
  const back: Quat = [-qx, -qy, -qz, qw];
  const scale = p.scale.subarray(row * 3, row * 3 + 3);
  const own = quatRotate(back, at.map((v, a) => v - p.position[row * 3 + a]) as Vec3);
  const normal = quatRotate(back, hit.normal);
  const round = (v: number) => Number(v.toFixed(6));
  const position = own.map((v, a) => round(v / (scale[a] || 1))) as Vec3;
  // Square to the face in the prop's own space, however this copy of it is sized.
  const direction = normalize(normal.map((v, a) => v * scale[a]) as Vec3).map(round) as Vec3;
  const name = freeName(prop.snapPoints.map((s) => s.name));
  dispatch(setProp, {
    id: prop.id,
    values: { snapPoints: [...prop.snapPoints, { name, position, direction }] },
  });
  say(null);
}

function freeName(taken: readonly string[]): string {
  for (let n = taken.length + 1; ; n++) if (!taken.includes(`point ${n}`)) return `point ${n}`;
}

/** The prop that is placed in a slot. */
function propOf({ arrangement, slot }: { arrangement: string; slot: number }): string | undefined {
  const p = engine().state.result.arrangements.get(arrangement)?.placements;
  return p?.props[p.prop[p.slot.indexOf(slot)]];
}

/** The placed prop under a pixel: where, and the normal of its face there. */
function placedUnder(view: ViewHandle, x: number, y: number) {
  const hit = rayAt(view, x, y).intersectObjects(targetsIn(view, 'props'), false)[0];
  const instance = hit?.object.userData.pick as InstancePick | undefined;
  if (!hit?.face || !instance || hit.instanceId === undefined) return null;
  const matrix = matrixOf(hit);
  const normal = new Vector3()
    .copy(hit.face.normal)
    .applyMatrix3(new Matrix3().getNormalMatrix(matrix))
    .normalize();
  return {
    ...instance(hit.instanceId),
    point: hit.point.toArray() as Vec3,
    normal: normal.toArray() as Vec3,
  };
}
