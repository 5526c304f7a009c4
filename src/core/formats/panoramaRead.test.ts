import { encode } from 'fast-png';
import { openPanorama } from './panoramaRead';

const hdr = (size: string, pixels = 0) =>
  new Uint8Array([
    ...new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n${size}\n`),
    ...new Uint8Array(pixels * 4),
  ]);
const png = (width: number, height: number) =>
  encode({ width, height, data: new Uint8Array(width * height * 4), channels: 4 });

test('a panorama is twice as wide as it is high, in any of three formats', () => {
  expect(openPanorama(hdr('-Y 16 +X 32', 512), 'a.hdr')).toEqual({ width: 32, height: 16 });
  expect(openPanorama(png(64, 32), 'a.png')).toMatchObject({ width: 64, height: 32 });
});

test.each([
  ['a.txt', new TextEncoder().encode('hello'), /neither a Radiance picture/],
  ['none.hdr', new Uint8Array(0), /neither a Radiance picture/],
  ['headless.hdr', hdr('nothing'), /neither a Radiance picture/],
  ['cut.hdr', hdr('-Y 16 +X 32', 511), /damaged or cut short/],
  ['flat.hdr', hdr('-Y 8 +X 8', 64), /8 × 8 pixels. A panorama of all directions/],
  ['wide.hdr', hdr('-Y 1 +X 16384', 16384), /16384 pixels wide; the limit is 8192/],
  ['one.hdr', hdr('-Y 0 +X 0'), /twice as wide/],
  ['square.png', png(32, 32), /twice as wide/],
  ['cut.png', png(64, 32).slice(0, 60), /damaged or cut short/],
])('%s is none, and is told so', (name, bytes, said) => {
  expect(() => openPanorama(bytes, name)).toThrow(said);
});
