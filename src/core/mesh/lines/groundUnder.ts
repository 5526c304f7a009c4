import { hangingPlane, lengthOf, type Ends } from '../../curve/hang/hang';
import type { GroundProfile } from '../../curve/hang/lying';
import type { Hang } from '../../curve/hang/schema';
import { distance, dot, sub, type Vec3 } from '../../math/vec3';
import type { TriMesh } from '../triMesh';
import { sectionFromAbove } from './section';

/** Whether lines that hang so may lie on surfaces. */
const mayLie = ({ how, lies }: Hang): boolean => Boolean(lies) && how !== 'stiff';

/** The surfaces that lines may lie on. */
export const liesOn = (hang: Hang): readonly string[] | 'all' =>
  !mayLie(hang) ? [] : hang.lies!.surfaces.length > 0 ? hang.lies!.surfaces : 'all';

/** The outline of the ground under a line, as {@link hungBetween} takes it; undefined where there is none that it may lie on. */
export function groundUnder(
  meshes: readonly TriMesh[],
  ends: Ends,
  hang: Hang,
  down: Vec3,
  factor: number,
): GroundProfile | undefined {
  const plane = meshes.length > 0 && mayLie(hang) ? hangingPlane(ends, down) : null;
  if (!plane || !hang.lies) return undefined;
  const { above, clear } = hang.lies;
  const v = dot(sub(ends.to, ends.from), plane.up);
  const wanted = lengthOf(hang, distance(ends.from, ends.to), factor);
  // It reaches no deeper: a taut one not at all, one of a length not by more than that.
  const deep = hang.how === 'taut' ? 0 : (wanted ?? hang.sag * factor);
  const profile = sectionFromAbove(meshes, {
    ...plane,
    from: ends.from,
    low: Math.min(0, v) - deep - clear,
    top: [above, v + above],
  });
  if (clear > 0) for (let i = 1; i < profile.length; i += 2) profile[i] += clear;
  return profile;
}
