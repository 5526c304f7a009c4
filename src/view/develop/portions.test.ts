import { Portions, type Portion } from './portions';

const [WIDTH, HEIGHT] = [640, 400];

/** How often each thing is drawn at each of some places. */
function drawn(portions: readonly Portion[], count: number): number[] {
  const out: number[] = [];
  for (let thing = 0; thing < count; thing++)
    for (const [x, y] of [
      [0, 0],
      [WIDTH - 1, 0],
      [WIDTH >> 1, HEIGHT >> 1],
      [13, HEIGHT - 1],
    ])
      out.push(
        portions.filter(
          ({ from, to, tile: t }) =>
            thing >= from && thing < to && x >= t.x && x < t.x + t.width && y >= t.y && y < t.y + t.height,
        ).length,
      );
  return out;
}

/** Milliseconds of a portion of things that each take some of their own over the whole picture. */
const timeOf = ({ from, to, tile }: Portion, times: readonly number[]): number =>
  (times.slice(from, to).reduce((sum, t) => sum + t, 0) * tile.width * tile.height) / (WIDTH * HEIGHT);

test('however a frame is divided, each thing is drawn once everywhere, and in its order', () => {
  const portions = new Portions();
  const times = Array.from({ length: 37 }, (_, i) => (i * 7919) % 61);
  times[5] = 900;
  for (let frame = 0; frame < 12; frame++) {
    const list = portions.of(times.length, WIDTH, HEIGHT);
    expect(drawn(list, times.length).every((n) => n === 1)).toBe(true);
    list.forEach(({ from }, i) => expect(i === 0 || from >= list[i - 1].from).toBe(true));
    for (const portion of [...list]) portions.took(timeOf(portion, times));
  }
  // With one more, or a few less, it goes on as it was; with many more it begins anew.
  const { length } = portions.of(times.length, WIDTH, HEIGHT);
  for (const [count, alike] of [
    [38, true],
    [34, true],
    [37, true],
    [80, false],
  ] as const) {
    const other = portions.of(count, WIDTH, HEIGHT);
    expect(drawn(other, count).every((n) => n === 1)).toBe(true);
    expect(Math.abs(other.length - length) <= 4).toBe(alike);
  }
  for (let frame = 0; frame < 8; frame++)
    for (const portion of [...portions.of(times.length, WIDTH, HEIGHT)])
      portions.took(timeOf(portion, times));
  // What is long by itself is drawn in parts of the picture, and what is short stays whole.
  const list = portions.of(times.length, WIDTH, HEIGHT);
  for (const portion of list) expect(timeOf(portion, times)).toBeLessThanOrEqual(100);
  for (const { from, to, tile } of list) {
    if (tile.width * tile.height === WIDTH * HEIGHT) continue;
    expect(to).toBe(from + 1);
    expect(times[from]).toBeGreaterThan(50);
  }
  expect(list.filter((p) => p.from === 5 && p.to === 6).length).toBeGreaterThanOrEqual(9);
});

test('portions that became short are joined again, parts of a picture too', () => {
  const portions = new Portions();
  const frame = (ms: (p: Portion) => number) => {
    const list = [...portions.of(3, WIDTH, HEIGHT)];
    for (const portion of list) portions.took(ms(portion));
    return portions.of(3, WIDTH, HEIGHT).length;
  };
  expect(frame(() => 400)).toBe(12);
  for (let i = 0; i < 12; i++) frame(() => 1);
  expect(portions.of(3, WIDTH, HEIGHT)).toHaveLength(1);
  expect(drawn(portions.of(3, WIDTH, HEIGHT), 3).every((n) => n === 1)).toBe(true);
});

test('a frame that is not gone on with says nothing; another size or another scene begins anew; there may be nothing', () => {
  const portions = new Portions();
  const first = portions.of(20, WIDTH, HEIGHT).length;
  for (let i = 0; i + 1 < first; i++) portions.took(1e4);
  portions.broken();
  for (let i = 0; i + 1 < first; i++) portions.took(1e4);
  expect(portions.of(20, WIDTH, HEIGHT)).toHaveLength(first);
  portions.took(90);
  expect(portions.of(20, WIDTH, HEIGHT).length).toBeGreaterThan(first);
  expect(portions.of(20, WIDTH, 2 * HEIGHT)).toHaveLength(first);
  expect(portions.of(0, WIDTH, HEIGHT)).toEqual([
    { from: 0, to: 0, tile: { x: 0, y: 0, width: WIDTH, height: HEIGHT } },
  ]);
});
