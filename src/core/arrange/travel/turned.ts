import { DEG, quatRotate, type Quat } from '../../math/quat';
import { cos, sin } from '../../math/portable';
import { add, cross, length, sub, type Vec3 } from '../../math/vec3';
import type { Travel } from './schema';
import { pointOf, type Places, type Way } from './way';

const AXES: Record<Travel['axis'], Vec3> = { x: [1, 0, 0], y: [0, 1, 0], z: [0, 0, 1] };

/** About an axis through a point. */
export function turnedAbout({ turn, centre, axis }: Travel, places: Places, time: number): Way {
  const along = AXES[axis];
  const angle = (turn.byDeg + turn.speed * time) * DEG;
  const k = sin(angle / 2);
  const turned: Quat = [along[0] * k, along[1] * k, along[2] * k, cos(angle / 2)];
  const sign = Math.sign(turn.speed || turn.byDeg);
  const axisOn = along.map((a) => a * sign) as Vec3;
  return (i, _, out) => {
    const arm = quatRotate(turned, sub(pointOf(places, i), centre));
    out.position = add(centre, arm);
    out.turned = turned;
    out.going = cross(axisOn, arm);
    out.made = angle * length(cross(along, arm));
    return true;
  };
}
