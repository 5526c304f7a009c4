import { writeUnitQuat } from '../../math/quat';
import type { Placements, ArrangementResult } from '../result';
import { placeOfPin, writePose } from '../../mesh/pin';
import type { ArrangeContext } from '../context';
import type { Pegs } from './schema';

/** More changed pegs than one in so many are worked out with all the others. */
const FEW = 4;

/**
 * Pegs of which a few are others than before: those are worked out, and the rest is what it was.
 * @param before the pegs as they were, and what they came to, on the same surfaces and with the same props
 * @returns null where more may have changed than the rows of the changed pegs
 */
export function changedPegs(
  pegs: Pegs,
  context: ArrangeContext,
  before: { node: Pegs; result: ArrangementResult },
): ArrangementResult | null {
  const { node, result } = before;
  const old = result.placements;
  // With a ground one comes to lie on another; what was said may no longer hold.
  if (pegs.ground !== node.ground || pegs.ground.mode !== 'none' || result.findings.length > 0) return null;
  if (pegs.pegs.length !== node.pegs.length) return null;
  const rows: number[] = [];
  for (let i = 0; i < pegs.pegs.length; i++) if (pegs.pegs[i] !== node.pegs[i]) rows.push(i);
  if (rows.length * FEW > pegs.pegs.length) return null;
  const out: Placements = {
    ...old,
    position: old.position.slice(),
    rotation: old.rotation.slice(),
    scale: old.scale.slice(),
    ...(old.tint && { tint: old.tint.slice() }),
  };
  for (const i of rows) {
    const peg = pegs.pegs[i];
    const was = node.pegs[i];
    // Props are counted in the order of their first use, so that another prop may change the numbers of all.
    if (peg.id !== was.id || peg.prop !== was.prop || !peg.tint !== !was.tint) return null;
    out.position.set(peg.position, i * 3);
    writeUnitQuat(out.rotation, i * 4, peg.rotation);
    out.scale.set(peg.scale, i * 3);
    out.tint?.set(peg.tint ?? [1, 1, 1], i * 3);
    if (!peg.pin) continue;
    const triMesh = context.surface?.(peg.pin.surface);
    const place = triMesh && placeOfPin(peg.pin, peg.position, triMesh);
    if (!place) return null;
    writePose(triMesh, place, peg.pin, out.position, out.rotation, i);
  }
  return { ...result, placements: out, rows: Int32Array.from(rows) };
}
