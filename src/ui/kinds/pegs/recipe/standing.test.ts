import { DEG, quatFromUpFront, quatMultiply, quatRotate, quatTurnTipRoll, type Quat } from '@/core/math/quat';
import type { Vec3 } from '@/core/math/vec3';
import { aligned, distributed, facingLast, inRow, mirrored, seatOn, varied, type Standing } from './standing';

const standing = (n: number, position: Vec3, rotation: Quat = [0, 0, 0, 1], scale: Vec3 = [1, 1, 1]) =>
  ({
    peg: { id: `peg${n}`, prop: 'p', pin: null, position, rotation, scale },
    position,
    rotation,
  }) as Standing;
const TURNED = quatTurnTipRoll(0.7, 0.4, -0.2);
const row = [
  standing(1, [0, 1, 2]),
  standing(2, [9, 5, 2], TURNED),
  standing(3, [1, 1, 1]),
  standing(4, [6, 4, -1]),
];
const close = (a: readonly number[], b: readonly number[]) =>
  a.forEach((v, k) => expect(v).toBeCloseTo(b[k], 9));

test('distributed: the ends stay, the others stand evenly between them in their order', () => {
  const list = distributed(row);
  expect([list[0].position, list[3].position]).toEqual([row[0].position, row[3].position]);
  close(list[1].position, [2, 2, 1]);
  close(list[2].position, [4, 3, 0]);
  expect(list[1].rotation).toBe(TURNED);
});

test('aligned: one coordinate is the first one’s, the others stay', () => {
  expect(aligned(row, 1).map((p) => p.position)).toEqual([
    [0, 1, 2],
    [9, 1, 2],
    [1, 1, 1],
    [6, 1, -1],
  ]);
});

test('facing the last: fronts point at it as nearly as their own up allows, which stays', () => {
  const list = facingLast(row);
  expect(list).toHaveLength(3);
  list.forEach(({ rotation, position }, i) => {
    const up = quatRotate(row[i].rotation, [0, 1, 0]);
    close(quatRotate(rotation, [0, 1, 0]), up);
    const front = quatRotate(rotation, [0, 0, 1]);
    const way = row[3].position.map((v, k) => v - position[k]);
    const dot = (a: readonly number[], b: readonly number[]) => a.reduce((s, v, k) => s + v * b[k], 0);
    // No other turn about the same up points nearer.
    const flat = Math.hypot(...way.map((v, k) => v - up[k] * dot(way, up)));
    expect(dot(front, way)).toBeCloseTo(flat, 9);
  });
});

test('varied: within the ranges, the same for the same seed, another for another, nothing at 0', () => {
  const list = varied(row, 3, 90, 0.2);
  expect(varied(row, 3, 90, 0.2)).toEqual(list);
  expect(varied(row, 4, 90, 0.2)).not.toEqual(list);
  for (const { peg, position } of list) {
    expect(peg.scale[0]).toBeGreaterThanOrEqual(0.8);
    expect(peg.scale[0]).toBeLessThanOrEqual(1.2);
    expect(position).toBe(row.find((r) => r.peg.id === peg.id)!.position);
  }
  varied(row, 3, 0, 0).forEach((p, i) => close(p.rotation, row[i].rotation));
});

test('mirrored twice is where it was; once, every point of it is the mirror image', () => {
  const [once] = mirrored([row[1]], 0, 2.5);
  const vertex: Vec3 = [0.3, 0.9, -0.4];
  const at = ({ position, rotation, peg }: Standing) =>
    quatRotate(rotation, vertex.map((v, k) => v * peg.scale[k]) as Vec3).map((v, k) => v + position[k]);
  const [x, y, z] = at(row[1]);
  close(at(once), [5 - x, y, z]);
  const [twice] = mirrored([once], 0, 2.5);
  close(at(twice), [x, y, z]);
});

test('in a row: every copy a step further on', () => {
  expect(inRow(row.slice(0, 2), 2, [0, 0, 3]).map((p) => p.position)).toEqual([
    [0, 1, 5],
    [9, 5, 5],
    [0, 1, 8],
    [9, 5, 8],
  ]);
});

test('a seat on a turned and sized leader leads back to where the peg stood', () => {
  const leader = standing(1, [4, 1, -2], quatFromUpFront([0, 0.6, 0.8], [1, 0, 0]), [2, 2, 2]);
  const seat = seatOn(leader, row[1]);
  const out = quatRotate(leader.rotation, seat.offset.map((v) => v * 2) as Vec3);
  close(
    out.map((v, k) => v + leader.position[k]),
    row[1].position,
  );
  const own = quatTurnTipRoll(seat.turnDeg * DEG, seat.tipDeg * DEG, seat.rollDeg * DEG);
  for (const axis of [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ] as Vec3[])
    close(quatRotate(quatMultiply(leader.rotation, own), axis), quatRotate(TURNED, axis));
});
