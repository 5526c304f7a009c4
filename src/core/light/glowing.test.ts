import fc from 'fast-check';
import { gathered, lampsInFrame, lampsOf, mostInFrame, type Lamps } from './glowing';
import { glowSchema } from './lampSchema';

/** Lamps of glowing props against what physics says of all of them at once. */

const lampsAt = (places: readonly (readonly number[])[]): Lamps => ({
  count: places.length,
  at: Float64Array.from(places.flatMap((p) => p.slice(0, 3))),
  light: Float64Array.from(places.flatMap((p) => [p[3], p[3] / 2, p[3] / 4])),
});

const sumOf = ({ light }: Lamps, k: number): number => {
  let sum = 0;
  for (let i = k; i < light.length; i += 3) sum += light[i];
  return sum;
};

test('a copy gives its light from its middle, wherever it stands, in its tint', () => {
  // Turned a quarter about y, twice as large, at (5, 1, 0): x → −z, z → x.
  const turned = [0, 0, -2, 0, 0, 2, 0, 0, 2, 0, 0, 0, 5, 1, 0, 1];
  const { at, light, count } = lampsOf([
    {
      glow: glowSchema.parse({ color: '#ff8000', strength: 3 }),
      middle: [1, 0.5, 0.25],
      matrices: Float32Array.from([...turned, ...turned]),
      count: 2,
      tints: Float32Array.of(1, 1, 1, 0.5, 0.25, 1),
    },
  ]);
  expect(count).toBe(2);
  expect([...at.subarray(0, 3)]).toEqual([5.5, 2, -2]);
  // sRGB 128 of 255 is 0.2158605 of the light.
  expect(light[0]).toBeCloseTo(3, 9);
  expect(light[1]).toBeCloseTo(3 * 0.2158605, 6);
  expect([light[3], light[5]]).toEqual([1.5, 0]);
  expect(light[4]).toBeCloseTo((3 * 0.2158605) / 4, 6);
});

const place = fc.tuple(
  fc.double({ min: -300, max: 300, noNaN: true }),
  fc.double({ min: 0, max: 20, noNaN: true }),
  fc.double({ min: -300, max: 300, noNaN: true }),
  fc.double({ min: 0, max: 5, noNaN: true }),
);

test('gathered: no more than asked for, no light lost, and each near those that it stands for', () => {
  fc.assert(
    fc.property(fc.array(place, { maxLength: 90 }), fc.integer({ min: 1, max: 12 }), (places, most) => {
      const lamps = lampsAt(places);
      const few = gathered(lamps, most);
      expect(few.count).toBeLessThanOrEqual(Math.max(most, 0));
      if (lamps.count <= most) expect(few).toBe(lamps);
      for (const k of [0, 1, 2]) expect(sumOf(few, k)).toBeCloseTo(sumOf(lamps, k), 8);
    }),
  );
  // Two strings of bulbs far from each other stay two.
  const strings = lampsAt([
    ...Array.from({ length: 40 }, (_, i) => [100 + i * 0.1, 3, 7, 1]),
    ...Array.from({ length: 40 }, (_, i) => [-100 - i * 0.1, 3, 7, 1]),
  ]);
  const { count, at } = gathered(strings, 2);
  expect(count).toBe(2);
  expect([at[0], at[3]].map(Math.abs).map((x) => Math.round(x))).toEqual([102, 102]);
});

test('over all frames of a picture each lamp gives just its light, however many there are', () => {
  fc.assert(
    fc.property(
      fc.integer({ min: 0, max: 400 }),
      fc.integer({ min: 1, max: 64 }),
      fc.integer({ min: 1, max: 6 }),
      (count, frames, few) => {
        const given = new Float64Array(count);
        const most = mostInFrame(count, frames, few);
        for (let n = 0; n < frames; n++) {
          const { lamps, times } = lampsInFrame(count, frames, few, n);
          expect(lamps.length).toBeLessThanOrEqual(most);
          for (const i of lamps) given[i] += times / frames;
        }
        for (const light of given) expect(light).toBeCloseTo(1, 9);
        // A few at a time, wherever there are frames enough.
        if (count <= few * frames) expect(most).toBeLessThanOrEqual(few);
      },
    ),
  );
});
