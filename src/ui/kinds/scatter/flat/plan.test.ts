import { allocatePlacements, STATE } from '@/core/arrange/result';
import { WHOLE } from '../../../flat/look';
import { zoomed } from '../../../flat/look';
import { nudgeOf, planOf, rowAt, rowsIn } from './plan';

const p = allocatePlacements(3, []);
p.position.set([-2, 1, -1, 2, 3, 1, 0, 2, 0]);
p.state[2] = STATE.hand;
const SIZE = { width: 448, height: 148 };

test('all places are in the view, at one scale, with air about them; from the front up is up', () => {
  const above = planOf(p, 'above', SIZE, WHOLE);
  // 100 pixels for two metres leave 24 on either side.
  expect(above.k).toBeCloseTo(50, 9);
  expect([0, 1, 2].map((i) => [above.x(p.position, i), above.y(p.position, i)])).toEqual([
    [124, 24],
    [324, 124],
    [224, 74],
  ]);
  const front = planOf(p, 'front', SIZE, WHOLE);
  expect(front.y(p.position, 1)).toBeLessThan(front.y(p.position, 0));
  const side = planOf(p, 'side', SIZE, WHOLE);
  expect(side.x(p.position, 0)).toBeLessThan(side.x(p.position, 1));
});

test('the nearest within a reach is met; a box takes what is in it', () => {
  const plan = planOf(p, 'above', SIZE, WHOLE);
  expect(rowAt(p, plan, 226, 76, 10)).toBe(2);
  expect(rowAt(p, plan, 180, 74, 10)).toBe(-1);
  expect(rowsIn(p, plan, [330, 130, 200, 60])).toEqual([1, 2]);
});

test('what is under the pointer stays there when it is zoomed', () => {
  const look = zoomed(zoomed(WHOLE, 2, 50, -20), 1.5, 50, -20);
  const [before, after] = [planOf(p, 'above', SIZE, WHOLE), planOf(p, 'above', SIZE, look)];
  expect(after.k / before.k).toBeCloseTo(3, 9);
  // 50 pixels to the right of the middle is a metre there.
  const at = Float64Array.of(1, 0, -0.4);
  expect([before.x(at, 0), before.y(at, 0)]).toEqual([274, 54]);
  expect(after.x(at, 0)).toBeCloseTo(274, 9);
  expect(after.y(at, 0)).toBeCloseTo(54, 9);
  expect(zoomed(look, 1e-3, 0, 0)).toEqual(WHOLE);
});

test('a drag to the right is a step to the left of what faces the viewer, one down a step ahead', () => {
  expect(nudgeOf(50, 25, 50)).toEqual({ along: 0.5, side: -1 });
});
