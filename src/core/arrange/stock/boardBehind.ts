import type { TriMesh } from '../../mesh/triMesh';
import { firstHit, noHit } from '../../mesh/bvhQuery';
import type { Edge } from './edge';

/** What is found behind a front edge. Metres; height is Infinity where nothing is above. */
export interface Behind {
  /** 0: no board. */
  depth: number;
  height: number;
}

/** A board's face is within this of the height of its edge. */
const NEAR = 0.03;
/** Looked at every so far back, to at most so far. */
const STEP = 0.02;
const FARTHEST = 5;
/** Places along the edge. */
const ALONG = 7;
/** How far from the edge itself, which may lie just on the rim. */
const IN = 0.002;
const HIGHEST = 100;

/**
 * The board behind an edge: how far back something level lies under it, at all of a few places along; and what is
 * clear over that. A wall ends it.
 */
export function boardBehind(edge: Edge, meshes: readonly TriMesh[]): Behind {
  const hit = noHit();
  const meets = (
    x: number,
    y: number,
    z: number,
    dx: number,
    dy: number,
    dz: number,
    most: number,
  ): number => {
    let least = Infinity;
    for (const mesh of meshes)
      if (firstHit(mesh.tree(), x, y, z, dx, dy, dz, 0, Math.min(most, least), hit)) least = hit.t;
    return least;
  };
  let depth = Infinity;
  let height = Infinity;
  for (let k = 0; k < ALONG; k++) {
    const side = edge.sides[Math.floor((k * edge.sides.length) / ALONG)];
    if (!side) return { depth: 0, height };
    const s = side.from + (side.to - side.from) * (0.04 + 0.92 * ((k + 0.5) / ALONG));
    const { origin: o, out } = edge.frame(s, Math.min(side.to, s + 1e-3));
    const at = (back: number, up: number): [number, number, number] => [
      o[0] - out[0] * back,
      o[1] + up,
      o[2] - out[2] * back,
    ];
    const holds = (back: number) => meets(...at(back, NEAR), 0, -1, 0, 2 * NEAR) <= 2 * NEAR;
    const wall = meets(...at(IN, NEAR), -out[0], -out[1], -out[2], FARTHEST);
    let [in0, out0] = [0, IN];
    while (out0 < FARTHEST && out0 < depth + STEP && holds(out0)) [in0, out0] = [out0, out0 + STEP];
    for (let i = 0; i < 30 && in0 > 0; i++) {
      const middle = (in0 + out0) / 2;
      if (holds(middle)) in0 = middle;
      else out0 = middle;
    }
    depth = Math.min(depth, in0, wall + IN);
    for (let d = IN; d < depth; d += Math.max(STEP, depth / 6))
      height = Math.min(height, NEAR + meets(...at(d, NEAR), 0, 1, 0, HIGHEST));
  }
  return { depth: Number.isFinite(depth) ? depth : 0, height };
}
