import { allocatePlacements, NO_FACTS, type RunResult } from '../../evaluate/result';
import type { ArrangeContext } from '../context';
import type { Pegs } from './schema';

/** A peg's number, from its id ("peg12"): its slot. */
export const pegNumber = (id: string): number => Number(/(\d+)$/.exec(id)?.[1] ?? 0);

/** Works pegs out: each prop just where it was put. */
export function evaluatePegs(pegs: Pegs, context: ArrangeContext): RunResult {
  const props = [...new Set(pegs.pegs.map((p) => p.prop))];
  const index = new Map(props.map((id, i) => [id, i]));
  const placements = allocatePlacements(pegs.pegs.length, props);
  const findings: RunResult['findings'] = [];
  for (const prop of props) {
    const facts = context.prop(prop);
    if (facts?.state === 'ready') continue;
    findings.push({
      kind: facts ? facts.state : 'prop-missing',
      severity: 'error',
      node: pegs.id,
      detail: { prop },
    });
  }
  if (pegs.pegs.length === 0)
    findings.push({ kind: 'no-props', severity: 'error', node: pegs.id, detail: {} });
  if (pegs.pegs.some((p) => p.tint)) placements.tint = new Float32Array(pegs.pegs.length * 3).fill(1);
  pegs.pegs.forEach((peg, i) => {
    placements.slot[i] = pegNumber(peg.id);
    placements.prop[i] = index.get(peg.prop)!;
    placements.position.set(peg.position, i * 3);
    placements.rotation.set(peg.rotation, i * 4);
    placements.scale.set(peg.scale, i * 3);
    if (peg.tint) placements.tint!.set(peg.tint, i * 3);
  });
  return { placements, findings, facts: NO_FACTS, parts: [] };
}
