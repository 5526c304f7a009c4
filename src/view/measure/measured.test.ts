import { measured } from './measured';

test('straight, level and rise of a box’s diagonal; angles of known triangles', () => {
  expect(
    measured([
      [1, 1, 1],
      [3, 4, 7],
    ]),
  ).toEqual({ straight: 7, level: Math.hypot(2, 6), rise: 3, angleDeg: null });
  const at = (deg: number): [number, number, number] => [
    Math.cos((deg * Math.PI) / 180),
    0,
    Math.sin((deg * Math.PI) / 180),
  ];
  for (const deg of [0.001, 30, 90, 179.999])
    expect(measured([[1, 0, 0], [0, 0, 0], at(deg)]).angleDeg).toBeCloseTo(deg, 9);
});
