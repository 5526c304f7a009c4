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

interface Thing {
  ms: number;
}
const thingsOf = (times: readonly number[]): Thing[] => times.map((ms) => ({ ms }));

/** Milliseconds of a portion of things that each take some of their own over the whole picture. */
const timeOf = ({ from, to, tile }: Portion, things: readonly Thing[]): number =>
  (things.slice(from, to).reduce((sum, { ms }) => sum + ms, 0) * tile.width * tile.height) / (WIDTH * HEIGHT);

/** What of a portion is asked for. */
const whereOf = ({ from, to, tile }: Portion) => ({ from, to, tile });

/** Draws a frame. @returns what its portions have taken */
function frame(portions: Portions, things: readonly Thing[]): number[] {
  return portions.of(things, WIDTH, HEIGHT).map((portion) => {
    const ms = timeOf(portion, things);
    portions.timed(portion).took(ms);
    return ms;
  });
}

test('however a frame is divided, each thing is drawn once everywhere, and in its order', () => {
  const portions = new Portions();
  const things = thingsOf(Array.from({ length: 37 }, (_, i) => (i === 5 ? 900 : (i * 7919) % 61)));
  for (let i = 0; i < 12; i++) {
    const list = portions.of(things, WIDTH, HEIGHT);
    expect(drawn(list, things.length).every((n) => n === 1)).toBe(true);
    list.forEach(({ from }, k) => expect(k === 0 || from >= list[k - 1].from).toBe(true));
    frame(portions, things);
  }
  // What is long by itself is drawn in parts of the picture, and what is short stays whole.
  const list = portions.of(things, WIDTH, HEIGHT);
  for (const portion of list) expect(timeOf(portion, things)).toBeLessThanOrEqual(100);
  for (const { from, to, tile } of list) {
    if (tile.width * tile.height === WIDTH * HEIGHT) continue;
    expect([from, to]).toEqual([5, 6]);
  }
  expect(list.filter((p) => p.from === 5 && p.to === 6)).toHaveLength(16);
});

test('what things take is known of them in any order, with others, and when they are few', () => {
  const portions = new Portions();
  const things = thingsOf([400, ...Array.from({ length: 40 }, (_, i) => i % 9)]);
  for (let i = 0; i < 6; i++) frame(portions, things);
  const turned = [...things].reverse();
  expect(Math.max(...frame(portions, turned))).toBeLessThanOrEqual(100);
  expect(Math.max(...frame(portions, [...thingsOf([1, 1, 1]), ...turned.slice(20)]))).toBeLessThanOrEqual(
    100,
  );
});

test('portions that became short are joined again, parts of a picture too', () => {
  const portions = new Portions();
  const things = thingsOf([400, 400, 400]);
  for (let i = 0; i < 4; i++) frame(portions, things);
  expect(portions.of(things, WIDTH, HEIGHT)).toHaveLength(24);
  for (const thing of things) thing.ms = 1;
  frame(portions, things);
  expect(portions.of(things, WIDTH, HEIGHT).map(whereOf)).toEqual([
    { from: 0, to: 3, tile: { x: 0, y: 0, width: WIDTH, height: HEIGHT } },
  ]);
});

test('a frame that is not gone on with tells of what was drawn; another size begins anew; there may be nothing', () => {
  const portions = new Portions();
  const things = thingsOf(Array.from({ length: 100 }, () => 1));
  const first = portions.of(things, WIDTH, HEIGHT);
  expect(first.length).toBeGreaterThan(1);
  portions.timed(first[0]).took(1000);
  const list = portions.of(things, WIDTH, HEIGHT);
  expect(list.length).toBeGreaterThan(first.length);
  // What follows is as it was.
  expect(list.at(-1)!.to - list.at(-1)!.from).toBeLessThanOrEqual(20);
  expect(portions.of(things, WIDTH, 2 * HEIGHT)).toHaveLength(first.length);
  const [nothing] = portions.of([], WIDTH, HEIGHT);
  expect(whereOf(nothing)).toEqual({ from: 0, to: 0, tile: { x: 0, y: 0, width: WIDTH, height: HEIGHT } });
  portions.timed(nothing).took(3);
});

