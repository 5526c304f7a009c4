import { shapeOf, type ArrangeContext } from '../../arrange/context';
import { has, type Arrangement } from '../../arrange/registry';
import { STATE, type Finding, type Placements } from '../../arrange/result';
import { footingOf, matrixOf } from '../../arrange/steps/groundContact';
import { triMeshesOf } from '../../arrange/steps/groundProbe';
import type { Vec3 } from '../../math/vec3';

/** A prop in the ground, or over it, by more than this share of its height is told of. */
const SHARE = 0.05;
/** Rows looked at before others may have their turn. */
const AT_ONCE = 32;
const DOWN: Vec3 = [0, -1, 0];

/**
 * What has been put down along the vertical by its foot, and goes into the ground elsewhere or has none beneath it.
 * What touches by its lowest part or its footprint does so exactly, and is not looked at.
 * @returns yields now and then; nothing is kept between
 */
export function* groundFindings(
  a: Arrangement,
  p: Placements,
  context: ArrangeContext,
): Generator<void, Finding[]> {
  if (!has(a, 'ground')) return [];
  const { ground } = a;
  if (ground.mode !== 'land' || ground.direction !== 'down' || ground.contact !== 'foot' || ground.stack)
    return [];
  const triMeshes = triMeshesOf(ground, context);
  if (triMeshes.length === 0) return [];
  const { fall } = footingOf(triMeshes);
  const shapes = p.props.map((id) => shapeOf(context, id));
  const [lowest, lifted] = liftOf(a);
  const sink = Math.max(0, ...ground.sink) - lowest;
  const buried = new Map<number, number>();
  const floating = new Map<number, number>();
  const m = new Float64Array(9);
  for (let i = 0; i < p.count; i++) {
    if (i % AT_ONCE === 0) yield;
    const shape = shapes[p.prop[i]];
    if (p.state[i] !== STATE.placed || !shape || (p.shape && p.shape[i] >= 0)) continue;
    fall.from([p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]], DOWN);
    const room = fall.room(shape.faller(), matrixOf(p, i, m));
    const bear = SHARE * Math.max(shape.top, 0) * p.scale[i * 3 + 1] + 1e-3;
    if (-room > sink + bear) {
      buried.set(p.slot[i], -room - sink);
    } else if (room > lifted + bear && room < Infinity) {
      floating.set(p.slot[i], room - lifted);
    }
  }
  const say = (kind: 'buried' | 'floating', by: Map<number, number>, meant: number): Finding[] => {
    if (by.size === 0) return [];
    const amounts = [...by.values()];
    const most = amounts.reduce((m, v) => Math.max(m, v), 0) + meant;
    const detail = { count: by.size, by: most };
    return [{ kind, severity: 'warning', node: a.id, slots: [...by.keys()], amounts, detail }];
  };
  return [...say('buried', buried, sink), ...say('floating', floating, lifted)];
}

/** The furthest that an arrangement lifts anything down and up on purpose, metres: 0 at least to either side. */
function liftOf(a: Arrangement): [low: number, high: number] {
  const sums: [number, number] = [0, 0];
  const add = (...lifts: number[]) => {
    sums[0] += Math.min(0, ...lifts);
    sums[1] += Math.max(0, ...lifts);
  };
  if (has(a, 'facing') && 'lift' in a.facing) add(a.facing.lift);
  if (has(a, 'variation')) {
    const { lift, perProp, waverLift } = a.variation;
    add(...lift, ...Object.values(perProp).flatMap((own) => own.lift ?? []));
    add(-waverLift, waverLift);
  }
  if (has(a, 'hand')) add(...Object.values(a.hand).map((h) => h.lift ?? 0));
  return sums;
}
