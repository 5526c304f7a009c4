import { boardsOf } from './boards';

/** Racks put together of boxes, against what was put together. */

type Range = [number, number];
const rackOf = (...boxes: [x: Range, y: Range, z: Range][]) => {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [x, y, z] of boxes) {
    const o = positions.length / 3;
    for (let c = 0; c < 8; c++) positions.push(x[c & 1], y[(c >> 1) & 1], z[(c >> 2) & 1]);
    for (const [a, b, c, d] of [
      [0, 2, 3, 1],
      [4, 5, 7, 6],
      [0, 1, 5, 4],
      [2, 6, 7, 3],
      [0, 4, 6, 2],
      [1, 3, 7, 5],
    ])
      indices.push(o + a, o + b, o + c, o + a, o + c, o + d);
  }
  return { positions: Float64Array.from(positions), indices: Uint32Array.from(indices) };
};
const board = (y: number, x: Range = [0, 2], z: Range = [-0.4, 0]): [Range, Range, Range] => [
  x,
  [y - 0.03, y],
  z,
];
const post = (x: number, z: number): [Range, Range, Range] => [
  [x, x + 0.05],
  [0, 2],
  [z, z + 0.05],
];

test('boards from the lowest up, as wide as the posts leave, as deep as they are, clear up to the next', () => {
  const rack = rackOf(
    board(0.2),
    board(0.8),
    board(1.5),
    ...[0, 1.95].flatMap((x) => [post(x, -0.4), post(x, -0.05)]),
  );
  const boards = boardsOf(rack);
  expect(boards.map((b) => b.y)).toEqual([0.2, 0.8, 1.5]);
  boards.forEach((b) => {
    expect([b.x0, b.x1]).toEqual([0.05, 1.95]);
    expect([b.z0, b.z1]).toEqual([-0.4, 0]);
  });
  expect(boards[0].clear).toBeCloseTo(0.57, 12);
  expect(boards[1].clear).toBeCloseTo(0.67, 12);
  expect(boards[2].clear).toBe(Infinity);
  expect(boardsOf(rack)).toBe(boards);
});

test('a post in the middle parts a board, a wall at the back makes it less deep, a lip lowers what is clear', () => {
  const rack = rackOf(
    board(0.2),
    board(1),
    // A wall in three pieces, a post, and a lip under the front of the upper board.
    ...(
      [
        [0, 0.6],
        [0.7, 1.3],
        [1.4, 2],
      ] as Range[]
    ).map((x): [Range, Range, Range] => [x, [0, 1.4], [-0.42, -0.35]]),
    post(1, -0.2),
    [
      [0, 2],
      [0.9, 0.97],
      [-0.02, 0],
    ],
  );
  const low = boardsOf(rack).filter((b) => b.y === 0.2);
  expect(low.map((b) => [b.x0, b.x1])).toEqual([
    [0, 1],
    [1.05, 2],
  ]);
  low.forEach((b) => {
    expect([b.z0, b.z1]).toEqual([-0.35, 0]);
    expect(b.clear).toBeCloseTo(0.7, 12);
  });
});

test('planks side by side are one board; rails, tops of posts and what looks down are none', () => {
  const rack = rackOf(
    board(0.5, [0, 2], [-0.4, -0.21]),
    board(0.5, [0, 2], [-0.2, 0]),
    board(1, [0, 1]),
    board(1, [1, 2]),
    // A rail, and a post that ends between the boards.
    [
      [0, 2],
      [0.7, 0.75],
      [-0.4, -0.38],
    ],
    [
      [-0.05, 0],
      [0, 0.7],
      [-0.05, 0],
    ],
  );
  const boards = boardsOf(rack);
  expect(boards.map((b) => [b.y, b.x0, b.x1, b.z0, b.z1])).toEqual([
    [0.5, 0, 2, -0.38, 0],
    [1, 0, 2, -0.4, 0],
  ]);
});
