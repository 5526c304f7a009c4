import { cos, sin } from '../../math/portable';
import { DEG, quatRotate, writeQuatFromUpFront, type Quat } from '../../math/quat';
import { addScaled, cross, dot, normalize, type Vec3 } from '../../math/vec3';
import { leaning } from '../../mesh/pin';
import type { ArrangeContext } from '../context';
import type { Placements } from '../result';
import type { Say } from '../say';
import type { SnapPlace } from '../snapPlace';
import { tiedPlace } from '../tiedPlace';
import { pegNumber, type Peg, type Pegs, type Sits } from './schema';

/** Pegs that sit on snap points, and go with what those belong to. */

/** A direction nearer to level than this does not carry: what is hung there stays upright. */
const CARRIES = 0.5;

/** How a prop sits on a snap point when it is put there: along a direction that points up, upright on any other. */
export const sitsOn = (on: Sits['on'], { direction }: SnapPlace): Sits => ({
  on,
  lift: 0,
  turnDeg: 0,
  lean: direction && direction[1] < CARRIES ? 0 : 1,
});

/** Where a prop stands that sits on a snap point: its front is that of what carries it, laid square to its own up. */
export function poseOnSnap(
  { position, direction, rotation }: SnapPlace,
  { lift, turnDeg, lean }: Omit<Sits, 'on'>,
): { position: Vec3; rotation: Quat } {
  const up = leaning(direction ?? quatRotate(rotation, [0, 1, 0]), lean);
  const front = quatRotate(rotation, [0, 0, 1]);
  // A front along the up itself says nothing: then its back to the other way is as good.
  const flat = addScaled(front, up, -dot(front, up));
  const along = normalize(
    dot(flat, flat) > 1e-6 ? flat : cross(quatRotate(rotation, [1, 0, 0]), up),
    [0, 0, 1],
  );
  const side = cross(up, along);
  const [c, s] = [cos(turnDeg * DEG), sin(turnDeg * DEG)];
  const turned = along.map((v, a) => v * c + side[a] * s) as Vec3;
  const out: Quat = [0, 0, 0, 1];
  writeQuatFromUpFront(out, 0, ...up, ...turned);
  return { position: addScaled(position, up, lift), rotation: out };
}

const sitting = new WeakMap<readonly Peg[], readonly Peg[]>();

/** Those of a block that sit on something. */
export function sittingIn(block: readonly Peg[]): readonly Peg[] {
  let have = sitting.get(block);
  if (!have) sitting.set(block, (have = block.filter((p) => p.sits)));
  return have;
}

/** Whether any peg sits on another one of the same arrangement. */
export const sitsAmong = ({ id, pegs }: Pegs): boolean =>
  pegs.some((block) =>
    sittingIn(block).some(({ sits }) => sits?.on.to === 'slot' && sits.on.arrangement === id),
  );

/**
 * How many times the pegs of an arrangement are to be worked out until those that sit on others of it stand where those
 * do: one more than sit on top of each other at the most. Pegs that sit on each other in a ring are left out of it.
 * @returns the slots that are in a ring too
 */
export function stepsOf({ id, pegs }: Pegs): { steps: number; rings: ReadonlySet<number> } {
  const under = new Map<number, number>();
  for (const block of pegs)
    for (const { id: peg, sits } of sittingIn(block))
      if (sits?.on.to === 'slot' && sits.on.arrangement === id)
        under.set(pegNumber(peg), Number(sits.on.slot));
  const deep = new Map<number, number>();
  const rings = new Set<number>();
  let steps = 1;
  for (const slot of under.keys()) {
    const way: number[] = [];
    let at: number | undefined = slot;
    while (at !== undefined && under.has(at) && !deep.has(at) && !way.includes(at)) {
      way.push(at);
      at = under.get(at);
    }
    const ring = at !== undefined && way.includes(at);
    if (ring) way.slice(way.indexOf(at!)).forEach((s) => rings.add(s));
    let d = ring ? 0 : (deep.get(at ?? NaN) ?? 0);
    for (const s of way.reverse()) deep.set(s, rings.has(s) ? 0 : ++d);
    steps = Math.max(steps, d + 1);
  }
  return { steps, rings };
}

/** Puts rows of pegs that sit on something where that is now, and notes which cannot be. */
export class Sitting {
  private missing: number[] = [];
  private others: number[] = [];

  constructor(
    private context: ArrangeContext,
    /** Of pegs that sit on others of the same arrangement: what is known of those so far. */
    private own: { id: string; placements: Placements | undefined; rings: ReadonlySet<number> },
  ) {}

  /** @param last where it was before @returns null where it stays there */
  place(sits: Sits, slot: number, last: Vec3): { position: Vec3; rotation: Quat } | null {
    const { context, own } = this;
    if (own.rings.has(slot)) return null;
    const inside = sits.on.to === 'slot' && sits.on.arrangement === own.id;
    if (inside && !own.placements) return null;
    const place = tiedPlace(sits.on, last, {
      ...context,
      arrangement: (id) => (id === own.id ? own.placements : context.arrangement?.(id)),
    });
    if (!place) this.missing.push(slot);
    else if (place.other) this.others.push(slot);
    return place && poseOnSnap(place, sits);
  }

  tell(say: Say): void {
    const { missing, others, own } = this;
    if (missing.length > 0) say('sits-missing', { count: missing.length }, 'warning', missing);
    if (others.length > 0) say('sits-other', { count: others.length }, 'warning', others);
    if (own.rings.size > 0) say('sits-ring', { count: own.rings.size }, 'error', [...own.rings]);
  }
}
