import { acos, cos, sin } from '../../math/portable';
import { DEG } from '../../math/quat';
import { uvOn } from '../triMesh';
import { curvatureOf } from './curvature';
import { restPlace, type MaskPlaces } from './places';
import { shareOfNoise } from './patches';
import type { LayerOf } from './schema';

/** What is read off a surface where a place is: each gives one number a place, in the measure of its layer. */

const held = (v: number) => Math.min(1, Math.max(-1, v));

/** Degrees between the normals and level: 0 flat, 90 a wall, beyond it an overhang. */
export const slopes = ({ count, normal }: MaskPlaces): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => acos(held(normal[i * 3 + 1])) / DEG);

/** Metres above the ground of the scene. */
export const heights = ({ count, position }: MaskPlaces): Float64Array =>
  Float64Array.from({ length: count }, (_, i) => position[i * 3 + 1]);

/** Degrees between the normals and a direction. */
export function facings({ count, normal }: MaskPlaces, layer: LayerOf<'facing'>): Float64Array {
  const [compass, rise] = [layer.compassDeg * DEG, layer.riseDeg * DEG];
  const level = cos(rise);
  const [x, y, z] = [sin(compass) * level, sin(rise), -cos(compass) * level];
  return Float64Array.from(
    { length: count },
    (_, i) => acos(held(normal[i * 3] * x + normal[i * 3 + 1] * y + normal[i * 3 + 2] * z)) / DEG,
  );
}

/** Mean curvature, 1 / m: that between the corners of the face. 0 where there is no surface. */
export function curvatures(places: MaskPlaces): Float64Array {
  const { count, grounds, ground, face, u, v } = places;
  const of = grounds.map(({ read }) => curvatureOf(read));
  return Float64Array.from({ length: count }, (_, i) => {
    if (ground[i] < 0) return 0;
    const { indices } = grounds[ground[i]].read;
    const at = of[ground[i]];
    const f = face[i] * 3;
    return at[indices[f]] * (1 - u[i] - v[i]) + at[indices[f + 1]] * u[i] + at[indices[f + 2]] * v[i];
  });
}

/** Patches of noise as shares of the area; on the material, where there is a surface. */
export function patches(places: MaskPlaces, { seed, span }: LayerOf<'noise'>): Float64Array {
  const { count, position, ground } = places;
  const share = shareOfNoise(seed);
  return Float64Array.from({ length: count }, (_, i) => {
    const [x, y, z] = ground[i] < 0 ? position.subarray(i * 3, i * 3 + 3) : restPlace(places, i);
    return share(x / span, y / span, z / span);
  });
}

/** A texture coordinate; NaN where the surface has none, or there is no surface. */
export function uvs({ count, grounds, ground, face, u, v }: MaskPlaces, axis: 0 | 1): Float64Array {
  return Float64Array.from({ length: count }, (_, i) => {
    const uv = ground[i] < 0 ? undefined : uvOn(grounds[ground[i]].rest, face[i], u[i], v[i]);
    return uv ? uv[axis] : NaN;
  });
}
