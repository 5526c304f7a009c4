import { writeUnitQuat } from '../../math/quat';
import {
  allocatePlacements,
  NO_FACTS,
  type Finding,
  type Placements,
  type ArrangementResult,
} from '../result';
import { placeOfPin, writePose } from '../../mesh/pin';
import { shapeOf, type ArrangeContext } from '../context';
import { boundsOf, sayInto } from '../say';
import { groundStep, settleAsTurned } from '../steps/ground';
import type { Pegs } from './schema';

/** A peg's number, from its id ("peg12"): its slot. */
export const pegNumber = (id: string): number => Number(/(\d+)$/.exec(id)?.[1] ?? 0);

/** What of pegs stays the same at every time: their numbers, props, sizes and tints, and where free ones are. */
const kept = new WeakMap<Pegs, Placements>();

function atRest(pegs: Pegs): Placements {
  const have = kept.get(pegs);
  if (have) return have;
  const props = [...new Set(pegs.pegs.map((p) => p.prop))];
  const index = new Map(props.map((id, i) => [id, i]));
  const out = allocatePlacements(pegs.pegs.length, props);
  if (pegs.pegs.some((p) => p.tint)) out.tint = new Float32Array(pegs.pegs.length * 3).fill(1);
  pegs.pegs.forEach((peg, i) => {
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

/** Works pegs out: each prop where it was put, on its place of the surface, or on the ground under it. */
export function evaluatePegs(pegs: Pegs, context: ArrangeContext): ArrangementResult {
  const rest = atRest(pegs);
  const placements: Placements = {
    ...rest,
    position: rest.position.slice(),
    rotation: rest.rotation.slice(),
    state: rest.state.slice(),
  };
  const findings: Finding[] = [];
  const say = sayInto(findings, pegs.id);
  boundsOf(rest.props, context, say);
  if (pegs.pegs.length === 0) say('no-props', {});
  const ground = groundStep(
    pegs.ground,
    context,
    pegs.seed,
    rest.props.map((id) => shapeOf(context, id)),
  );
  /** Pegs whose surface is gone or that could not be found on it again, by surface. */
  const lost = new Map<string, number[]>();
  // Pinned ones do not fall: where they are, they were.
  if (ground)
    placements.before = { position: placements.position.slice(), rotation: placements.rotation.slice() };
  pegs.pegs.forEach((peg, i) => {
    const { pin } = peg;
    if (!pin) {
      if (ground) settleAsTurned(ground, placements, i);
      return;
    }
    const triMesh = context.surface?.(pin.surface);
    const place = triMesh && placeOfPin(pin, peg.position, triMesh);
    if (place) {
      writePose(triMesh, place, pin, placements.position, placements.rotation, i);
      if (!placements.before) return;
      writePose(triMesh, place, pin, placements.before.position, placements.before.rotation, i);
      return;
    }
    lost.set(pin.surface, [...(lost.get(pin.surface) ?? []), placements.slot[i]]);
  });
  for (const [surface, slots] of lost) {
    if (context.surface?.(surface)) say('pin-lost', { surface, count: slots.length }, 'error', slots);
    else say('pin-surface-missing', { surface, count: slots.length }, 'error', slots);
  }
  if (ground) findings.push(...ground.findings(pegs.id));
  return { placements, findings, facts: NO_FACTS, parts: [] };
}
