import fc from 'fast-check';
import { placeOn } from './triMesh';
import { poseOn } from './pin';
import { quatRotate } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { cases, SEED } from '../testing/prove';
import { triMeshOf } from '../testing/surfaces';
import { pinAtUv, pinOn } from './pinning';

const ball = triMeshOf({ shape: 'sphere', radius: 2, columns: 24, rows: 12 });
const hills = triMeshOf({ shape: 'hills', width: 8, depth: 8, height: 1.5, seed: 3 });
const surfaces = new Map([
  ['ball', ball],
  ['hills', hills],
]);

/** Where a line along an axis through a place meets a triangle, by solving for it; how far from the place. */
function crossings(axis: 0 | 1 | 2, at: Vec3): number[] {
  const [i, j] = [0, 1, 2].filter((k) => k !== axis);
  return [...surfaces.values()].flatMap(({ positions: p, indices }) => {
    const found: number[] = [];
    for (let f = 0; f < indices.length; f += 3) {
      const [a, b, c] = [0, 1, 2].map((k) => indices[f + k] * 3);
      const det =
        (p[b + i] - p[a + i]) * (p[c + j] - p[a + j]) - (p[b + j] - p[a + j]) * (p[c + i] - p[a + i]);
      if (Math.abs(det) < 1e-12) continue;
      const [x, y] = [at[i] - p[a + i], at[j] - p[a + j]];
      const u = (x * (p[c + j] - p[a + j]) - y * (p[c + i] - p[a + i])) / det;
      const v = (y * (p[b + i] - p[a + i]) - x * (p[b + j] - p[a + j])) / det;
      if (u < -1e-12 || v < -1e-12 || u + v > 1 + 1e-12) continue;
      const on = p[a + axis] + u * (p[b + axis] - p[a + axis]) + v * (p[c + axis] - p[a + axis]);
      found.push(Math.abs(on - at[axis]));
    }
    return found;
  });
}

test('along an axis the two other coordinates stay, and no surface is nearer that way', () => {
  // Off the lines of the grids, where a ray along an edge may slip between two faces.
  const metre = fc.double({ min: -3, max: 3, noNaN: true }).map((v) => v + 0.01371);
  fc.assert(
    fc.property(fc.constantFrom('x', 'y', 'z'), fc.tuple(metre, metre, metre), (how, at) => {
      const axis = { x: 0, y: 1, z: 2 }[how] as 0 | 1 | 2;
      const pin = pinOn(surfaces, { at, front: [0, 0, 1], lift: 0.2 }, how as 'x');
      const nearest = Math.min(Infinity, ...crossings(axis, at));
      if (!pin) return expect(nearest).toBe(Infinity);
      const place = placeOn(surfaces.get(pin.surface)!, pin.face, pin.u, pin.v);
      for (const k of [0, 1, 2]) if (k !== axis) expect(place[k]).toBeCloseTo(at[k], 9);
      expect(Math.abs(place[axis] - at[axis])).toBeCloseTo(nearest, 7);
      expect(pin.lift).toBe(0.2);
    }),
    { seed: SEED, numRuns: cases(3000) },
  );
});

test('at u and v of a plane lies just that share of it; where its texture has nothing, nothing', () => {
  const plane = triMeshOf({ shape: 'plane', width: 6, depth: 4, columns: 5, rows: 3 });
  const corner = (u: number, v: number) => {
    const pin = pinAtUv('plane', plane, [u, v], { front: [1, 0, 0] })!;
    return { pin, ...poseOn(plane, pin, pin) };
  };
  const [o, x, z] = [corner(0, 0), corner(1, 0), corner(0, 1)].map((c) => c.position);
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(share, share, (u, v) => {
      const { pin, position, rotation } = corner(u, v);
      for (const k of [0, 1, 2])
        expect(position[k]).toBeCloseTo(o[k] + u * (x[k] - o[k]) + v * (z[k] - o[k]), 6);
      expect(pin.uv![0]).toBeCloseTo(u, 6);
      expect(pin.uv![1]).toBeCloseTo(v, 6);
      expect(quatRotate(rotation, [0, 0, 1])[0]).toBeCloseTo(1, 6);
    }),
    { seed: SEED, numRuns: 200 },
  );
  expect(pinAtUv('plane', plane, [1.5, 0.5], { front: [1, 0, 0] })).toBeNull();
  expect(pinAtUv('plane', { ...plane, uvs: undefined }, [0.5, 0.5], { front: [1, 0, 0] })).toBeNull();
});
