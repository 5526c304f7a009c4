import { squareTo } from '../../curve/reflect';
import { quatConjugate, quatFromUpFront, quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { hypot } from '../../math/portable';
import { sub, type Vec3 } from '../../math/vec3';
import { nearestPlace, noHit } from '../../mesh/bvhQuery';
import { AT } from '../../mesh/chart/chart';
import { fillOf, metresPerUv } from '../../mesh/chart/measure';
import { uvChart, type UvChart } from '../../mesh/chart/uvChart';
import { leaning } from '../../mesh/pin';
import type { TriMesh } from '../../mesh/triMesh';
import type { SurfaceStates } from '../context';
import { isOnTheWayBack, placeAfter, roomOf, together } from './border';
import type { Travel } from './schema';
import { pointOf, type Places, type Way } from './way';

const WHOLE = { u: [0, 1], v: [0, 1] } satisfies { u: [number, number]; v: [number, number] };

/**
 * Over a surface in u and v: each place keeps its height over it. Metres are those of the surface at rest in the mean,
 * so that what goes together stays together in u and v.
 * @returns null for a surface without texture coordinates
 */
export function overSurface(
  travel: Travel,
  { now, rest, size }: SurfaceStates,
  places: Places,
  time: number,
): Way | null {
  const chart = uvChart(rest, now, size, WHOLE);
  if (!chart) return null;
  const n = places.count;
  const uv = uvUnder(places, now, rest.uvs!);
  const metres = metresPerUv(rest as TriMesh & { uvs: Float32Array }, size);
  const { border } = travel;
  const axes = ([0, 1] as const).map((axis) => {
    const { by, speed } = axis === 0 ? travel.u : travel.v;
    const [range, closed] = axis === 0 ? [chart.u, chart.closedU] : [chart.v, chart.closedV];
    return { way: (by + speed * time) / metres[axis], sign: Math.sign(speed || by), range, closed };
  });
  const [u, v] = axes;
  const from = { u: uv.slice(0, n), v: uv.slice(n) };
  // Off a rectangle each goes within what there is beside it, first across, then up.
  const filled = fillOf(rest as TriMesh & { uvs: Float32Array }) > 0.999;
  const reach = (axis: 0 | 1, x: number, y: number) =>
    filled ? axes[axis].range : stretchAt(chart, axis, x, y);
  const ends = (axis: 0 | 1, x: Float64Array, y: Float64Array) => {
    const found = Array.from({ length: n }, (_, i) =>
      axes[axis].way === 0 ? NOWHERE : reach(axis, x[i], y[i]),
    );
    return (i: number) => found[i];
  };
  const go = (axis: 0 | 1, x: Float64Array, y: Float64Array) => {
    const { way, closed, sign } = axes[axis];
    const at = axis === 0 ? x : y;
    const within = ends(axis, x, y);
    const free = closed && filled;
    const room = free ? { back: Infinity, on: Infinity } : roomOf(at, within);
    const far = free ? way : together(border, way, room);
    return {
      to: Float64Array.from(at, (a, i) =>
        way === 0 ? a : (placeAfter(border, a, far, within(i), free) ?? NaN),
      ),
      far,
      sign: !free && isOnTheWayBack(border, way, room) ? -sign : sign,
    };
  };
  const across = go(0, from.u, from.v);
  const up = go(1, across.to, from.v);
  const speeds = [u.sign === 0 ? 0 : Math.abs(rate(travel.u)), v.sign === 0 ? 0 : Math.abs(rate(travel.v))];
  const was = new Float64Array(AT.length);
  const is = new Float64Array(AT.length);
  return (i, lean, out) => {
    const [nu, nv] = [across.to[i], up.to[i]];
    if (Number.isNaN(nu) || Number.isNaN(nv)) return false;
    if (!chart.at(from.u[i], from.v[i], was) || !chart.at(nu, nv, is)) return false;
    const [a, b] = [standing(was, 1), standing(is, 1)];
    const height = quatRotate(
      quatMultiply(b, quatConjugate(a)),
      sub(pointOf(places, i), [was[0], was[1], was[2]]),
    );
    out.turned = quatMultiply(standing(is, lean), quatConjugate(standing(was, lean)));
    // Forwards where it goes as its speeds, or what it was slid by, say.
    out.made = madeBy(across.far * metres[0], up.far * metres[1], u.sign || v.sign);
    for (let k = 0; k < 3; k++) {
      out.position[k] = is[k] + height[k];
      out.going[k] =
        (is[AT.du + k] * across.sign * speeds[0]) / metres[0] +
        (is[AT.dv + k] * up.sign * speeds[1]) / metres[1];
    }
    return true;
  };
}

/** Metres straight on; back where the first of both ways goes against where it is meant to. */
const madeBy = (x: number, y: number, sign: number): number =>
  hypot(x, y) * ((x !== 0 ? Math.sign(x) : Math.sign(y)) === sign ? 1 : -1);

const NOWHERE: readonly [number, number] = [-Infinity, Infinity];

/** What says how its direction is made up: its speeds, or how far it was slid where it has none. */
const rate = ({ by, speed }: Travel['u']): number => speed || by;

/** How something lies on a place that a chart has written: its front the way of u. */
function standing(at: Float64Array, lean: number): Quat {
  const normal: Vec3 = [at[AT.normal], at[AT.normal + 1], at[AT.normal + 2]];
  const up = leaning(normal, lean);
  return quatFromUpFront(up, squareTo([at[AT.du], at[AT.du + 1], at[AT.du + 2]], up));
}

/** Texture coordinates of the places of a surface that are nearest: all u, then all v. */
function uvUnder(places: Places, now: TriMesh, uvs: Float32Array): Float64Array {
  const { count } = places;
  const out = new Float64Array(count * 2);
  const hit = noHit();
  for (let i = 0; i < count; i++) {
    const [x, y, z] = pointOf(places, i);
    if (!nearestPlace(now.tree(), x, y, z, Infinity, hit)) continue;
    const [a, b, c] = [0, 1, 2].map((k) => now.indices[hit.face * 3 + k] * 2);
    const w = 1 - hit.u - hit.v;
    for (let k = 0; k < 2; k++) out[k * count + i] = uvs[a + k] * w + uvs[b + k] * hit.u + uvs[c + k] * hit.v;
  }
  return out;
}

/** A step of looking for the border is this share of the chart. */
const STEP = 1 / 64;

/** The stretch of a chart around a place along one parameter, as far as there is something. */
function stretchAt(chart: UvChart, axis: 0 | 1, x: number, y: number): [number, number] {
  const [low, high] = axis === 0 ? chart.u : chart.v;
  const step = (high - low) * STEP;
  const is = (t: number) =>
    t >= low && t <= high && chart.place(axis === 0 ? t : x, axis === 0 ? y : t, hint);
  const end = (sign: number): number => {
    let here = axis === 0 ? x : y;
    while (is(here + sign * step)) here += sign * step;
    let [inside, outside] = [here, here + sign * step];
    for (let k = 0; k < 40; k++) {
      const middle = (inside + outside) / 2;
      if (is(middle)) inside = middle;
      else outside = middle;
    }
    return inside;
  };
  return [end(-1), end(1)];
}
const hint = { face: -1, u: 0, v: 0 };
