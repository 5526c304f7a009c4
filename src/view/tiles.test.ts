import fc from 'fast-check';
import { nextTile, Parts, tilesOf } from './tiles';

test('every pixel is in just one part, and parts are about square', () => {
  const power = fc.constantFrom(1, 2, 4, 8, 16, 32);
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 90 }),
      fc.integer({ min: 1, max: 90 }),
      power,
      (width, height, count) => {
        const seen = new Uint8Array(width * height);
        for (const t of tilesOf(width, height, count))
          for (let y = t.y; y < t.y + t.height; y++)
            for (let x = t.x; x < t.x + t.width; x++) seen[y * width + x]++;
        return seen.every((n) => n === 1);
      },
    ),
    { numRuns: 200 },
  );
  expect(tilesOf(1200, 800, 8)).toHaveLength(8);
  expect(tilesOf(1200, 800, 8)[0]).toEqual({ x: 0, y: 0, width: 300, height: 400 });
});

test('what is left of a picture is cut smaller when parts come to be more, and still every pixel is drawn once', () => {
  const [width, height] = [90, 60];
  const seen = new Uint8Array(width * height);
  const tiles = tilesOf(width, height, 2);
  let count = 2;
  for (let t = nextTile(tiles, width * height, count); t; t = nextTile(tiles, width * height, count)) {
    expect(t.width * t.height * count).toBeLessThanOrEqual(width * height * 1.5);
    for (let y = t.y; y < t.y + t.height; y++)
      for (let x = t.x; x < t.x + t.width; x++) seen[y * width + x]++;
    count = Math.min(16, count * 2);
  }
  expect(seen.every((n) => n === 1)).toBe(true);
});

test('parts that take long become smaller, short ones larger again', () => {
  const parts = new Parts();
  const turn = (ms: number) => {
    parts.took(ms);
    return parts.count;
  };
  expect([turn(900), turn(450), turn(225), turn(110), turn(56), turn(30)]).toEqual([2, 4, 8, 16, 16, 16]);
  expect([turn(10), turn(10)]).toEqual([8, 4]);
  for (let i = 0; i < 20; i++) turn(1e4);
  expect(parts.count).toBe(64);
});
