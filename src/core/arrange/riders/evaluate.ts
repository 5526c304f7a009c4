import {
  allocatePlacements,
  NO_FACTS,
  STATE,
  type Finding,
  type Placements,
  type RunResult,
} from '../result';
import { channel, random01 } from '../../math/random';
import { DEG, quatMultiply, quatRotate, quatTurnTipRoll, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import type { PropShape } from '../../mesh/support';
import { shapeOf, type ArrangeContext } from '../context';
import { sayInto } from '../say';
import { slotName } from '../slotId';
import { groundStep, settleAsTurned } from '../steps/ground';
import { tintsOf, unvaried, VARIED, varier } from '../steps/variation';
import { weightedAt, weightedProps } from '../steps/weighted';
import type { Riders } from './schema';

const PICK = channel('riders.pick');
const SHARE = channel('riders.share');

/** Works riders out: one row for each placed prop of the leaders, with that one's slot id. */
export function evaluateRiders(riders: Riders, context: ArrangeContext): RunResult {
  const findings: Finding[] = [];
  const say = sayInto(findings, riders.id);
  const leaders = context.arrangement?.(riders.on);
  const props = weightedProps(riders.props, context, say);
  if (!leaders) say('leader-missing', {});
  if (!leaders || !props)
    return { placements: allocatePlacements(0, []), findings, facts: NO_FACTS, parts: [] };
  const only = new Set(riders.only);
  const rows: number[] = [];
  for (let i = 0; i < leaders.count; i++)
    if (leaders.state[i] === STATE.placed && (only.size === 0 || only.has(slotName(leaders.slot[i]))))
      rows.push(i);
  const out = allocatePlacements(rows.length, props);
  const shapes = props.map((id) => shapeOf(context, id));
  const ground = riders.landing === 'each' ? groundStep(riders.ground, context, riders.seed, shapes) : null;
  const draws = varier(riders.variation, riders.seed, props);
  const varied = unvaried();
  const tops = topsOf(leaders, riders, context);
  const turn = quatTurnTipRoll(riders.turnDeg * DEG, riders.tipDeg * DEG, riders.rollDeg * DEG);
  rows.forEach((leader, i) => {
    const slot = leaders.slot[leader];
    out.slot[i] = slot;
    out.s[i] = leaders.s[leader];
    out.prop[i] = props.indexOf(weightedAt(riders.props, random01(riders.seed, slot, PICK)));
    if (random01(riders.seed, slot, SHARE) >= riders.share) out.state[i] = STATE.chance;
    if (draws) draws.vary(slot, out.prop[i], varied);
    seatOn(leaders, leader, riders, tops[leaders.prop[leader]], turn, draws ? varied : null, out, i);
    if (ground && out.state[i] === STATE.placed) settleAsTurned(ground, out, i);
  });
  const tint = tintsOf(riders.variation, riders.seed, out.slot);
  if (tint) out.tint = tint;
  if (ground) findings.push(...ground.findings(riders.id));
  return { placements: out, findings, facts: NO_FACTS, parts: [] };
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
  if (top > -Infinity) return top;
  for (let o = 1; o < shape.points.length; o += 3) top = Math.max(top, shape.points[o]);
  return Math.max(top, 0);
}

/** Puts rider `i` on its leader, as that stands, or as it stood before it landed. */
function seatOn(
  leaders: Placements,
  leader: number,
  riders: Riders,
  top: number,
  turn: Quat,
  v: Float64Array | null,
  out: Placements,
  i: number,
): void {
  const { position, rotation } = (riders.landing === 'leader' && leaders.before) || leaders;
  const q = [...rotation.subarray(leader * 4, leader * 4 + 4)] as Quat;
  const scale = leaders.scale.subarray(leader * 3, leader * 3 + 3);
  const own: Vec3 = [
    // To the right is the other way along X.
    riders.offset[0] - (v ? v[VARIED.side] : 0),
    top + riders.offset[1] + (v ? v[VARIED.lift] : 0),
    riders.offset[2] + (v ? v[VARIED.along] : 0),
  ];
  const away = quatRotate(q, [own[0] * scale[0], own[1] * scale[1], own[2] * scale[2]]);
  for (let a = 0; a < 3; a++) out.position[i * 3 + a] = position[leader * 3 + a] + away[a];
  let stance = turn;
  if (v)
    stance = quatMultiply(
      stance,
      quatTurnTipRoll(v[VARIED.turnDeg] * DEG, v[VARIED.tipDeg] * DEG, v[VARIED.rollDeg] * DEG),
    );
  // On a leader that is mirrored left to right everything turns the other way.
  const mirrored = scale[0] < 0;
  if (mirrored) stance = [stance[0], -stance[1], -stance[2], stance[3]];
  out.rotation.set(quatMultiply(q, stance), i * 4);
  const size = riders.size * (v ? v[VARIED.size] : 1);
  const flip = mirrored !== (v !== null && v[VARIED.mirrored] > 0);
  out.scale[i * 3] = size * (v ? v[VARIED.sizeX] : 1) * (flip ? -1 : 1);
  out.scale[i * 3 + 1] = size * (v ? v[VARIED.sizeY] : 1);
  out.scale[i * 3 + 2] = size * (v ? v[VARIED.sizeZ] : 1);
}
