import { variationSchema } from './schema';
import { slotId } from '../slotId';
import { unvaried, VARIED, varier } from './variation';

const turns = (turnDeg: [number, number], turnStepDeg: number) => {
  const draws = varier(variationSchema.parse({ turnDeg, turnStepDeg }), 2, [])!;
  const out = unvaried();
  return Array.from({ length: 9000 }, (_, i) => {
    draws.vary(slotId(i + 1), -1, out);
    return out[VARIED.turnDeg];
  });
};

test('in steps: both ends are reached, and every step as often as the next', () => {
  const found = new Map<number, number>();
  for (const v of turns([-90, 90], 45)) found.set(v, (found.get(v) ?? 0) + 1);
  expect([...found.keys()].sort((a, b) => a - b)).toEqual([-90, -45, 0, 45, 90]);
  for (const n of found.values()) expect(Math.abs(n - 1800)).toBeLessThan(200);
});

test('a range with equal ends gives just that value', () => {
  expect(new Set(turns([3, 3], 0))).toEqual(new Set([3]));
});

test('steps too fine to tell apart are none: the values are those without steps', () => {
  for (const step of [5e-324, 1e-12]) expect(turns([-30, 30], step)).toEqual(turns([-30, 30], 0));
});
