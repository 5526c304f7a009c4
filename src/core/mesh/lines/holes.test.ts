import { holesOf } from './holes';

/** A flat plate with round holes through it, and a tube; by their own circles. */

type Numbers = { positions: number[]; indices: number[] };
const of = ({ positions, indices }: Numbers) => ({
  positions: Float32Array.from(positions),
  indices: Uint32Array.from(indices),
});

/** A band of faces between two rings of corners. */
function band(m: Numbers, from: number[][], to: number[][]): void {
  const n = from.length;
  const o = m.positions.length / 3;
  m.positions.push(...from.flat(), ...to.flat());
  for (let i = 0; i < n; i++) {
    const [a, b] = [o + i, o + ((i + 1) % n)];
    m.indices.push(a, b, a + n, b, b + n, a + n);
  }
}
const circle = (n: number, r: number, at: [number, number, number], squash = 1) =>
  Array.from({ length: n }, (_, i) => {
    const t = (2 * Math.PI * i) / n;
    return [at[0] + r * Math.cos(t), at[1] + r * squash * Math.sin(t), at[2]];
  });

test('a washer has one middle, whatever its two rims and two faces; a tube one at each end', () => {
  const washer: Numbers = { positions: [], indices: [] };
  const [inner, outer] = [circle(16, 0.2, [3, 1, 0]), circle(16, 0.5, [3, 1, 0])];
  const back = (ring: number[][]) => ring.map(([x, y]) => [x, y, -0.05]);
  band(washer, inner, outer);
  band(washer, back(outer), back(inner));
  band(washer, outer, back(outer));
  band(washer, back(inner), inner);
  const found = holesOf(of(washer));
  expect(
    found.map((h) => [...h.centre.map((v) => Number(v.toFixed(6))), Number(h.radius.toFixed(6))]),
  ).toEqual(
    expect.arrayContaining([
      [3, 1, 0, 0.2],
      [3, 1, -0.05, 0.2],
    ]),
  );
  expect(found).toHaveLength(2);
  found.forEach((h) => expect(Math.abs(h.normal[2])).toBeCloseTo(1, 9));

  const tube: Numbers = { positions: [], indices: [] };
  band(tube, circle(24, 0.3, [0, 0, 2]), circle(24, 0.3, [0, 0, 5]));
  expect(
    holesOf(of(tube))
      .map((h) => Number(h.centre[2].toFixed(6)))
      .sort(),
  ).toEqual([2, 5]);
});

test('the middle is that of the area, not of the corners; what is long, bent or a face’s outline is none', () => {
  // Half of the circle has ten times as many corners.
  const uneven = Array.from({ length: 110 }, (_, i) => {
    const t = i < 100 ? (Math.PI * i) / 100 : Math.PI + (Math.PI * (i - 100)) / 10;
    return [Math.cos(t), Math.sin(t), 0];
  });
  const cone: Numbers = { positions: [], indices: [] };
  band(
    cone,
    uneven,
    uneven.map(([x, y]) => [x * 2, y * 2, 1]),
  );
  const small = holesOf(of(cone)).find((h) => h.radius < 1.5)!;
  expect(Math.hypot(small.centre[0], small.centre[1])).toBeLessThan(0.02);

  const slot: Numbers = { positions: [], indices: [] };
  band(slot, circle(16, 1, [0, 0, 0], 0.2), circle(16, 1.5, [0, 0, 1], 0.2));
  expect(holesOf(of(slot))).toEqual([]);
  const saddle: Numbers = { positions: [], indices: [] };
  const bent = circle(16, 1, [0, 0, 0]).map(([x, y]) => [x, y, (x * x - y * y) * 0.6]);
  band(
    saddle,
    bent,
    bent.map(([x, y, z]) => [x, y, z + 1]),
  );
  expect(holesOf(of(saddle))).toEqual([]);
  const box: Numbers = { positions: [], indices: [] };
  const square = (z: number) => [
    [0, 0, z],
    [1, 0, z],
    [1, 1, z],
    [0, 1, z],
  ];
  band(box, square(0), square(1));
  expect(holesOf(of(box))).toEqual([]);
});
