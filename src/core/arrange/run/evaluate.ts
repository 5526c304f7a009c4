import { NO_FACTS, type PartRange, type ArrangementResult, type SpacingFacts } from '../result';
import { sayInto } from '../say';
import { settle } from '../settle';
import type { ArrangeContext } from '../context';
import { bender, type Bender } from '../steps/bending';
import { whichBend } from '../steps/whichBend';
import { keepOutsAround, keptOutOn } from '../steps/keepOuts';
import { BANK_DEG, propsOfOrder } from '../steps/schema';
import { checkRun } from './checks';
import type { Lane } from './lane';
import { layOut } from './lanes';
import { sitesOf, type Laying } from './sites';
import { autoPitch, gatherProps } from './sizes';
import type { Run } from './schema';

/**
 * Works a run out: its lanes laid along their paths, with the order of props, and settled there.
 * Nothing throws for what the schema admits: what cannot be done is a finding, the rest goes on.
 */
export function evaluateRun(given: Run, context: ArrangeContext): ArrangementResult {
  const findings: ArrangementResult['findings'] = [];
  const say = sayInto(findings, given.id);
  const sizes = gatherProps(given, context, say);
  const run = insetInMetres(given, sizes.longest);
  const { insetStart, insetEnd } = run.spacing;
  const asked = run.spacing.pitch ?? autoPitch(sizes.longest);
  const facts: SpacingFacts = { ...NO_FACTS, askedPitch: asked, insets: [insetStart, insetEnd] };
  const { keepOuts } = run.gaps;
  const around = keepOutsAround(run, context, (kind, detail) => say(kind, detail, 'warning'));
  const keptOut = (part: number, stroke: number, closed: boolean) =>
    keptOutOn(keepOuts, around, part, stroke, closed);
  const lanes = layOut(run, context, sizes, asked, facts, say, keptOut);
  if (propsOfOrder(run.order).length === 0 && run.order.entries.length === 0) say('no-props', {});
  else if (lanes.some((lane) => lane.orderEmpty)) say('order-empty', {});
  const laying: Laying = {
    run,
    bender: benderOf(run, context, sizes.ids),
    bends: whichBend(run.facing, run.hand, sizes.ids),
    triMesh: (id) => context.surface?.(id),
  };
  const stretches = lanes.map((lane) =>
    sitesOf(lane, laying, keptOut(lane.part, lane.stroke, lane.path.closed)),
  );
  const { placements, findings: ofGround } = settle(
    { ...run, posing: run.facing },
    stretches,
    sizes,
    context,
    say,
  );
  if (run.facing.posture === 'surface')
    for (const path of new Set(lanes.filter((l) => !l.path.on).map((l) => l.pathId)))
      say('posture-off-surface', { path }, 'warning');
  const parts: PartRange[] = [];
  const starts: number[] = [];
  let at = 0;
  for (const lane of lanes) {
    starts.push(at);
    at += lane.id.length;
    joinPart(parts, lane, at);
  }
  findings.push(...ofGround, ...checkRun(run, lanes, starts, placements, sizes));
  return { placements, findings, facts, parts };
}

/** A run whose insets are metres only. @param longest metres that its longest prop takes along the path */
function insetInMetres(run: Run, longest: number): Run {
  const { insetStart, insetEnd, insetStartLengths, insetEndLengths } = run.spacing;
  if (insetStartLengths === 0 && insetEndLengths === 0) return run;
  return {
    ...run,
    spacing: {
      ...run.spacing,
      insetStart: insetStart + insetStartLengths * longest,
      insetEnd: insetEnd + insetEndLengths * longest,
    },
  };
}

function benderOf(run: Run, context: ArrangeContext, props: string[]): Bender | null {
  const { tolerance, posture, corners, lean, bankFrom } = run.facing;
  if (!whichBend(run.facing, run.hand, props)) return null;
  const meshes = props.map((id) => {
    const facts = context.prop(id);
    return facts?.state === 'ready' ? facts.mesh?.() : undefined;
  });
  return bender(
    posture === 'surface' ? 'slope' : posture,
    tolerance,
    meshes,
    corners === 'mitre',
    posture === 'surface' ? { triMesh: (id) => context.surface?.(id), lean } : null,
    context.fine?.of(run.id),
    BANK_DEG[bankFrom],
  );
}

/** The rows of one stroke follow each other and are one part. */
function joinPart(parts: PartRange[], lane: Lane, end: number): void {
  const last = parts.at(-1);
  if (last && last.part === lane.part && last.stroke === lane.stroke) {
    last.end = end;
    last.rows++;
    return;
  }
  const { part, stroke, pathId: path } = lane;
  const { length, closed } = lane.measure;
  const rest = lane.measure !== lane.path && { rest: true as const };
  parts.push({ part, path, stroke, rows: 1, start: end - lane.id.length, end, length, closed, ...rest });
}
