import type { ProfilePlane } from '@/core/mesh/make/profilePlane';
import { plainProfile } from '@/core/mesh/make/profiles';
import type { SurfaceShape } from '@/core/mesh/make/schema';
import type { Surface } from '@/core/mesh/surfaceSchema';
import type { ProfilePoint } from '@/store/commands/profiles';
import type { Vec3 } from '@/core/math/vec3';

export type Swept = Extract<SurfaceShape, { shape: 'swept' }>;

/** The shape of a surface that is made from profiles: swept along a path, turned about an axis, lofted through some. */
export function profiledShape(surface: Surface | undefined) {
  if (surface?.mesh.source !== 'made') return undefined;
  const { shape } = surface.mesh;
  return shape.shape === 'swept' || shape.shape === 'turned' || shape.shape === 'loft' ? shape : undefined;
}

/** Ids of the paths that are its profiles; none where a plain one is swept. */
export function profilesOf(shape: NonNullable<ReturnType<typeof profiledShape>>): string[] {
  if (shape.shape === 'loft') return shape.paths;
  if (shape.shape === 'turned') return [shape.path];
  return shape.profile === null ? [] : [shape.profile];
}

/** As few places as draw a plain profile again: what is round by a smooth point in eight, what has corners by these. */
export function asPoints({ plain, width, height }: Swept): ProfilePoint[] {
  const sides = plainProfile(plain);
  const sized = ([x, y]: [number, number]): [number, number] => [
    Number((x * width).toFixed(6)),
    Number((y * height).toFixed(6)),
  ];
  return sides.flatMap((side) => {
    const ring = sides.length === 1;
    const steps = side.length - 1;
    const every = steps <= 1 ? 1 : steps / (ring ? (plain === 'star' ? 24 : 8) : 4);
    return Array.from({ length: Math.round(steps / every) }, (_, k): ProfilePoint => ({
      at: sized(side[Math.round(k * every)]),
      kind: !ring && k === 0 ? 'corner' : 'smooth',
    }));
  });
}

/** The way from a profile's metres to pixels of the panel and back. */
export interface ProfilePlan {
  /** Pixels a metre. */
  k: number;
  at(x: number, y: number): [number, number];
  back(px: number, py: number): [number, number];
}

/** Clear of the panel's edges, pixels. */
const MARGIN = 22;

/** @param places all that has to be seen, right and up */
export function profilePlan(
  places: readonly (readonly [number, number])[],
  size: { width: number; height: number },
): ProfilePlan {
  const [[left, right], [low, high]] = [0, 1].map((k) => [
    places.reduce((m, p) => Math.min(m, p[k]), Infinity),
    places.reduce((m, p) => Math.max(m, p[k]), -Infinity),
  ]);
  const reach = Math.max(right - left, high - low, 1e-3);
  const fit = Math.min(
    (size.width - 2 * MARGIN) / Math.max(right - left, reach / 100),
    (size.height - 2 * MARGIN) / Math.max(high - low, reach / 100),
  );
  const k = Math.max(1e-3, fit);
  const [mx, my] = [size.width / 2 - ((left + right) / 2) * k, size.height / 2 + ((low + high) / 2) * k];
  return {
    k,
    at: (x, y) => [mx + x * k, my - y * k],
    back: (px, py) => [(px - mx) / k, (my - py) / k],
  };
}

export const flatOf = (p: ArrayLike<number>, { h, v, up }: ProfilePlane): [number, number] => [
  p[h],
  p[v] * up,
];

/** Where a place of the scene goes when it is moved in the plane of the profile. */
export function placedAt(from: Vec3, { h, v, up }: ProfilePlane, [x, y]: readonly [number, number]): Vec3 {
  const to: Vec3 = [...from];
  to[h] = Number(x.toFixed(5));
  to[v] = Number((y * up).toFixed(5));
  return to;
}
