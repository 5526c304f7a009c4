import fc from 'fast-check';
import { quatRotate } from '../math/quat';
import { cross, distance, dot, normalize, sub, type Vec3 } from '../math/vec3';
import { triMeshOf as made } from '../testing/surfaces';
import { pinSchema } from './pinSchema';
import { findAgain, placeOfPin, poseOn, restingFront, turnTowards } from './pin';
import { makeTriMesh, placeOn, uvOn } from './triMesh';
import { cases } from '../testing/prove';

const number = fc.integer({ min: -2000, max: 2000 }).map((v) => v / 1000);
const matrix = fc.array(number, { minLength: 12, maxLength: 12 });
const through = (m: number[], p: Vec3): Vec3 =>
  [0, 1, 2].map((r) => m[r * 4] * p[0] + m[r * 4 + 1] * p[1] + m[r * 4 + 2] * p[2] + m[r * 4 + 3]) as Vec3;
const determinant = (m: number[]) => {
  const [a, b, c] = [0, 1, 2].map((k) => [m[k], m[4 + k], m[8 + k]] as Vec3);
  return dot(a, cross(b, c));
};

test('under any affine map a pin is the image of its place, and turns with the tangent frame', () => {
  const shape = { shape: 'hills', width: 4, depth: 4, columns: 8, rows: 8, seed: 2 };
  const rest = made(shape);
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  fc.assert(
    fc.property(matrix, fc.integer({ min: 0, max: 127 }), share, share, (m, face, a, b) => {
      // Mirrored, a map is made proper by turning one axis round.
      if (determinant(m) < 0) for (const k of [0, 4, 8]) m[k] = -m[k];
      fc.pre(determinant(m) > 0.05);
      const [u, v] = a + b > 1 ? [1 - a, 1 - b] : [a, b];
      const moved = made(shape, (p) => through(m, p));
      const place = { face, u, v };
      const stance = { lift: 0, turnDeg: 0, lean: 1 };
      const { position, rotation } = poseOn(moved, place, stance);
      const image = through(m, placeOn(rest, face, u, v));
      for (let k = 0; k < 3; k++) expect(Math.abs(position[k] - image[k])).toBeLessThan(1e-9);
      // Its front lies in the plane of the surface's normal and the image of the triangle's first side.
      const [p, q] = [0, 1].map((k) => {
        const o = rest.indices[face * 3 + k] * 3;
        return through(m, [rest.positions[o], rest.positions[o + 1], rest.positions[o + 2]]);
      });
      const side = sub(q, p);
      const front = quatRotate(rotation, [0, 0, 1]);
      const up = quatRotate(rotation, [0, 1, 0]);
      expect(dot(cross(up, side), front)).toBeCloseTo(0, 9);
      expect(dot(side, front)).toBeGreaterThan(-1e-9);
    }),
    { numRuns: cases(3000) },
  );
});

test('a turn, a rigid move: the whole pose moves with the surface', () => {
  const shape = { shape: 'sphere', radius: 2, columns: 24, rows: 12 };
  const stance = { lift: 0.3, turnDeg: 40, lean: 1 };
  // A quarter turn about Y and a move.
  const rigid = (p: Vec3): Vec3 => [p[2] + 5, p[1] - 1, -p[0] + 2];
  const turnOnly = (p: Vec3): Vec3 => [p[2], p[1], -p[0]];
  const [rest, moved] = [made(shape), made(shape, rigid)];
  for (let face = 30; face < 500; face += 37) {
    const place = { face, u: 0.2, v: 0.5 };
    const [a, b] = [poseOn(rest, place, stance), poseOn(moved, place, stance)];
    b.position.forEach((v, k) => expect(v).toBeCloseTo(rigid(a.position)[k], 9));
    for (const axis of [
      [1, 0, 0],
      [0, 1, 0],
      [0, 0, 1],
    ] as Vec3[])
      quatRotate(b.rotation, axis).forEach((v, k) =>
        expect(v).toBeCloseTo(turnOnly(quatRotate(a.rotation, axis))[k], 9),
      );
  }
});

