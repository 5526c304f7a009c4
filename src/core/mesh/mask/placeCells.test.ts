import fc from 'fast-check';
import { PlaceCells } from './placeCells';

const metre = fc.double({ min: -5, max: 5, noNaN: true });

/** Places in a room, on a floor, along a line, all in one, and some of them nowhere. */
const places = fc
  .tuple(
    fc.array(fc.tuple(metre, metre, metre, fc.boolean()), { minLength: 1, maxLength: 400 }),
    fc.constantFrom([1, 1, 1], [1, 0, 1], [0, 0, 1], [0, 0, 0]),
  )
  .map(([list, flat]) =>
    Float64Array.from(
      list.flatMap(([x, y, z, none]) => [x, y, z].map((v, a) => (none ? NaN : v * flat[a] + 3))),
    ),
  );

test('just the places between two corners are visited, each once', () => {
  fc.assert(
    fc.property(
      places,
      fc.tuple(metre, metre, metre),
      fc.double({ min: 0, max: 6, noNaN: true }),
      (at, mid, r) => {
        const [low, high] = [mid.map((v) => v + 3 - r), mid.map((v) => v + 3 + r)];
        const visited: number[] = [];
        new PlaceCells(at).within(low, high, (i) => visited.push(i));
        const inside = Array.from({ length: at.length / 3 }, (_, i) => i).filter((i) =>
          [0, 1, 2].every((a) => at[i * 3 + a] >= low[a] && at[i * 3 + a] <= high[a]),
        );
        expect(visited.sort((a, b) => a - b)).toEqual(inside);
      },
    ),
    { numRuns: 300 },
  );
});
