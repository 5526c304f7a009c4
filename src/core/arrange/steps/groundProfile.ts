import type { CompiledPath } from '../../curve/compile';
import { samplePath } from '../../curve/sample';
import type { Vec3 } from '../../math/vec3';
import type { ArrangeContext } from '../context';
import { landing, triMeshesOf, surfaceProbe } from './groundProbe';
import type { Ground } from './groundSchema';

/** A path seen from the side: its height and that of the ground under it, over its length. */
export interface Profile {
  s: Float64Array;
  path: Float64Array;
  /** NaN where there is none. */
  ground: Float64Array;
}

/** The profile of a path at `count` places. Without a direction of its own the ground is that straight below. */
export function profileAlong(
  path: CompiledPath,
  ground: Ground,
  context: ArrangeContext,
  count: number,
): Profile {
  const s = Float64Array.from({ length: count }, (_, i) => (path.length * i) / (count - 1));
  const { position } = samplePath(path, s);
  const probe = surfaceProbe(triMeshesOf(ground, context));
  const out: Profile = { s, path: new Float64Array(count), ground: new Float64Array(count) };
  for (let i = 0; i < count; i++) {
    out.path[i] = position[i * 3 + 1];
    const at: Vec3 = [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]];
    out.ground[i] = landing(probe, at, [0, -1, 0], ground.above)?.at[1] ?? NaN;
  }
  return out;
}
