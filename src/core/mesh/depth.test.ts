import fc from 'fast-check';
import { cross, dot, sub, type Vec3 } from '../math/vec3';
import { quatTurnTipRoll } from '../math/quat';
import { boxBetween, rowsOf, treeOf } from '../testing/plumb';
import { triMeshOf } from '../testing/surfaces';
import { cases, SEED } from '../testing/prove';
import { buildBvh } from './bvh';
import type { Seen } from './crossing';
import { depthOf } from './depth';

/** How deep meshes are in each other: against closed forms, and against every corner held against every face. */

const at = (x: number, y: number, z: number) => Float64Array.of(x, y, z);
const SAME = Float64Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1);
const BOX = treeOf(boxBetween([-1, -1, -1], [1, 1, 1]));
const ring = triMeshOf({ shape: 'torus', radius: 1, thickness: 0.45, columns: 24, rows: 12 });
const RING = buildBvh(ring.positions, ring.indices);

test('two boxes corner in corner: as deep as the thinnest of what they share', () => {
  for (const [x, y, z] of [
    [1.9, 1.5, 1.2],
    [1.5, 1.95, 1.1],
    [-1.2, 1.4, -1.7],
  ]) {
    const depth = depthOf({ tree: BOX, m: SAME, at: at(0, 0, 0) }, { tree: BOX, m: SAME, at: at(x, y, z) })!;
    expect(depth.metres).toBeCloseTo(Math.min(...[x, y, z].map((v) => 2 - Math.abs(v))), 12);
  }
  expect(
    depthOf({ tree: BOX, m: SAME, at: at(0, 0, 0) }, { tree: BOX, m: SAME, at: at(2.1, 0, 0) }),
  ).toBeNull();
});

test('a small box in a large one lies as deep as its innermost corner', () => {
  const small: Seen = { tree: BOX, m: SAME.map((v) => v * 0.1), at: at(0.3, 0, 0) };
  expect(depthOf({ tree: BOX, m: SAME, at: at(0, 0, 0) }, small)!.metres).toBeCloseTo(0.8, 12);
});

/** The nearest place of a triangle: over its face, or over one of its sides. */
function away(p: Vec3, [a, b, c]: readonly Vec3[]): number {
  const n = cross(sub(b, a), sub(c, a));
  const over = [
    [a, b],
    [b, c],
    [c, a],
  ].every(([u, v]) => dot(cross(sub(v, u), sub(p, u)), n) >= 0);
  if (over) return Math.abs(dot(sub(p, a), n)) / Math.hypot(...n);
  const side = (u: Vec3, v: Vec3) => {
    const [w, d] = [sub(p, u), sub(v, u)];
    const t = Math.min(1, Math.max(0, dot(w, d) / dot(d, d)));
    return Math.hypot(...w.map((x, k) => x - d[k] * t));
  };
  return Math.min(side(a, b), side(b, c), side(c, a));
}

/** The same by every corner and every face. */
function byAll(a: Seen, b: Seen): number {
  let most = 0;
  for (const [from, into] of [
    [a, b],
    [b, a],
  ]) {
    const place = ({ tree, m, at: foot }: Seen, i: number) =>
      [0, 1, 2].map((r) =>
        [0, 1, 2].reduce((sum, c) => sum + m[r * 3 + c] * tree.positions[i * 3 + c], foot[r]),
      ) as Vec3;
    const faces = Array.from({ length: into.tree.indices.length / 3 }, (_, f) =>
      [0, 1, 2].map((k) => place(into, into.tree.indices[f * 3 + k])),
    );
    for (let i = 0; i < from.tree.positions.length / 3; i++) {
      const p = place(from, i);
      // The solid angle of all faces: 4π inside, 0 outside (van Oosterom and Strackee 1983).
      const angle = faces.reduce((sum, corners) => {
        const [u, v, w] = corners.map((q) => sub(q, p));
        const [l, m, n] = [u, v, w].map((q) => Math.hypot(...q));
        return (
          sum + 2 * Math.atan2(dot(u, cross(v, w)), l * m * n + dot(u, v) * n + dot(v, w) * l + dot(w, u) * m)
        );
      }, 0);
      if (Math.abs(angle) < 2 * Math.PI) continue;
      most = Math.max(most, Math.min(...faces.map((t) => away(p, t))));
    }
  }
  return most;
}

test('turned, sized and squeezed rings and boxes: as every corner against every face tells, to a millionth', () => {
  const number = (min: number, max: number) => fc.double({ min, max, noNaN: true });
  const pose = fc.record({
    turns: fc.tuple(number(-3, 3), number(-3, 3), number(-3, 3)),
    size: fc.tuple(number(0.4, 1.4), number(0.4, 1.4), number(0.4, 1.4)),
    even: fc.boolean(),
    at: fc.tuple(number(-0.9, 0.9), number(-0.9, 0.9), number(-0.9, 0.9)),
    tree: fc.constantFrom(BOX, RING),
  });
  const seenAs = ({
    turns,
    size,
    even,
    at: foot,
    tree,
  }: {
    turns: number[];
    size: number[];
    even: boolean;
    at: number[];
    tree: Seen['tree'];
  }): Seen => ({
    tree,
    m: Float64Array.from(
      rowsOf(
        quatTurnTipRoll(turns[0], turns[1], turns[2]),
        even ? [size[0], size[0], size[0]] : (size as [number, number, number]),
      ),
    ),
    at: Float64Array.from(foot),
  });
  fc.assert(
    fc.property(pose, pose, (one, other) => {
      const [a, b] = [seenAs(one), seenAs(other)];
      const wanted = byAll(a, b);
      const found = depthOf(a, b)?.metres ?? 0;
      // A corner that lies on a face to a last digit may be told either way; it is no depth.
      expect(Math.abs(found - wanted)).toBeLessThan(1e-6);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});
