import { decode } from 'fast-png';
import { besidePngs, Sheet } from './sheet';

/** Regions that become one picture. */

/** Four numbers a pixel, bottom row first, red by what a function says of x and of y from the top. */
const region = (
  width: number,
  height: number,
  red: (x: number, y: number) => number,
  alpha = 1,
): Float32Array =>
  Float32Array.from({ length: width * height * 4 }, (_, i) => {
    const [p, k] = [i >> 2, i & 3];
    const [x, row] = [p % width, Math.floor(p / width)];
    return k === 3 ? alpha : k === 0 ? red(x, height - 1 - row) * alpha : 0;
  });

test('each region comes to its place, its top row on top; a second look tells how far it has changed', () => {
  const sheet = new Sheet(4, 3);
  sheet.put(
    { x: 0, y: 0, width: 4, height: 1 },
    region(4, 1, (x) => x / 4),
    1,
  );
  const rest = { x: 0, y: 1, width: 4, height: 2 };
  expect(
    sheet.put(
      rest,
      region(4, 2, (_, y) => (y === 0 ? 0.9 : 0.1)),
      1,
    ),
  ).toBeGreaterThan(0.05);
  expect(
    sheet.put(
      rest,
      region(4, 2, (_, y) => (y === 0 ? 0.9 : 0.1)),
      1,
    ),
  ).toBe(0);
  const { data, depth, channels } = decode(sheet.png(16, 1, false));
  expect([depth, channels]).toEqual([16, 3]);
  const red = (x: number, y: number) => data[(y * 4 + x) * 3];
  expect(red(0, 0)).toBe(0);
  expect(red(3, 0)).toBeGreaterThan(red(1, 0));
  expect(red(0, 1)).toBeGreaterThan(red(0, 2));
  // Light is told bottom row first, as it is.
  expect([...sheet.light(2)].slice(0, 4)).toEqual(
    [0.1, 0, 0, 1].map((v, k) => (k === 0 ? Math.fround(v) * 2 : v)),
  );
});

test('what is half covered keeps its colour, and its share as alpha', () => {
  const [half, whole] = [0.5, 1].map((alpha) => {
    const sheet = new Sheet(1, 1);
    sheet.put(
      { x: 0, y: 0, width: 1, height: 1 },
      region(1, 1, () => 0.4, alpha),
      1,
    );
    return [...decode(sheet.png(8, 1, true)).data];
  });
  expect(half.slice(0, 3)).toEqual(whole.slice(0, 3));
  expect([half[3], whole[3]]).toEqual([128, 255]);
  // On a plain ground: half of it, and half of the colour of the ground just as it is told.
  const sheet = new Sheet(1, 1);
  sheet.put(
    { x: 0, y: 0, width: 1, height: 1 },
    region(1, 1, () => 0.4, 0.5),
    1,
  );
  const light = sheet.light(1, '#ffffff');
  expect([...light].map((v) => Math.round(v * 1e6) / 1e6)).toEqual([0.7, 0.5, 0.5, 1]);
  const [red, green] = decode(sheet.png(8, 1, false, '#204060')).data;
  expect(Math.abs(red - (whole[0] + 0x20) / 2)).toBeLessThanOrEqual(1);
  expect(Math.abs(green - (whole[1] + 0x40) / 2)).toBeLessThanOrEqual(1);
});

test('depth from white to nearly black, nothing black; directions about the middle', () => {
  const given = Float32Array.of(0, 1, 0, 2, -1, 0, 0, 10, 0, 0, 1, 6, 0, 0, 0, 0);
  const { depth, normals, near, far } = besidePngs(given, 2, 2);
  expect([near, far]).toEqual([2, 10]);
  expect([...decode(depth).data]).toEqual([65535, 1, 32768, 0]);
  expect([...decode(normals).data]).toEqual([128, 255, 128, 0, 128, 128, 128, 128, 255, 0, 0, 0]);
});
