import { quatRotate, writeUnitQuat } from '../../math/quat';
import { distance, type Vec3 } from '../../math/vec3';
import { placeOfPin, turnTowards, writePose, type Place, type Stance } from '../../mesh/pin';
import type { Pin } from '../../mesh/pinSchema';
import type { TriMesh } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import { NO_FACTS, type ArrangementResult, type Finding, type Placements } from '../result';
import { boundsOf, sayInto, type Say } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import type { Sites } from '../sites';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import type { KeepsOut } from '../steps/keepsOut';
import { Misplaced } from '../steps/misplaced';
import { allPegs } from './blocks';
import { pegNumber, type Peg, type Pegs } from './schema';
import { Sitting, sitsAmong, stepsOf } from './sits';

/** What of pegs stays the same at every time: their numbers, props and sizes, and where free ones are. */
interface AtRest {
  props: string[];
  slot: Float64Array;
  prop: Int32Array;
  s: Float64Array;
  position: Float64Array;
  rotation: Float64Array;
  scale: Float64Array;
  tint: Float32Array | null;
}
const kept = new WeakMap<readonly Peg[], AtRest>();

function atRest(pegs: readonly Peg[]): AtRest {
  const have = kept.get(pegs);
  if (have) return have;
  const props = [...new Set(pegs.map((p) => p.prop))];
  const index = new Map(props.map((id, i) => [id, i]));
  const n = pegs.length;
  const out: AtRest = {
    props,
    slot: new Float64Array(n),
    prop: new Int32Array(n),
    s: new Float64Array(n),
    position: new Float64Array(n * 3),
    rotation: new Float64Array(n * 4),
    scale: new Float64Array(n * 3),
    tint: pegs.some((p) => p.tint) ? new Float32Array(n * 3).fill(1) : null,
  };
  pegs.forEach((peg, i) => {
    out.slot[i] = pegNumber(peg.id);
    out.prop[i] = index.get(peg.prop)!;
    out.position.set(peg.position, i * 3);
    writeUnitQuat(out.rotation, i * 4, peg.rotation);
    out.scale.set(peg.scale, i * 3);
    if (peg.tint) out.tint!.set(peg.tint, i * 3);
  });
  kept.set(pegs, out);
  return out;
}

/**
 * Works pegs out: each prop where it was put, on its place of the surface, or on the ground under it.
 * @param some of its pegs; all of them, unless they are said
 */
export function evaluatePegs(
  pegs: Pegs,
  context: ArrangeContext,
  some = allPegs(pegs.pegs),
): ArrangementResult {
  if (!sitsAmong(pegs)) return step(pegs, context, some, NONE_AMONG);
  // What sits on others of them stands where those stood the time before: as often as they are stacked.
  const { steps, rings } = stepsOf(pegs);
  let result: ArrangementResult | undefined;
  for (let i = 0; i < steps; i++)
    result = step(pegs, context, some, { placements: result?.placements, rings });
  return result!;
}

const NONE_AMONG = { placements: undefined, rings: new Set<number>() };

/** @param known of pegs that others sit on: where they were found to be so far */
function step(
  pegs: Pegs,
  context: ArrangeContext,
  some: readonly Peg[],
  known: { placements: Placements | undefined; rings: ReadonlySet<number> },
): ArrangementResult {
  const rest = atRest(some);
  const findings: Finding[] = [];
  const say = sayInto(findings, pegs.id);
  const bounds = boundsOf(rest.props, context, say);
  if (some.length === 0) say('no-props', {});
  const around = keepOutsAround(pegs, context, (kind, detail) => say(kind, detail, 'warning'));
  const { placements, findings: ofGround } = settle(
    { ...pegs, posing: AS_IT_LIES, gaps: wholeGaps(pegs.gaps) },
    [sitesOf(some, rest, around, context, say, new Sitting(context, { id: pegs.id, ...known }))],
    { ids: rest.props, bounds },
    context,
    say,
  );
  if (rest.tint) {
    placements.tint ??= new Float32Array(rest.tint.length).fill(1);
    for (let o = 0; o < rest.tint.length; o++) placements.tint[o] *= rest.tint[o];
  }
  return { placements, findings: [...findings, ...ofGround], facts: NO_FACTS, parts: [] };
}

/** Pegs as sites, pinned ones on their places of the surfaces as those are now. */
function sitesOf(
  pegs: readonly Peg[],
  rest: AtRest,
  around: readonly KeepsOut[],
  context: ArrangeContext,
  say: Say,
  sitting: Sitting,
): Sites {
  const position = rest.position.slice();
  const rotation = rest.rotation.slice();
  const misplaced = new Misplaced();
  pegs.forEach(({ pin, sits, position: lay, rotation: lying }, i) => {
    if (sits) {
      const pose = sitting.place(sits, rest.slot[i], lay);
      if (!pose) return;
      position.set(pose.position, i * 3);
      rotation.set(pose.rotation, i * 4);
      return;
    }
    if (!pin) return;
    const triMesh = context.surface?.(pin.surface);
    const place = triMesh && placeOfPin(pin, lay, triMesh);
    if (place) {
      writePose(
        triMesh,
        place,
        place === pin ? pin : faced(pin, place, lying, triMesh),
        position,
        rotation,
        i,
      );
      if (place !== pin) misplaced.foundAgain(pin.surface, rest.slot[i], awayFrom(position, i, lay));
    } else misplaced.isLost(pin.surface, rest.slot[i]);
  });
  misplaced.tell(say, context);
  sitting.tell(say);
  const { slot, prop, s, scale } = rest;
  return {
    slot,
    prop,
    s,
    position,
    rotation,
    scale,
    ...axesOf(rotation),
    outward: 1,
    odd: (i) => i % 2 === 1,
    // What is pinned or connected does not fall: where it is, it was.
    lean: (i) => pegs[i].pin?.lean ?? 0,
    held: (i) => pegs[i].pin !== null || pegs[i].sits !== undefined,
    keptOut: keptOutAt(around, position, slot),
  };
}

/** How a pin stands on another face: turned as it lay, since its own turn counts from its own face's side. */
const faced = (pin: Pin, place: Place, lying: Peg['rotation'], triMesh: TriMesh): Stance => ({
  ...pin,
  turnDeg: turnTowards(triMesh, place, pin.lean, quatRotate(lying, [0, 0, 1])),
});

const awayFrom = (position: Float64Array, i: number, lay: Vec3): number =>
  distance([position[i * 3], position[i * 3 + 1], position[i * 3 + 2]], lay);

/** Where the front (+Z) and up (+Y) of unit quaternions point. */
function axesOf(rotation: Float64Array): { front: Float64Array; up: Float64Array } {
  const n = rotation.length / 4;
  const front = new Float64Array(n * 3);
  const up = new Float64Array(n * 3);
  for (let i = 0; i < n; i++) {
    const [x, y, z, w] = [rotation[i * 4], rotation[i * 4 + 1], rotation[i * 4 + 2], rotation[i * 4 + 3]];
    front[i * 3] = 2 * (x * z + y * w);
    front[i * 3 + 1] = 2 * (y * z - x * w);
    front[i * 3 + 2] = 1 - 2 * (x * x + y * y);
    up[i * 3] = 2 * (x * y - z * w);
    up[i * 3 + 1] = 1 - 2 * (x * x + z * z);
    up[i * 3 + 2] = 2 * (y * z + x * w);
  }
  return { front, up };
}
