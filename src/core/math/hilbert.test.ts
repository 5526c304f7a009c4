import { orderByPlace } from './hilbert';

/** A grid of places, shuffled. */
const side = 16;
const places = Array.from({ length: side * side }, (_, i) => (i * 101) % (side * side)).map((i) => [
  i % side,
  0,
  Math.floor(i / side),
]);

test('every place comes once, and those that follow each other on a flat grid are neighbours', () => {
  const order = orderByPlace(places.flat(), places.length);
  expect([...order].sort((a, b) => a - b)).toEqual([...places.keys()]);
  const apart = (a: number, b: number) => Math.hypot(...places[a].map((v, k) => v - places[b][k]));
  const steps = Array.from(order.subarray(1), (to, k) => apart(order[k], to));
  // A curve through space runs over a plane of it in few longer steps.
  expect(steps.reduce((a, b) => a + b) / steps.length).toBeLessThan(1.6);
  expect(Math.max(...steps)).toBeLessThan(side / 2);
});

test('places may stand among other numbers; those of one cell stay in their order; one place, and none, too', () => {
  const among = places.flatMap((p) => [9, ...p, 9]);
  expect(orderByPlace(among, places.length, 1, 5)).toEqual(orderByPlace(places.flat(), places.length));
  expect([...orderByPlace([1, 2, 3, 1, 2, 3, 1, 2, 3], 3)]).toEqual([0, 1, 2]);
  expect([...orderByPlace([], 0)]).toEqual([]);
});
