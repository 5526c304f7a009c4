import { buildBvh } from '../bvh';
import { meshesCross, type Seen } from '../crossing';
import type { Triangles } from '../lines/topology';
import { bodiesOf } from './bodies';

/** More faces than this are not held against each other each time that they change. */
const MOST_FACES = 20_000;
/** What reaches through less than this share of its size only touches. */
const TOUCHES = 1e-5;

const kept = new WeakMap<Triangles, boolean>();

/**
 * Whether faces of one and the same body of a mesh go through each other; those of different bodies may, since these are
 * joined. Not looked at where there are more than twenty thousand. Worked out once a mesh.
 */
export function crossesItself(mesh: Triangles): boolean {
  let have = kept.get(mesh);
  if (have === undefined) kept.set(mesh, (have = mesh.indices.length / 3 <= MOST_FACES && worked(mesh)));
  return have;
}

function worked(mesh: Triangles): boolean {
  const { body, volumes } = bodiesOf(mesh);
  const positions = Float64Array.from(mesh.positions);
  const size = positions.reduce((most, v) => Math.max(most, Math.abs(v)), 0);
  return volumes.some((_, which) => {
    const own: number[] = [];
    body.forEach((b, f) => {
      if (b === which) own.push(...mesh.indices.subarray(f * 3, f * 3 + 3));
    });
    const seen: Seen = {
      tree: buildBvh(positions, Uint32Array.from(own)),
      m: Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1),
      at: new Float64Array(3),
    };
    return meshesCross(seen, seen, size * TOUCHES);
  });
}