test('what a portion is expected to take is what its things have taken before, in any order of telling', () => {
  const portions = new Portions();
  const things = thingsOf([30, 30, 30, 400, 5]);
  for (const { expected } of portions.of(things, WIDTH, HEIGHT)) expect(expected).toBe(Infinity);
  for (let i = 0; i < 8; i++) frame(portions, things);
  // The next one is begun before the last one is told of.
  const list = portions.of(things, WIDTH, HEIGHT);
  for (const portion of [...list].reverse()) {
    expect(portions.timed(portion).expected).toBeCloseTo(timeOf(portion, things), 6);
    portions.timed(portion).took(timeOf(portion, things));
  }
  expect(portions.of(things, WIDTH, HEIGHT).map(whereOf)).toEqual(list.map(whereOf));
});

test('nothing that is drawn in one go takes so long that with what is given ahead an input waits for more than 100 ms', () => {
  for (let ms = 80; ms <= 110; ms++) {
    const portions = new Portions();
    const things = thingsOf([3, ms, 3]);
    for (let i = 0; i < 6; i++) frame(portions, things);
    expect(Math.max(...frame(portions, things))).toBeLessThanOrEqual(88);
  }
});

test('what is seen in parts of the picture is drawn in those alone, in its place of the order; unseen, not at all', () => {
  const portions = new Portions();
  const things = thingsOf([5, 300, 5, 60, 5, 5]);
  for (let i = 0; i < 6; i++) frame(portions, things);
  const whole = { x: 0, y: 0, width: WIDTH, height: HEIGHT };
  const top = { x: 0, y: 0, width: WIDTH, height: 100 };
  const corner = { x: 600, y: 380, width: 40, height: 20 };
  const seen = (thing: object) =>
    thing === things[1] ? [top, corner] : thing === things[3] ? [] : undefined;
  const list = portions.of(things, WIDTH, HEIGHT, seen);
  expect(list.filter(({ from }) => from === 3)).toHaveLength(0);
  const inParts = list.filter(({ from, to }) => from === 1 && to === 2);
  const areaOf = ({ tile }: Portion) => tile.width * tile.height;
  expect(inParts.reduce((sum, p) => sum + areaOf(p), 0)).toBe(WIDTH * 100 + 40 * 20);
  for (const { tile } of inParts) {
    const [inTop, inCorner] = [top, corner].map(
      (t) => tile.x >= t.x && tile.y >= t.y && tile.y + tile.height <= t.y + t.height,
    );
    expect(inTop || inCorner).toBe(true);
  }
  // No part takes longer than one of the whole would, and all others are drawn everywhere.
  for (const p of inParts) expect(timeOf(p, things)).toBeLessThanOrEqual(88);
  expect(list.filter(({ from }) => from !== 1).map(whereOf)).toEqual([
    { from: 0, to: 1, tile: whole },
    { from: 2, to: 3, tile: whole },
    { from: 4, to: 6, tile: whole },
  ]);
  // What it takes as a whole is known as before: the next look may see all of it.
  for (const portion of list) portions.timed(portion).took(timeOf(portion, things));
  expect(Math.max(...frame(portions, things))).toBeLessThanOrEqual(88);
  // Where nothing is seen of anything, what is behind it is.
  expect(portions.of(things, WIDTH, HEIGHT, () => []).map(whereOf)).toEqual([
    { from: 6, to: 6, tile: whole },
  ]);
});

test('what takes longest comes first, and what nothing is known of or is short not at all', () => {
  const portions = new Portions();
  const things = thingsOf([30, 5, 300, 21, 19, 60]);
  for (let i = 0; i < 8; i++) frame(portions, things);
  const other = { ms: 500 };
  expect(portions.longest([...things, other], 3, 20).map(({ ms }) => ms)).toEqual([300, 60, 30]);
  expect(portions.longest(things, 9, 20).map(({ ms }) => ms)).toEqual([300, 60, 30, 21]);
});
