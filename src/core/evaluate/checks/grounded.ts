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
  const sink = Math.max(0, ...ground.sink);
  const lifted = liftOf(a);
  const buried: number[] = [];
  const floating: number[] = [];
  let [deepest, highest] = [0, 0];
  const m = new Float64Array(9);
  for (let i = 0; i < p.count; i++) {
    if (i % AT_ONCE === 0) yield;
    const shape = shapes[p.prop[i]];
    if (p.state[i] !== STATE.placed || !shape || (p.shape && p.shape[i] >= 0)) continue;
    fall.from([p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]], DOWN);
    const room = fall.room(shape.faller(), matrixOf(p, i, m));
    const bear = SHARE * Math.max(shape.top, 0) * p.scale[i * 3 + 1] + 1e-3;
    if (-room > sink + bear) {
      buried.push(p.slot[i]);
      deepest = Math.max(deepest, -room);
    } else if (room > lifted + bear && room < Infinity) {
      floating.push(p.slot[i]);
      highest = Math.max(highest, room);
    }
  }
  const say = (kind: 'buried' | 'floating', slots: number[], by: number): Finding[] =>
    slots.length
      ? [{ kind, severity: 'warning', node: a.id, slots, detail: { count: slots.length, by } }]
      : [];
  return [...say('buried', buried, deepest), ...say('floating', floating, highest)];
}

/** The highest that an arrangement lifts anything on purpose, metres. */
function liftOf(a: Arrangement): number {
  const own = has(a, 'facing') && 'lift' in a.facing ? a.facing.lift : 0;
  const varied = has(a, 'variation') ? Math.max(...a.variation.lift) : 0;
  const byHand = has(a, 'hand') ? Object.values(a.hand).map((h) => h.lift ?? 0) : [];
  return Math.max(0, own + varied + Math.max(0, ...byHand));
}
