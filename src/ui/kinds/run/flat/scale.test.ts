import fc from 'fast-check';
import { flatScale, rulerStep, zoomed } from './scale';

const length = fc.double({ min: 0.01, max: 5000, noNaN: true });

test('metres to pixels and back; the ends stand 30 pixels inside', () => {
  const scale = flatScale(0, 46.8, 980);
  expect([scale.x(0), scale.x(46.8)]).toEqual([30, 950]);
  fc.assert(
    fc.property(fc.double({ min: 0, max: 46.8, noNaN: true }), (s) =>
      expect(scale.s(scale.x(s))).toBeCloseTo(s, 9),
    ),
  );
});

test('marks of a ruler are 1, 2 or 5 times a power of ten, never closer than asked, never far more apart', () => {
  fc.assert(
    fc.property(length, fc.integer({ min: 200, max: 3000 }), (to, width) => {
      const scale = flatScale(0, to, width);
      const step = rulerStep(scale);
      const pixels = scale.x(step) - scale.x(0);
      expect(pixels).toBeGreaterThan(71.99);
      expect(pixels).toBeLessThan(72 * 2.51);
      const digits = Number(step.toExponential(6).split('e')[0]);
      expect([1, 2, 5]).toContain(digits);
    }),
  );
});

test('zooming keeps what is under the pointer there, and stays on the path', () => {
  fc.assert(
    fc.property(
      length,
      fc.double({ min: 0, max: 1, noNaN: true }),
      fc.double({ min: 1, max: 8, noNaN: true }),
      (l, share, factor) => {
        const scale = flatScale(0, l, 900);
        const centre = l * share;
        const inner = zoomed(scale, centre, factor, l);
        const after = flatScale(inner.from, inner.to, 900);
        expect(after.x(centre)).toBeCloseTo(scale.x(centre), 5);
        expect(inner.to - inner.from).toBeCloseTo(l / factor, 6);
        const out = zoomed(after, centre, 1 / 100, l);
        expect([out.from, out.to]).toEqual([0, l]);
      },
    ),
  );
});
