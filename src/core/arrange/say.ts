import type { Mark } from '../mesh/mark';
import type { Bounds } from '../mesh/mesh';
import type { ArrangeContext } from './context';
import type { Finding } from './result';

/** Adds a finding about the arrangement that is worked out; an error unless it says otherwise. */
export type Say = (
  kind: Finding['kind'],
  detail: Finding['detail'],
  severity?: Finding['severity'],
  slots?: number[],
  marks?: Mark[],
) => void;

/** Findings about `node`, put behind each other into `findings`. */
export const sayInto =
  (findings: Finding[], node: string): Say =>
  (kind, detail, severity = 'error', slots, marks) =>
    findings.push({ kind, severity, node, detail, ...(slots && { slots }), ...(marks && { marks }) });

/** The boxes of props in their own space; undefined, and said, for those whose mesh is not at hand. */
export function boundsOf(
  props: readonly string[],
  context: ArrangeContext,
  say: Say,
): (Bounds | undefined)[] {
  return props.map((prop) => {
    const facts = context.prop(prop);
    if (facts?.state === 'ready') return facts.bounds;
    say(facts ? facts.state : 'prop-missing', { prop });
    return undefined;
  });
}
