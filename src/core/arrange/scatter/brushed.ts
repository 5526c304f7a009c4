import { hypot } from '../../math/portable';
import { channel, random01 } from '../../math/random';
import type { Vec3 } from '../../math/vec3';
import type { MaskPlaces } from '../../mesh/mask/places';
import { restPlaces } from '../../mesh/mask/painted';
import { boxOfStroke, inBox, meetStroke, normalsAlong, strokeWay } from '../../mesh/mask/stroke';
import { faceNormal } from '../../mesh/triMesh';
import type { ArrangeContext } from '../context';
import type { Sites } from '../sites';
import { aimAt } from '../steps/aim';
import { headingWay } from '../steps/facing';
import type { BrushedStroke, Scatter } from './schema';
import { carriedWay, squareTo } from './sites';

/**
 * What the brush makes of what stands on surfaces: combed the way that its strokes run, or another prop. Strokes count
 * one after the other, each in the share of its strength and of how much it covers a place. Places are material, and so
 * are strokes: both go with it.
 */

/** Combs the sites of a scatter, and gives them the props of its brush. */
export function brush(
  scatter: Scatter,
  sites: Sites,
  places: MaskPlaces,
  ids: readonly string[],
  context: ArrangeContext,
): Sites {
  const { brushed } = scatter;
  const combs = brushed.some((s) => s.does === 'comb');
  const out: Sites = {
    ...sites,
    prop: sites.prop.slice(),
    ...(combs && { front: sites.front.slice(), faced: new Uint8Array(sites.slot.length) }),
  };
  const { moved } = sites;
  if (combs && moved)
    out.moved = (i, along, side, pose) => {
      const on = moved(i, along, side, pose);
      if (out.faced![i]) pose.front = squareTo(row(out.front, i), pose.up);
      return on;
    };
  const own = ownWay(scatter, sites, context);
  const at = new Map(brushed.map(({ surface }) => [surface, restPlaces(places, surface)]));
  for (const stroke of brushed) {
    const g = places.grounds.findIndex((x) => x.id === stroke.surface);
    if (g < 0) continue;
    const { rest, now = places.grounds[g].read } = places.grounds[g];
    const touch = touching(stroke, scatter.seed, ids);
    const p = at.get(stroke.surface)!;
    const box = boxOfStroke(stroke);
    const normals = normalsAlong(stroke, rest);
    for (let i = 0, o = 0; i < places.count; i++, o += 3) {
      if (places.ground[i] !== g || !inBox(box, p[o], p[o + 1], p[o + 2])) continue;
      const face = places.face[i];
      const met = meetStroke(stroke, normals, p[o], p[o + 1], p[o + 2], faceNormal(rest, face));
      const share = met.cover * stroke.strength;
      if (share === 0) continue;
      touch.prop(out, sites, i, share);
      if (!combs) continue;
      if (stroke.does === 'comb') {
        const way = strokeWay(stroke, met);
        if (way) turnTo(out, i, carriedWay(rest, now, null, face, way), share, own);
      } else if (stroke.does === 'uncomb' && out.faced![i]) {
        turnTo(out, i, own(i), share, own);
        if (share === 1) out.faced![i] = 0;
      }
    }
  }
  return out;
}

/** What a stroke does to the prop of a place. */
function touching(stroke: BrushedStroke, seed: number, ids: readonly string[]) {
  const draw = channel(`brush ${stroke.id}`);
  const drawn = (i: number, sites: Sites, share: number) =>
    share === 1 || random01(seed, sites.slot[i], draw) < share;
  const given = stroke.does === 'prop' ? ids.indexOf(stroke.prop) : -1;
  return {
    prop(out: Sites, was: Sites, i: number, share: number): void {
      if (stroke.does === 'prop' && drawn(i, was, share)) out.prop[i] = given;
      else if (stroke.does === 'unprop' && drawn(i, was, share)) out.prop[i] = was.prop[i];
    },
  };
}

const row = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];

/** Which way a place faces by its heading alone, square to its up. */
function ownWay({ stand }: Scatter, sites: Sites, context: ArrangeContext): (i: number) => Vec3 {
  const aim = stand.heading === 'target' ? aimAt(stand.target, context) : undefined;
  const { front, up, position } = sites;
  return (i) => {
    const from = row(position, i);
    const to = aim?.(from);
    const way = to ? (to.map((v, a) => v - from[a]) as Vec3) : null;
    return headingWay(stand, row(front, i), row(up, i), way);
  };
}

/** Turns the front of a place nearer to a direction, about its up. */
function turnTo(out: Sites, i: number, way: Vec3, share: number, own: (i: number) => Vec3): void {
  const up = row(out.up, i);
  const is = out.faced![i] ? row(out.front, i) : own(i);
  const to = squareTo(way, up);
  const between = is.map((v, a) => v + (to[a] - v) * share) as Vec3;
  // Straight against each other there is no way between: the stroke has it.
  const front = hypot(...between) < 1e-6 ? to : squareTo(between, up);
  out.front.set(front, i * 3);
  out.faced![i] = 1;
}
