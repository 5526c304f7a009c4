import { Mesh, type Intersection, type Object3D } from 'three';
import { acceleratedRaycast } from 'three-mesh-bvh';
import type { Vec3 } from '@/core/math/vec3';
import type { InstancePick } from './PropsLayer';
import { rayAt } from './project';
import type { ViewHandle } from './viewState';

Mesh.prototype.raycast = acceleratedRaycast;

export type Hit =
  | { kind: 'prop'; arrangement: string; slot: number; point: Vec3 }
  | { kind: 'surface'; id: string; point: Vec3; normal: Vec3 };

/** What is under a pixel of the view, nearest first. */
export function pick(view: ViewHandle, x: number, y: number, want: 'all' | 'surfaces' = 'all'): Hit | null {
  const targets: Object3D[] = [];
  view.scene.traverseVisible((o) => {
    if (o.userData.surface || (want === 'all' && o.userData.pick)) targets.push(o);
  });
  const hits: Intersection[] = rayAt(view, x, y).intersectObjects(targets, false);
  for (const hit of hits) {
    const { pick: instance, surface } = hit.object.userData as { pick?: InstancePick; surface?: string };
    const point: Vec3 = [hit.point.x, hit.point.y, hit.point.z];
    if (instance && hit.instanceId !== undefined) {
      return {
        kind: 'prop',
        arrangement: instance.arrangement,
        slot: instance.slotOf(hit.instanceId),
        point,
      };
    }
    if (surface) {
      const n = hit.face?.normal.clone().transformDirection(hit.object.matrixWorld);
      return { kind: 'surface', id: surface, point, normal: n ? [n.x, n.y, n.z] : [0, 1, 0] };
    }
  }
  return null;
}
