import { fillOf, metresPerUv } from '../chart/measure';
import { uvChart } from '../chart/uvChart';
import { uvIndex } from '../chart/uvIndex';
import type { Mesh } from '../mesh';
import { makeTriMesh } from '../triMesh';
import type { Deformer } from './schema';

/** A surface that goes round by a pulley, as a belt does: its material moves over the shape that it has at rest. */

type Pulley = Extract<Deformer, { kind: 'pulley' }>;

/** A shape whose material can go round. */
type Laid = Pick<Mesh, 'indices'> & {
  uvs?: Float32Array;
  positions: Float64Array;
  normals: ArrayLike<number>;
};

/**
 * Metres once round by u or by v; null where it does not close that way, or has no texture coordinates that lie side by
 * side.
 */
export function roundLength(shape: Laid, way: 'u' | 'v'): number | null {
  const { uvs, positions, indices } = shape;
  if (!uvs) return null;
  const laid = { positions, indices, uvs };
  if (fillOf(laid) < 0.999) return null;
  const mesh = makeTriMesh({ positions, normals: Float64Array.from(shape.normals), indices, uvs });
  const chart = uvChart(mesh, mesh, 1, { u: [0, 1], v: [0, 1] });
  if (!chart || !(way === 'u' ? chart.closedU : chart.closedV)) return null;
  const [low, high] = way === 'u' ? chart.u : chart.v;
  return metresPerUv(laid, 1)[way === 'u' ? 0 : 1] * (high - low);
}

const lengths = new WeakMap<Float64Array, Map<string, number | null>>();

function knownLength(shape: Laid, way: 'u' | 'v'): number | null {
  let known = lengths.get(shape.positions);
  if (!known) lengths.set(shape.positions, (known = new Map()));
  let length = known.get(way);
  if (length === undefined) known.set(way, (length = roundLength(shape, way)));
  return length;
}

/**
 * Moves every vertex on to where the material ahead of it is, for each pulley of a stack. Lengths are those at rest.
 * @param positions xyz a vertex in the surface's own frame, as it stands without; written over @param time seconds
 * @returns the pulleys that cannot turn, since it does not close their way
 */
export function goRound(
  positions: Float64Array,
  rest: Laid,
  stack: readonly Deformer[],
  time: number,
): Pulley[] {
  const pulleys = stack.filter((d): d is Pulley => d.kind === 'pulley' && d.on);
  const stuck = pulleys.filter((d) => knownLength(rest, d.way) === null);
  const share = { u: 0, v: 0 };
  for (const d of pulleys) {
    const length = knownLength(rest, d.way);
    if (length !== null) share[d.way] += (d.offset + d.speed * time) / length;
  }
  if (share.u === 0 && share.v === 0) return stuck;
  const uvs = rest.uvs!;
  const { u, v, find } = uvIndex({ ...rest, uvs });
  const around = (at: number, by: number, [low, high]: [number, number]): number => {
    if (by === 0) return at;
    const far = (at - low) / (high - low) + by;
    return low + (far - Math.floor(far)) * (high - low);
  };
  const was = positions.slice();
  const place = { face: -1, u: 0, v: 0 };
  for (let i = 0; i < uvs.length / 2; i++) {
    if (!find(around(uvs[i * 2], share.u, u), around(uvs[i * 2 + 1], share.v, v), place)) continue;
    const [a, b, c] = [0, 1, 2].map((k) => rest.indices[place.face * 3 + k] * 3);
    for (let k = 0; k < 3; k++)
      positions[i * 3 + k] =
        was[a + k] * (1 - place.u - place.v) + was[b + k] * place.u + was[c + k] * place.v;
  }
  return stuck;
}
