import { PROVING } from '../../testing/prove';
import { triMeshOf } from '../../testing/surfaces';
import { faceNormal, makeTriMesh, type TriMesh } from '../triMesh';
import { cornersOf } from './corners';

/** Sharp edges and borders on a texture, against a look at every edge. */

const ANGLE = 35;
const share = (i: number, k: number) => (i * k) % 1;

/** Whether a piece from (ax, ay) to (bx, by) meets a rectangle, clipped to it side by side. */
function meets(
  [ax, ay]: number[],
  [bx, by]: number[],
  [u0, u1, v0, v1]: readonly [number, number, number, number],
): boolean {
  let [from, to] = [0, 1];
  for (const [p, d, low, high] of [
    [ax, bx - ax, u0, u1],
    [ay, by - ay, v0, v1],
  ]) {
    if (d === 0 && (p < low || p > high)) return false;
    if (d === 0) continue;
    const [s, t] = [(low - p) / d, (high - p) / d];
    from = Math.max(from, Math.min(s, t));
    to = Math.min(to, Math.max(s, t));
  }
  return from <= to;
}

/** Sharp edges and borders in a rectangle, by every pair of faces that share two places of space. */
function bruteForce(triMesh: TriMesh, window: readonly [number, number, number, number]) {
  const { positions: p, indices, uvs } = triMesh;
  const key = (i: number) => [0, 1, 2].map((a) => Math.round(p[i * 3 + a] * 1e5)).join();
  const uv = (i: number) => [uvs![i * 2], uvs![i * 2 + 1]];
  const sides = new Map<string, { face: number; a: number; b: number }[]>();
  for (let f = 0; f * 3 < indices.length; f++)
    for (let k = 0; k < 3; k++) {
      const [a, b] = [indices[f * 3 + k], indices[f * 3 + ((k + 1) % 3)]];
      const name = [key(a), key(b)].sort().join('|');
      sides.set(name, [...(sides.get(name) ?? []), { face: f, a, b }]);
    }
  let [sharp, end] = [false, false];
  for (const [name, list] of sides) {
    if (name.split('|')[0] === name.split('|')[1]) continue;
    const angle = () => {
      const [m, n] = list.map(({ face }) => faceNormal(triMesh, face));
      return (Math.acos(Math.min(1, m[0] * n[0] + m[1] * n[1] + m[2] * n[2])) * 180) / Math.PI;
    };
    const places = new Set(
      list.flatMap(({ a, b }) =>
        [a, b].map((i) =>
          uv(i)
            .map((x) => x.toFixed(5))
            .join(),
        ),
      ),
    );
    for (const { a, b } of list) {
      if (!meets(uv(a), uv(b), window)) continue;
      if (list.length < 2 || places.size > 2) end = true;
      else if (angle() > ANGLE + 0.01) sharp = true;
    }
  }
  return { sharp, end };
}

test.each([
  [
    'a box whose sides lie one on the other',
    { shape: 'box', width: 2, height: 3, depth: 4, fillet: 0, cells: 3 },
  ],
  ['rough hills', { shape: 'hills', width: 10, depth: 8, columns: 9, rows: 7, height: 9, seed: 4 }],
  ['a ball', { shape: 'sphere', radius: 2, columns: 24, rows: 12 }],
])('%s: a rectangle said to be free of them is', (_, shape) => {
  const triMesh = triMeshOf(shape);
  const corners = cornersOf(triMesh, ANGLE);
  let free = 0;
  const windows = PROVING ? 300 : 90;
  for (let i = 1; i <= windows; i++) {
    const [u, v] = [share(i, 0.6180339887), share(i, 0.7548776662)];
    const window = [u, u + 0.08 * share(i, 0.413), v, v + 0.08 * share(i, 0.877)] as const;
    const truth = bruteForce(triMesh, window);
    if (truth.sharp) expect(corners.maySharp(...window)).toBe(true);
    if (truth.end || window[1] > 1 || window[3] > 1) expect(corners.mayEnd(...window)).toBe(true);
    else if (!corners.mayEnd(...window) && !corners.maySharp(...window)) free++;
  }
  // Most of a texture is free of them, or nothing would be gained.
  expect(free).toBeGreaterThan(windows / 3);
});

test('a smooth surface has none; without texture coordinates its sharp edges may be anywhere', () => {
  expect(cornersOf(triMeshOf({ shape: 'sphere', radius: 2, columns: 24, rows: 12 }), ANGLE).sharp).toBe(
    false,
  );
  const box = triMeshOf({ shape: 'box', width: 2, height: 2, depth: 2, fillet: 0 });
  const bare = cornersOf(makeTriMesh({ ...box, uvs: undefined }), ANGLE);
  expect([bare.sharp, bare.maySharp(0.4, 0.5, 0.4, 0.5), bare.mayEnd(0.4, 0.5, 0.4, 0.5)]).toEqual([
    true,
    true,
    true,
  ]);
});
