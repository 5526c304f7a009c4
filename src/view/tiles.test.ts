import fc from 'fast-check';
import { tilesOf } from './tiles';

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
