import { clumpOffset, clumpSize } from '../../mesh/scatter/clumps';
import { latticeIn } from '../../mesh/scatter/lattice';
import type { Outline } from '../../mesh/scatter/outline';
import { evenIn, looseIn } from '../../mesh/scatter/plane';
import type { Density } from './density';
import { childSlot, slotOf } from './slots';
import { remembered } from './remember';
import type { Scatter } from './schema';
import { SiteList } from './sites';

/** Places inside closed paths, on one height: what is beneath is found where they land. */
export function inOutline(
  { spread, seed }: Scatter,
  outline: Outline,
  height: number,
  { amount, number, distance }: Density,
): SiteList {
  const list = new SiteList(number);
  if (spread.how === 'grid') {
    const { turnDeg, stagger, loose } = spread;
    latticeIn(
      { distance, turn: (turnDeg * Math.PI) / 180, stagger, loose, seed },
      outline.min,
      outline.max,
      (x, z, key) => {
        if (outline.inside(x, z)) list.addFree(slotOf(key, 0, 0), [x, height, z]);
      },
    );
    return list;
  }
  const loose = spread.how === 'loose';
  const points = remembered([outline], JSON.stringify([loose, seed, loose ? number : amount]), () =>
    loose ? looseIn(outline, seed, number) : evenIn(outline, seed, amount),
  );
  for (let i = 0; i < points.count; i++) {
    const [x, z] = [points.position[i * 3], points.position[i * 3 + 2]];
    const own = slotOf(points.key[i], points.level[i], 0);
    if (spread.how !== 'clumps') {
      list.addFree(own, [x, height, z]);
      continue;
    }
    for (let k = 0; k < clumpSize(spread, seed, own); k++) {
      const slot = childSlot(points.key[i], points.level[i], k);
      const [dx, dz] = clumpOffset(spread, seed, slot);
      if (outline.inside(x + dx, z + dz)) list.addFree(slot, [x + dx, height, z + dz]);
    }
  }
  return list;
}