test('turned towards a direction the front points there; lean goes from upright to the normal', () => {
  const ball = made({ shape: 'sphere', radius: 2, columns: 24, rows: 12 });
  const place = { face: 241, u: 0.3, v: 0.3 };
  for (const lean of [0, 0.5, 1]) {
    const normal = quatRotate(poseOn(ball, place, { lift: 0, turnDeg: 0, lean: 1 }).rotation, [0, 1, 0]);
    const front = restingFront(normal);
    const turnDeg = turnTowards(ball, place, lean, front);
    const { rotation } = poseOn(ball, place, { lift: 0, turnDeg, lean });
    const up = quatRotate(rotation, [0, 1, 0]);
    const away = Math.acos(Math.min(1, dot(up, [0, 1, 0])));
    expect(away).toBeCloseTo(Math.acos(normal[1]) * lean, 9);
    const flat = sub(front, up.map((c) => c * dot(front, up)) as Vec3);
    if (Math.hypot(...flat) > 1e-6)
      expect(dot(quatRotate(rotation, [0, 0, 1]), normalize(flat))).toBeCloseTo(1, 9);
  }
});

test('on other triangles a pin is found again by uv, else near where it lay; far away it is lost', () => {
  const coarse = made({ shape: 'sphere', radius: 2, columns: 24, rows: 12 });
  const fine = made({ shape: 'sphere', radius: 3, columns: 60, rows: 40 });
  const [face, u, v] = [200, 0.25, 0.5];
  const uv = uvOn(coarse, face, u, v)!;
  const at = placeOn(coarse, face, u, v);
  const found = findAgain(fine, uv, at)!;
  uvOn(fine, found.face, found.u, found.v)!.forEach((c, k) => expect(c).toBeCloseTo(uv[k], 6));
  const bare = makeTriMesh({ ...fine, uvs: undefined });
  const near = findAgain(bare, uv, at)!;
  const place = placeOn(bare, near.face, near.u, near.v);
  expect(dot(normalize(place), normalize(at))).toBeGreaterThan(0.995);
  expect(findAgain(bare, undefined, [90, 0, 0])).toBeNull();
});

/** The same triangles in another order, each begun at another corner. */
function shuffled(triMesh: ReturnType<typeof made>, seed: number) {
  const faces = triMesh.indices.length / 3;
  const order = Array.from({ length: faces }, (_, i) => (i * 37 + seed) % faces);
  expect(new Set(order).size).toBe(faces);
  const { positions, normals, uvs } = triMesh;
  const indices = Uint32Array.from(order.flatMap((f) => [1, 2, 0].map((k) => triMesh.indices[f * 3 + k])));
  return makeTriMesh({ positions, normals, indices, uvs });
}

test('a mesh that comes back with as many faces in another order: a pin is on its place, not on its number', () => {
  const rest = made({ shape: 'hills', width: 8, depth: 8, columns: 10, rows: 10, seed: 4 });
  const other = shuffled(rest, 11);
  for (let face = 0; face < 200; face += 7) {
    const pin = pinSchema.parse({
      surface: 's',
      face,
      u: 0.3,
      v: 0.25,
      faces: 200,
      uv: uvOn(rest, face, 0.3, 0.25),
    });
    const lay = placeOn(rest, face, 0.3, 0.25);
    expect(placeOfPin(pin, lay, rest)).toBe(pin);
    const place = placeOfPin(pin, lay, other)!;
    expect(place).not.toBe(pin);
    expect(distance(placeOn(other, place.face, place.u, place.v), lay)).toBeLessThan(1e-5);
  }
});

test('other texture coordinates on the same faces move no pin', () => {
  const rest = made({ shape: 'hills', width: 8, depth: 8, columns: 10, rows: 10, seed: 4 });
  const laid = makeTriMesh({ ...rest, uvs: rest.uvs!.map((v, i) => (i % 2 ? v * 3 : 1 - v)) });
  for (let face = 0; face < 200; face += 7) {
    const pin = pinSchema.parse({
      surface: 's',
      face,
      u: 0.3,
      v: 0.25,
      faces: 200,
      uv: uvOn(rest, face, 0.3, 0.25),
    });
    expect(placeOfPin(pin, placeOn(rest, face, 0.3, 0.25), laid)).toBe(pin);
  }
});
