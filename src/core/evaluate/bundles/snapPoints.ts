import type { PropFacts } from '../../arrange/context';
import { STATE, type Placements } from '../../arrange/result';
import { slotName } from '../../arrange/slotId';
import { snapInRow } from '../../arrange/snapPlace';
import { normalize, type Vec3 } from '../../math/vec3';
import type { Prop } from '../../mesh/propSchema';

type SnapPoints = Prop['snapPoints'];

/** More than so many are not listed: nobody could tell them apart. */
const MOST = 1000;

/**
 * The snap points of what some arrangements have placed, in the scene. One that is there several times is told apart by
 * its slot: "arm 3".
 * @param slots only those; absent: all
 */
export function snapPointsPlaced(
  members: readonly { placements: Placements }[],
  facts: (prop: string) => PropFacts | undefined,
  slots?: readonly number[],
): SnapPoints {
  const found: (SnapPoints[number] & { slot: number })[] = [];
  const some = slots && new Set(slots);
  for (const { placements: p } of members)
    for (let row = 0; row < p.count && found.length < MOST; row++) {
      if (p.prop[row] < 0 || p.state[row] !== STATE.placed || some?.has(p.slot[row]) === false) continue;
      const of = facts(p.props[p.prop[row]]);
      for (const { name } of (of?.state === 'ready' && of.snapPoints) || []) {
        const at = snapInRow(p, row, name, facts);
        if (!at) continue;
        const direction = at.direction ? { direction: at.direction } : {};
        found.push({ name, position: at.position, ...direction, slot: p.slot[row] });
      }
    }
  const times = new Map<string, number>();
  for (const { name } of found) times.set(name, (times.get(name) ?? 0) + 1);
  const taken = new Set<string>();
  return found.slice(0, MOST).map(({ name, slot, ...is }) => {
    const stem = times.get(name)! > 1 ? `${name} ${slotName(slot)}` : name;
    let own = stem;
    for (let k = 2; taken.has(own); k++) own = `${stem} (${k})`;
    taken.add(own);
    return { name: own, ...is };
  });
}

/** Points of the scene in the own space of a bundle. @param matrix from metres about its origin to that space */
export function intoBundle(points: SnapPoints, origin: Vec3, m: ArrayLike<number>): SnapPoints {
  const turned = (v: readonly number[]) =>
    [0, 1, 2].map((r) => m[r] * v[0] + m[4 + r] * v[1] + m[8 + r] * v[2]) as Vec3;
  return points.map(({ name, position, direction }) => ({
    name,
    position: turned(position.map((v, a) => v - origin[a])).map((v, r) => v + m[12 + r]) as Vec3,
    ...(direction && { direction: normalize(turned(direction)) }),
  }));
}
