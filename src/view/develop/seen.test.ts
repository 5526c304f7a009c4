import fc from 'fast-check';
import { Mesh, MeshBasicMaterial, MeshLambertMaterial, ShaderMaterial } from 'three';
import type { Tile } from '../tiles';
import { canBeSought, tilesWhere } from './seen';

const [WIDTH, HEIGHT] = [180, 130];
const AREA = WIDTH * HEIGHT;

interface Spot extends Tile {
  byte: number;
}

/** A picture, its bottom row first, with rectangles in it. */
function pictureOf(spots: readonly Spot[]): Uint8Array {
  const pixels = new Uint8Array(4 * AREA);
  for (const { x, y, width, height, byte } of spots)
    for (let row = y; row < Math.min(HEIGHT, y + height); row++)
      for (let column = x; column < Math.min(WIDTH, x + width); column++)
        pixels[4 * ((HEIGHT - 1 - row) * WIDTH + column) + byte] = 255;
  return pixels;
}

/** How many of some rectangles each pixel is in, the top row first. */
function timesIn(tiles: readonly Tile[]): Uint8Array {
  const times = new Uint8Array(AREA);
  for (const { x, y, width, height } of tiles)
    for (let row = y; row < y + height; row++)
      for (let column = x; column < x + width; column++) times[row * WIDTH + column]++;
  return times;
}

const spot = fc.record({
  x: fc.integer({ min: 0, max: WIDTH - 1 }),
  y: fc.integer({ min: 0, max: HEIGHT - 1 }),
  width: fc.integer({ min: 1, max: 90 }),
  height: fc.integer({ min: 1, max: 60 }),
  byte: fc.integer({ min: 0, max: 2 }),
});

test('all that is seen, and two pixels about it, is in one rectangle, and nothing is in two', () => {
  fc.assert(
    fc.property(fc.array(spot, { maxLength: 6 }), fc.integer({ min: 0, max: 2 }), (spots, byte) => {
      const tiles = tilesWhere(pictureOf(spots), byte, WIDTH, HEIGHT);
      const times = timesIn(tiles);
      expect(Math.max(0, ...times)).toBeLessThanOrEqual(1);
      for (const t of tiles) {
        expect(t.x).toBeGreaterThanOrEqual(0);
        expect(t.x + t.width).toBeLessThanOrEqual(WIDTH);
        expect(t.y + t.height).toBeLessThanOrEqual(HEIGHT);
      }
      for (const s of spots.filter((one) => one.byte === byte))
        for (let row = Math.max(0, s.y - 2); row < Math.min(HEIGHT, s.y + s.height + 2); row++)
          for (let column = Math.max(0, s.x - 2); column < Math.min(WIDTH, s.x + s.width + 2); column++)
            if (times[row * WIDTH + column] !== 1) throw new Error(`${column}, ${row} is left out.`);
      if (!spots.some((one) => one.byte === byte)) expect(tiles).toEqual([]);
    }),
  );
});

test('what is seen far apart is not drawn between, and what lies near is one rectangle', () => {
  const band = { x: 0, width: WIDTH, byte: 1 };
  const apart = tilesWhere(
    pictureOf([
      { ...band, y: 0, height: 20 },
      { x: 100, width: 6, y: 100, height: 20, byte: 1 },
    ]),
    1,
    WIDTH,
    HEIGHT,
  );
  expect(apart).toHaveLength(2);
  expect(apart.reduce((sum, { width, height }) => sum + width * height, 0)).toBeLessThan(0.35 * AREA);
  const near = tilesWhere(
    pictureOf([
      { ...band, y: 0, height: 20 },
      { ...band, y: 26, height: 30 },
    ]),
    1,
    WIDTH,
    HEIGHT,
  );
  expect(near).toEqual([{ x: 0, y: 0, width: WIDTH, height: 64 }]);
});

test('what is lit can be looked for; what has its own way to where it is not', () => {
  const [lit, plain, own] = [new MeshLambertMaterial(), new MeshBasicMaterial(), new ShaderMaterial()];
  expect(canBeSought(new Mesh(undefined, lit))).toBe(true);
  expect(canBeSought(new Mesh(undefined, [lit, lit]))).toBe(true);
  for (const other of [plain, own]) expect(canBeSought(new Mesh(undefined, [lit, other]))).toBe(false);
});
