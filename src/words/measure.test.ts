import fc from 'fast-check';
import { parseMeasure, showMeasure } from './measure';

test.each([
  ['1.8', 1.8],
  ['40 cm', 0.4],
  ['6in', 0.1524],
  ['1/3', 1 / 3],
  ['2.4/3', 0.8],
  ['1,5', 1.5],
  ['1 m + 20 cm', 1.2],
  ['2 * (3 - 1)', 4],
  ['-0.5', -0.5],
  ['−2', -2],
  ['1e-9', 1e-9],
  ['3ft', 0.9144],
  ['(1/4) m', 0.25],
  ['.5', 0.5],
  ['10 mm', 0.01],
  ['1/4 ft', 0.0762],
  ['2 m / 4', 0.5],
])('“%s” is %d m', (text, value) => expect(parseMeasure(text, 'length')).toBeCloseTo(value, 12));

test('a bare number has the unit that is shown; with a unit it has its own', () => {
  expect(parseMeasure('40', 'length', 'cm')).toBeCloseTo(0.4, 12);
  expect(parseMeasure('1 m', 'length', 'cm')).toBe(1);
  expect(parseMeasure('90', 'angle')).toBe(90);
  expect(parseMeasure('1/4 turn', 'angle')).toBe(90);
  expect(parseMeasure('8', 'percent')).toBeCloseTo(0.08, 12);
  expect(parseMeasure('8%', 'percent')).toBeCloseTo(0.08, 12);
});

test.each(['', 'abc', '1 +', '(1', '1/0', '2 kg', '1 2', '45°'])('“%s” is no length', (text) =>
  expect(parseMeasure(text, 'length')).toBeNull(),
);

test('what is shown reads back to what it was, to the places shown', () => {
  fc.assert(
    fc.property(fc.double({ min: -500, max: 500, noNaN: true }), (v) => {
      expect(Math.abs(parseMeasure(showMeasure(v, 'length'), 'length')! - v)).toBeLessThanOrEqual(
        0.0005000001,
      );
      expect(Math.abs(parseMeasure(showMeasure(v, 'length', 'cm'), 'length', 'cm')! - v)).toBeLessThanOrEqual(
        0.0005000001,
      );
    }),
  );
  expect(showMeasure(1.8, 'length')).toBe('1.80');
  expect(showMeasure(1.125, 'length')).toBe('1.125');
  expect(showMeasure(1e-9, 'length')).toBe('1e-9');
  expect(showMeasure(3.67e-16, 'length')).toBe('0.00');
  expect(showMeasure(-3.67e-16, 'length')).toBe('0.00');
  expect(showMeasure(0.08, 'percent')).toBe('8');
});
