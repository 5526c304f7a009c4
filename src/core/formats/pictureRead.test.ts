import { encode as encodePng } from 'fast-png';
import { encode as encodeJpeg } from 'jpeg-js';
import { FileError } from './limits';
import { pictureFormat, readPicture } from './pictureRead';

/** Red grows to the right, green downwards. */
const [WIDTH, HEIGHT] = [32, 16];
const data = Uint8Array.from({ length: WIDTH * HEIGHT * 4 }, (_, i) => {
  const [x, y] = [(i >> 2) % WIDTH, Math.floor(i / 4 / WIDTH)];
  return [x * 8, y * 16, 40, 255][i % 4];
});
const jpeg = () =>
  new Uint8Array(encodeJpeg({ data: Buffer.from(data), width: WIDTH, height: HEIGHT }, 95).data);

test('a JPEG is read nearly as the PNG of the same picture: shades of grey by luma, and its colours', () => {
  const png = readPicture(encodePng({ width: WIDTH, height: HEIGHT, data, channels: 4 }), 'a.png');
  const jpg = readPicture(jpeg(), 'a.jpg');
  expect([jpg.width, jpg.height]).toEqual([WIDTH, HEIGHT]);
  expect([...png.colours!]).toEqual([...data]);
  const worst = (a: ArrayLike<number>, b: ArrayLike<number>) =>
    Array.from(a).reduce((most, v, i) => Math.max(most, Math.abs(v - b[i])), 0);
  expect(worst(jpg.colours!, data)).toBeLessThan(24);
  expect(worst(jpg.values, png.values)).toBeLessThan(0.05);
  const luma = (i: number) =>
    (0.2126 * data[i * 4] + 0.7152 * data[i * 4 + 1] + 0.0722 * data[i * 4 + 2]) / 255;
  expect(
    worst(
      png.values,
      Array.from(png.values, (_, i) => luma(i)),
    ),
  ).toBeLessThan(1e-6);
});

test('shades of grey keep no colours', () => {
  const grey = readPicture(
    encodePng({ width: 2, height: 2, data: Uint8Array.of(0, 85, 170, 255), channels: 1 }),
    'g.png',
  );
  expect(grey.colours).toBeUndefined();
  expect([...grey.values].map((v) => Number(v.toFixed(3)))).toEqual([0, 0.333, 0.667, 1]);
});

test('what is damaged, too large or no picture is refused in one sentence', () => {
  expect([pictureFormat(jpeg()), pictureFormat(Uint8Array.of(1, 2, 3, 4))]).toEqual(['jpeg', undefined]);
  const cut = jpeg().subarray(0, 120);
  expect(() => readPicture(cut, 'cut.jpg')).toThrow(FileError);
  expect(() => readPicture(cut, 'cut.jpg')).toThrow(/“cut.jpg” is damaged/);
  expect(() => readPicture(Uint8Array.of(1, 2, 3, 4), 'x.gif')).toThrow(/neither a PNG nor a JPEG/);
  // A header that claims a gigantic picture.
  const huge = jpeg();
  const at = huge.findIndex((v, i) => v === 0xff && huge[i + 1] === 0xc0);
  huge.set([0xff, 0xff, 0xff, 0xff], at + 5);
  expect(() => readPicture(huge, 'huge.jpg')).toThrow(/more pixels than/);
});
