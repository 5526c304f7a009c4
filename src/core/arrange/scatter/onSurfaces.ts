import { hypot } from '../../math/portable';
import { channel, randomBase, randomOf } from '../../math/random';
import { cross, type Vec3 } from '../../math/vec3';
import { firstHit, nearestPlace, noHit } from '../../mesh/bvhQuery';
import { areasOf } from '../../mesh/scatter/areas';
import { clumpOffset, clumpSize } from '../../mesh/scatter/clumps';
import { evenSpots, type Amount } from '../../mesh/scatter/even';
import { latticeIn } from '../../mesh/scatter/lattice';
import { looseSpots, type Spots } from '../../mesh/scatter/spots';
import { through, throughInverse } from '../../mesh/surface';
import { faceNormal, placeOn, triMeshBounds } from '../../mesh/triMesh';
import type { Density } from './density';
import { latticeOnUv } from './gridUv';
import { remembered } from './remember';
import type { Scatter } from './schema';
import { SiteList, type Ground } from './sites';
import { childOn, slotOf } from './slots';

/** Places over the area of surfaces. Where they are is found on the surfaces at rest: they are places of the material. */

const SURFACE = channel('scatter.surface');
const DEG = Math.PI / 180;

/** Square metres of a surface at rest, as it stands in the scene. */
export const groundArea = ({ states: { rest, size } }: Ground): number => areasOf(rest).total * size * size;

/** The places of a scatter over surfaces at a density, in grids or from candidates; a surface is a part of the slot ids. */
export function onSurfaces(scatter: Scatter, grounds: readonly Ground[], density: Density): SiteList {
  const { spread, seed, stand } = scatter;
  const list = new SiteList(density.number);
  if (spread.how === 'grid') {
    for (const ground of grounds) {
      const by = spread.rows === 'uv' ? gridByUv : gridOn;
      by(scatter, ground, density.distance, list);
    }
    return list;
  }
  const shares = numbersOf(grounds, density.number, seed);
  grounds.forEach((ground, g) => {
    const { rest, size } = ground.states;
    const own: Amount =
      'distance' in density.amount ? { distance: density.amount.distance / size } : { number: shares[g] };
    const loose = spread.how === 'loose';
    const spots = remembered([rest], JSON.stringify([loose, seed, loose ? shares[g] : own]), () =>
      loose ? looseSpots(rest, seed, shares[g]) : evenSpots(rest, seed, own),
    );
    if (spread.how === 'clumps') return clumpsOn(scatter, ground, spots, list);
    for (let i = 0; i < spots.count; i++)
      list.addOn(
        ground,
        slotOf(spots.key[i], spots.level[i], ground.part),
        spots.face[i],
        spots.u[i],
        spots.v[i],
        stand.lean,
      );
  });
  return list;
}

/** How many of a number each surface gets: each draws its surface by area, so that more never takes from one. */
function numbersOf(grounds: readonly Ground[], number: number, seed: number): number[] {
  if (grounds.length === 1) return [number];
  const upTo: number[] = [];
  let total = 0;
  for (const g of grounds) upTo.push((total += groundArea(g)));
  const out = grounds.map(() => 0);
  const base = randomBase(seed, SURFACE);
  for (let i = 0; i < number; i++) {
    const at = randomOf(base, i) * total;
    out[upTo.findIndex((v) => at < v)]++;
  }
  return out;
}

/** Rows and columns seen from above, each on the highest place of the surface below it. */
function gridOn({ spread, seed, stand }: Scatter, ground: Ground, distance: number, list: SiteList): void {
  const { states, part } = ground;
  const { rest, place } = states;
  const bounds = triMeshBounds(rest);
  if (!bounds) return;
  const corners = Array.from({ length: 8 }, (_, i) =>
    through(place, [0, 1, 2].map((a) => (i & (1 << a) ? bounds.max : bounds.min)[a]) as Vec3),
  );
  const reach = (a: number, of: (...v: number[]) => number) => of(...corners.map((c) => c[a]));
  const top = reach(1, Math.max) + 1;
  const bottom = reach(1, Math.min) - 1;
  const hit = noHit();
  const tree = rest.tree();
  latticeIn(
    { distance, turn: spread.turnDeg * DEG, stagger: spread.stagger, loose: spread.loose, seed },
    [reach(0, Math.min), reach(2, Math.min)],
    [reach(0, Math.max), reach(2, Math.max)],
    (x, z, key) => {
      const from = throughInverse(place, [x, top, z]);
      const to = throughInverse(place, [x, bottom, z]);
      if (firstHit(tree, ...from, to[0] - from[0], to[1] - from[1], to[2] - from[2], 0, 1, hit))
        list.addOn(ground, slotOf(key, 0, part), hit.face, hit.u, hit.v, stand.lean);
    },
  );
}

/** Rows along u, columns along v. */
function gridByUv({ spread, seed, stand }: Scatter, ground: Ground, distance: number, list: SiteList): void {
  const { rest, size } = ground.states;
  const { turnDeg, stagger, loose } = spread;
  latticeOnUv(
    { distance: distance / size, turn: turnDeg * DEG, stagger, loose, seed },
    rest,
    (face, u, v, key) => list.addOn(ground, slotOf(key, 0, ground.part), face, u, v, stand.lean),
  );
}

/** Some about each of the spots: on the place of the surface that is nearest to where they would be beside it. */
function clumpsOn({ spread, seed, stand }: Scatter, ground: Ground, spots: Spots, list: SiteList): void {
  const { part } = ground;
  const { rest, size } = ground.states;
  const tree = rest.tree();
  const hit = noHit();
  for (let i = 0; i < spots.count; i++) {
    const at = placeOn(rest, spots.face[i], spots.u[i], spots.v[i]);
    const n = faceNormal(rest, spots.face[i]);
    const right = cross(Math.abs(n[1]) < 0.9 ? [0, 1, 0] : [0, 0, 1], n);
    const l = hypot(...right) || 1;
    const ahead = cross(n, right);
    const own = slotOf(spots.key[i], spots.level[i], part);
    for (let k = 0; k < clumpSize(spread, seed, own); k++) {
      const slot = childOn(spots.key[i], spots.level[i], part, k);
      const [x, y] = clumpOffset(spread, seed, slot).map((v) => v / l / size);
      const beside = at.map((v, a) => v + right[a] * x + ahead[a] * y);
      if (nearestPlace(tree, beside[0], beside[1], beside[2], (2 * spread.wide) / size, hit))
        list.addOn(ground, slot, hit.face, hit.u, hit.v, stand.lean);
    }
  }
}
