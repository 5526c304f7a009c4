import fc from 'fast-check';
import { acos, asinh, atan2, cos, cosh, exp, expm1, log, pow, sin, sinh, tan } from './portable';
import { cases } from '../testing/prove';

/** As many units in the last place as two numbers lie apart, about. */
const off = (a: number, b: number) => Math.abs(a - b) / Math.max(Math.abs(b), 1e-300) / 2.220446049250313e-16;

test.each([
  ['sin', sin, Math.sin, 400, 3],
  ['cos', cos, Math.cos, 400, 3],
  ['exp', exp, Math.exp, 300, 3],
  ['expm1', expm1, Math.expm1, 30, 8],
  ['sinh', sinh, Math.sinh, 30, 8],
  ['cosh', cosh, Math.cosh, 30, 4],
  ['asinh', asinh, Math.asinh, 1e6, 8],
] as [string, (x: number) => number, (x: number) => number, number, number][])(
  '%s agrees with the engine’s own',
  (_, ours, theirs, reach, ulps) => {
    fc.assert(
      fc.property(fc.double({ min: -reach, max: reach, noNaN: true }), (x) => {
        const [a, b] = [ours(x), theirs(x)];
        // Near a root the engine's own last digits count against the size of the argument.
        return Math.abs(a - b) < 2e-16 || off(a, b) <= ulps;
      }),
      { numRuns: cases(300_000) },
    );
    expect(ours(0)).toBe(theirs(0));
  },
);

test('atan2, acos, log, pow, tan', () => {
  const wide = fc.double({ min: -1e6, max: 1e6, noNaN: true });
  fc.assert(
    fc.property(wide, wide, (y, x) => expect(Math.abs(atan2(y, x) - Math.atan2(y, x))).toBeLessThan(1e-15)),
    { numRuns: cases(300_000) },
  );
  fc.assert(
    fc.property(fc.double({ min: -1, max: 1, noNaN: true }), (x) =>
      expect(Math.abs(acos(x) - Math.acos(x))).toBeLessThan(1e-15),
    ),
  );
  fc.assert(
    fc.property(fc.double({ min: 1e-300, max: 1e300, noNaN: true }), (x) =>
      expect(off(log(x), Math.log(x))).toBeLessThan(4),
    ),
  );
  expect(log(1)).toBe(0);
  expect(off(pow(0.37, 2.4), Math.pow(0.37, 2.4))).toBeLessThan(8);
  expect(tan(0.7)).toBeCloseTo(Math.tan(0.7), 15);
  for (const [y, x] of [
    [0, 1],
    [0, -1],
    [-0, -1],
    [1, 0],
    [-1, 0],
    [0, 0],
  ])
    expect(atan2(y, x)).toBe(Math.atan2(y, x));
});

test('large angles stay angles', () => {
  for (const x of [1e5, 7e8, -3e12, 1e300]) expect(sin(x) * sin(x) + cos(x) * cos(x)).toBeCloseTo(1, 12);
  expect(sin(Infinity)).toBeNaN();
});
