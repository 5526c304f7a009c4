import { allocatePlacements, NO_FACTS, type RunResult } from '../result';
import { sayInto } from '../say';
import { shapeOf, type ArrangeContext } from '../context';
import { bender, type Bender } from '../steps/bending';
import { whichBend } from '../steps/whichBend';
import { collidingRows } from '../steps/collide';
import { aimAt } from '../steps/facing';
import { decidedByHand } from '../steps/gaps';
import { groundStep } from '../steps/ground';
import { keepOutsAround, keptOutOn } from '../steps/keepOuts';
import { propsOfOrder } from '../steps/schema';
import { tintsOf, unvaried, varier } from '../steps/variation';
import { checkRun } from './checks';
import type { Lane } from './lane';
import { layOut } from './lanes';
import { handById, placeLane, type Placing } from './place';
import { autoPitch, gatherProps } from './sizes';
import type { Run } from './schema';

/**
 * Works a run out: slots, order, gaps, position, facing, variation, size, overlap, in that order for every slot.
 * Nothing throws for what the schema admits: what cannot be done is a finding, the rest goes on.
 */
export function evaluateRun(run: Run, context: ArrangeContext): RunResult {
  const findings: RunResult['findings'] = [];
  const say = sayInto(findings, run.id);
  const sizes = gatherProps(run, context, say);
  const asked = run.spacing.pitch ?? autoPitch(sizes.longest);
  const facts = { ...NO_FACTS, askedPitch: asked };
  const lanes = layOut(run, context, sizes, asked, facts, say);
  const total = lanes.reduce((sum, lane) => sum + lane.id.length, 0);
  const placements = allocatePlacements(total, sizes.ids);
  const result: RunResult = { placements, findings, facts, parts: [] };
  if (propsOfOrder(run.order).length === 0 && run.order.entries.length === 0) {
    say('no-props', {});
  } else if (lanes.some((lane) => lane.orderEmpty)) {
    say('order-empty', {});
  }
  const aim = run.facing.heading === 'target' ? aimAt(run.facing.target, context) : undefined;
  if (run.facing.heading === 'target' && !aim) {
    say('target-missing', {});
  }
  const placing: Placing = {
    run,
    hand: handById(run),
    decided: decidedByHand(run.hand),
    varier: varier(run.variation, run.seed, sizes.ids),
    aim: aim ?? null,
    ground: groundStep(
      run.ground,
      context,
      run.seed,
      sizes.ids.map((id) => shapeOf(context, id)),
    ),
    bender: benderOf(run, context, sizes.ids),
    bends: whichBend(run.facing, run.hand, sizes.ids),
    solid: (id) => context.surface?.(id),
    varied: unvaried(),
  };
  const around = keepOutsAround(run.gaps.keepOuts, context, (kind, detail) => say(kind, detail, 'warning'));
  if (placing.ground)
    placements.before = {
      position: new Float64Array(total * 3),
      rotation: new Float64Array(total * 4),
    };
  const starts: number[] = [];
  let at = 0;
  for (const lane of lanes) {
    starts.push(at);
    placeLane(
      lane,
      placing,
      placements,
      at,
      keptOutOn(run.gaps.keepOuts, around, lane.part, lane.stroke, lane.path.closed),
    );
    at += lane.id.length;
    joinPart(result, lane, at);
  }
  if (run.gaps.collide === 'leave-out') {
    collidingRows(
      placements,
      sizes.bounds,
      true,
      (row) => placing.decided.get(placements.slot[row]) === false,
    );
  }
  const tint = tintsOf(run.variation, run.seed, placements.slot);
  if (tint) placements.tint = tint;
  if (run.facing.posture === 'surface')
    for (const path of new Set(lanes.filter((l) => !l.path.on).map((l) => l.pathId)))
      say('posture-off-surface', { path }, 'warning');
  if (placing.ground) findings.push(...placing.ground.findings(run.id));
  findings.push(...checkRun(run, lanes, starts, placements, sizes));
  return result;
}

function benderOf(run: Run, context: ArrangeContext, props: string[]): Bender | null {
  const { tolerance, posture, corners, lean } = run.facing;
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
    posture === 'surface' ? { solid: (id) => context.surface?.(id), lean } : null,
    context.fine?.of(run.id),
  );
}

/** The rows of one stroke follow each other and are one part. */
function joinPart({ parts }: RunResult, lane: Lane, end: number): void {
  const last = parts.at(-1);
  if (last && last.part === lane.part && last.stroke === lane.stroke) {
    last.end = end;
    last.rows++;
    return;
  }
  const { part, stroke, pathId: path } = lane;
  const { length, closed } = lane.path;
  parts.push({ part, path, stroke, rows: 1, start: end - lane.id.length, end, length, closed });
}
