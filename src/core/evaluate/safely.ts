import type { ArrangeContext } from '../arrange/context';
import { kindOf, type Arrangement } from '../arrange/registry';
import { withPoses } from '../arrange/poses/posed';
import { emptyPlacements, NO_FACTS, type ArrangementResult, type Finding } from '../arrange/result';
import type { CompileResult } from '../curve/compile';
import type { Path } from '../curve/schema';
import { compileSource } from './compileSource';
import type { PathContext } from './pathContext';

/** A path, or why there is none: a broken node does not stop the others. */
export function compiled(
  path: Path,
  context: PathContext,
  ring: string[] | undefined,
): { result: CompileResult; message?: string } {
  if (ring) return { result: { ok: false, problem: 'cycle' } };
  try {
    return { result: compileSource(path, context) };
  } catch (error) {
    return { result: { ok: false, problem: 'failed' }, message: messageOf(error) };
  }
}

const messageOf = (error: unknown) => (error instanceof Error ? error.message : String(error));

/** What a fall comes to; where it cannot be worked out all is held, and why is told. */
export function fallen<T extends { result: ArrangementResult; done: number; frames: number }>(
  node: string,
  held: ArrangementResult,
  work: () => T,
): T | { result: ArrangementResult; done: number; frames: number } {
  try {
    return work();
  } catch (error) {
    const finding: Finding = {
      kind: 'failed',
      severity: 'error',
      node,
      detail: { message: messageOf(error) },
    };
    return { result: { ...held, findings: [...held.findings, finding] }, done: 1, frames: 0 };
  }
}

/** What an arrangement places as long as it holds it: as its kind does, in their poses. */
export function placedBy(
  a: Arrangement,
  context: ArrangeContext,
  before?: { node: Arrangement; result: ArrangementResult },
): ArrangementResult {
  const result = kindOf(a).evaluate(a, context, before);
  const { poses } = a;
  return poses?.on ? withPoses({ ...a, poses }, result, context) : result;
}

/** A result, or why there is none: a broken node does not stop the others. */
export function worked(
  a: Arrangement,
  context: ArrangeContext,
  ring: string[] | undefined,
  before?: { node: Arrangement; result: ArrangementResult },
): ArrangementResult {
  const broken = (finding: Omit<Finding, 'node' | 'severity'>): ArrangementResult => ({
    placements: emptyPlacements(),
    findings: [{ ...finding, severity: 'error', node: a.id }],
    facts: NO_FACTS,
    parts: [],
  });
  if (ring) return broken({ kind: 'cycle', detail: { ring: ring.join(' → ') } });
  try {
    return placedBy(a, context, before);
  } catch (error) {
    return broken({ kind: 'failed', detail: { message: messageOf(error) } });
  }
}
