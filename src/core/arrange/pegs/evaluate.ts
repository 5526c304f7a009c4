import {
  allocatePlacements,
  NO_FACTS,
  type Finding,
  type Placements,
  type RunResult,
} from '../../evaluate/result';
import { quatRotate, writeQuatFromUpFront, type Quat } from '../../math/quat';
import { findAgain, poseOn } from '../../mesh/pin';
import { shapeOf, type ArrangeContext } from '../context';
import type { Facings } from '../steps/facing';
import { groundStep } from '../steps/ground';
import type { Peg, Pegs, Pin } from './schema';

/** A peg's number, from its id ("peg12"): its slot. */
export const pegNumber = (id: string): number => Number(/(\d+)$/.exec(id)?.[1] ?? 0);

/** Works pegs out: each prop where it was put, on its place of the surface, or on the ground under it. */
export function evaluatePegs(pegs: Pegs, context: ArrangeContext): RunResult {
  const props = [...new Set(pegs.pegs.map((p) => p.prop))];
  const index = new Map(props.map((id, i) => [id, i]));
  const placements = allocatePlacements(pegs.pegs.length, props);
  const findings: Finding[] = [];
  const say = (kind: Finding['kind'], detail: Finding['detail'], slots?: number[]) =>
    findings.push({ kind, severity: 'error', node: pegs.id, detail, ...(slots && { slots }) });
  for (const prop of props) {
    const facts = context.prop(prop);
    if (facts?.state !== 'ready') say(facts ? facts.state : 'prop-missing', { prop });
  }
  if (pegs.pegs.length === 0) say('no-props', {});
  if (pegs.pegs.some((p) => p.tint)) placements.tint = new Float32Array(pegs.pegs.length * 3).fill(1);
  const ground = groundStep(
    pegs.ground,
    context,
    pegs.seed,
    props.map((id) => shapeOf(context, id)),
  );
  /** Pegs whose surface is gone or that could not be found on it again, by surface. */
  const lost = new Map<string, number[]>();
  pegs.pegs.forEach((peg, i) => {
    placements.slot[i] = pegNumber(peg.id);
    placements.prop[i] = index.get(peg.prop)!;
    placements.position.set(peg.position, i * 3);
    placements.rotation.set(peg.rotation, i * 4);
    placements.scale.set(peg.scale, i * 3);
    if (peg.tint) placements.tint!.set(peg.tint, i * 3);
    if (!peg.pin) {
      if (ground) settle(peg, placements, i, ground);
      return;
    }
    const pose = poseOfPin(peg.pin, peg, context);
    if (!pose) {
      lost.set(peg.pin.surface, [...(lost.get(peg.pin.surface) ?? []), placements.slot[i]]);
      return;
    }
    placements.position.set(pose.position, i * 3);
    placements.rotation.set(pose.rotation, i * 4);
  });
  for (const [surface, slots] of lost) {
    if (context.surface?.(surface)) say('pin-lost', { surface, count: slots.length }, slots);
    else say('pin-surface-missing', { surface, count: slots.length }, slots);
  }
  if (ground) findings.push(...ground.findings(pegs.id));
  return { placements, findings, facts: NO_FACTS, parts: [] };
}

/** Where a pinned peg stands now; null where its place cannot be found. */
function poseOfPin(pin: Pin, peg: Peg, context: ArrangeContext) {
  const solid = context.surface?.(pin.surface);
  if (!solid) return null;
  const faces = solid.indices.length / 3;
  const place = pin.faces === faces && pin.face < faces ? pin : findAgain(solid, pin.uv, peg.position);
  return place && poseOn(solid, place, pin);
}

/** A free peg on the ground under it, as it was turned. */
function settle(
  peg: Peg,
  out: Placements,
  row: number,
  ground: NonNullable<ReturnType<typeof groundStep>>,
): void {
  const q = peg.rotation as Quat;
  const frames: Facings = {
    front: Float64Array.from(quatRotate(q, [0, 0, 1])),
    up: Float64Array.from(quatRotate(q, [0, 1, 0])),
    outward: 1,
  };
  const orient = ({ front: f, up: u }: Facings, r: number) =>
    writeQuatFromUpFront(out.rotation, row * 4, u[r], u[r + 1], u[r + 2], f[r], f[r + 1], f[r + 2]);
  ground.settle(out, { row, slot: pegNumber(peg.id), frames, r: 0, lift: 0, orient });
}
