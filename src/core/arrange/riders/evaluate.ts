import {
  allocatePlacements,
  NO_FACTS,
  STATE,
  type Finding,
  type Placements,
  type ArrangementResult,
} from '../result';
import { channel, random01 } from '../../math/random';
import { quatRotate, type Quat } from '../../math/quat';
import type { PropShape } from '../../mesh/contact/support';
import { boxOf, shapeOf, type ArrangeContext } from '../context';
import { boundsOf, sayInto } from '../say';
import { AS_IT_LIES, settle } from '../settle';
import type { Sites } from '../sites';
import { slotName } from '../slotId';
import { propsByHand, swapByHand } from '../steps/byHand';
import { wholeGaps } from '../steps/gapsSchema';
import { keepOutsAround, keptOutAt } from '../steps/keepOuts';
import type { KeepsOut } from '../steps/keepsOut';
import { weightedAt, weightedProps } from '../steps/weighted';
import type { Riders } from './schema';

const PICK = channel('riders.pick');
const SHARE = channel('riders.share');

/** Works riders out: one row for each placed prop of the leaders, with that one's slot id. */
export function evaluateRiders(riders: Riders, context: ArrangeContext): ArrangementResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, riders.id);
  const leaders = context.arrangement?.(riders.on);
  const drawn = weightedProps(riders.props, context, say);
  if (!leaders) say('leader-missing', {});
  if (!leaders || !drawn)
    return { placements: allocatePlacements(0, []), findings, facts: NO_FACTS, parts: [] };
  const swapped = propsByHand(riders.hand).filter((id) => !drawn.includes(id));
  boundsOf(swapped, context, say);
  const ids = [...drawn, ...swapped];
  const bounds = ids.map((id) => boxOf(context, id));
  const around = keepOutsAround(riders, context, (kind, detail) => say(kind, detail, 'warning'));
  const settled = settle(
    {
      ...riders,
      posing: { ...AS_IT_LIES, ...pick(riders) },
      gaps: wholeGaps(riders.gaps),
      ground: riders.landing === 'each' ? riders.ground : { ...riders.ground, mode: 'none' },
    },
    [seats(riders, leaders, ids, around, context)],
    { ids, bounds },
    context,
    say,
  );
  findings.push(...settled.findings);
  return {
    placements: settled.placements,
    findings,
    facts: NO_FACTS,
    parts: [],
    ...(context.unordered?.(riders.on) && { unordered: true }),
  };
}

const pick = ({ turnDeg, tipDeg, rollDeg, size }: Riders) => ({ turnDeg, tipDeg, rollDeg, size });

/** The seats on the leaders that may carry a rider, in the leaders' order. */
function seats(
  riders: Riders,
  leaders: Placements,
  ids: string[],
  around: readonly KeepsOut[],
  context: ArrangeContext,
): Sites {
  const only = new Set(riders.only);
  const rows: number[] = [];
  for (let i = 0; i < leaders.count; i++)
    if (leaders.state[i] === STATE.placed && (only.size === 0 || only.has(slotName(leaders.slot[i]))))
      rows.push(i);
  const n = rows.length;
  const from = (riders.landing === 'leader' && leaders.before) || leaders;
  const tops = topsOf(leaders, riders, context);
  const sites = {
    slot: new Float64Array(n),
    prop: new Int32Array(n),
    s: new Float64Array(n),
    position: new Float64Array(n * 3),
    front: new Float64Array(n * 3),
    up: new Float64Array(n * 3),
    rotation: new Float64Array(n * 4),
    axes: new Float64Array(n * 3),
    before: new Uint8Array(n),
  };
  const index = new Map(ids.map((id, i) => [id, i]));
  rows.forEach((row, i) => {
    const slot = leaders.slot[row];
    sites.slot[i] = slot;
    sites.s[i] = leaders.s[row];
    sites.prop[i] = index.get(weightedAt(riders.props, random01(riders.seed, slot, PICK)))!;
    if (random01(riders.seed, slot, SHARE) >= riders.share) sites.before[i] = STATE.chance;
    const q = [...from.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
    const [x, y, z] = leaders.scale.subarray(row * 3, row * 3 + 3);
    const [left, up, front] = riders.offset;
    const away = quatRotate(q, [left * x, (tops[leaders.prop[row]] + up) * y, front * z]);
    for (let a = 0; a < 3; a++) sites.position[i * 3 + a] = from.position[row * 3 + a] + away[a];
    sites.front.set(quatRotate(q, [0, 0, 1]), i * 3);
    sites.up.set(quatRotate(q, [0, 1, 0]), i * 3);
    sites.rotation.set(q, i * 4);
    sites.axes.set([x, y, z], i * 3);
  });
  swapByHand(riders.hand, sites.slot, sites.prop, ids);
  const { position } = sites;
  return {
    ...sites,
    outward: 1,
    odd: (i) => i % 2 === 1,
    keptOut: keptOutAt(around, position, sites.slot),
  };
}

/** For each of the leaders' props the height of the seat in its own space. */
function topsOf(leaders: Placements, riders: Riders, context: ArrangeContext): number[] {
  return leaders.props.map((id) => {
    if (riders.seat === 'foot') return 0;
    const shape = shapeOf(context, id);
    return shape ? topAt(shape, riders.offset[0], riders.offset[2]) : 0;
  });
}

/** The highest place of a prop over (x, z) of its own space; beside it, its very top. */
export function topAt(shape: PropShape, x: number, z: number): number {
  const t = shape.triangles();
  let top = -Infinity;
  for (let o = 0; o < t.length; o += 9) {
    const [ax, az] = [t[o] - x, t[o + 2] - z];
    const [bx, bz] = [t[o + 3] - x, t[o + 5] - z];
    const [cx, cz] = [t[o + 6] - x, t[o + 8] - z];
    // Twice the areas that the place makes with each side, as seen from above.
    const [u, v, w] = [bx * cz - cx * bz, cx * az - ax * cz, ax * bz - bx * az];
    const whole = u + v + w;
    if (!(Math.abs(whole) > 1e-15) || u * whole < 0 || v * whole < 0 || w * whole < 0) continue;
    top = Math.max(top, (t[o + 1] * u + t[o + 4] * v + t[o + 7] * w) / whole);
  }
  return top > -Infinity ? top : Math.max(shape.top, 0);
}
