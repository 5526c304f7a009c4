import fc from 'fast-check';
import { alongAxis, metresPerPixel, nearestOnScreen, onPlane, rayAt, toScreen } from './project';
import { freeView, topView } from './testing/view';

const metre = fc.double({ min: -4, max: 4, noNaN: true });
const view = freeView([9, 6.5, 13], [0, 0.5, 0]);

test('the pinhole’s closed form: the middle is the target, and what is twice as far is half as large', () => {
  const straight = freeView([0, 0, 10], [0, 0, 0]);
  const half = Math.tan((38 * Math.PI) / 360);
  expect(toScreen(straight, [0, 0, 0])).toMatchObject({ x: 400, y: 250, ahead: true });
  // One metre up at 10 m: its share of the half height of the view.
  expect(toScreen(straight, [0, 1, 0]).y).toBeCloseTo(250 - 250 / (10 * half), 9);
  expect(toScreen(straight, [0, 1, -10]).y).toBeCloseTo(250 - 250 / (20 * half), 9);
  expect(toScreen(straight, [1, 0, 0]).x).toBeCloseTo(400 + 250 / (10 * half), 9);
  expect(toScreen(straight, [0, 0, 12]).ahead).toBe(false);
  expect(metresPerPixel(straight, [0, 0, 0])).toBeCloseTo((2 * 10 * half) / 500, 9);
});

test('from above every metre is fifty pixels', () => {
  expect(toScreen(topView(), [1, 3, -2])).toMatchObject({
    x: expect.closeTo(450, 9),
    y: expect.closeTo(150, 9),
  });
  expect(metresPerPixel(topView(), [1, 3, -2])).toBeCloseTo(0.02, 12);
});

test('a place is on the ray through its own pixel, and on the plane through it', () => {
  fc.assert(
    fc.property(metre, metre, metre, (x, y, z) => {
      const p = toScreen(view, [x, y, z]);
      const { origin, direction } = rayAt(view, p.x, p.y).ray;
      const along =
        direction.x * (x - origin.x) + direction.y * (y - origin.y) + direction.z * (z - origin.z);
      const away = Math.hypot(
        origin.x + direction.x * along - x,
        origin.y + direction.y * along - y,
        origin.z + direction.z * along - z,
      );
      expect(away).toBeLessThan(1e-9);
      const hit = onPlane(view, p.x, p.y, [0, 1, 0], [0, y, 0]);
      // A plane seen edge-on is met nowhere in particular.
      if (Math.abs(y - 6.5) > 0.1) {
        expect(hit![0]).toBeCloseTo(x, 6);
        expect(hit![2]).toBeCloseTo(z, 6);
      }
    }),
  );
});

test('along an axis the pixel of a place on it gives that place', () => {
  const start: [number, number, number] = [1, 0.5, -2];
  for (const axis of [
    [1, 0, 0],
    [0, 1, 0],
    [0, 0, 1],
  ] as [number, number, number][]) {
    for (const t of [-1.5, 0, 0.25, 2]) {
      const p = toScreen(
        view,
        start.map((v, k) => v + axis[k] * t),
      );
      expect(alongAxis(view, p.x, p.y, start, axis)).toBeCloseTo(t, 9);
    }
  }
  // Straight along the axis there is no telling.
  expect(alongAxis(topView(), 400, 250, [0, 0, 0], [0, 1, 0])).toBeNull();
});

test('the nearest place of a polyline is that of a dense look at it', () => {
  const n = 40;
  const position = Array.from({ length: n + 1 }, (_, i) => [
    Math.cos(i / 6) * 3,
    0.1 * i,
    Math.sin(i / 6) * 3,
  ]).flat();
  const s = Array.from({ length: n + 1 }, (_, i) => i);
  fc.assert(
    fc.property(
      fc.double({ min: 0, max: 800, noNaN: true }),
      fc.double({ min: 0, max: 500, noNaN: true }),
      (x, y) => {
        const found = nearestOnScreen(view, { position, s }, x, y);
        let least = Infinity;
        for (let i = 0; i < n; i++) {
          const [a, b] = [i, i + 1].map((k) => toScreen(view, position.slice(k * 3, k * 3 + 3)));
          for (let u = 0; u <= 1; u += 0.01)
            least = Math.min(least, Math.hypot(a.x + (b.x - a.x) * u - x, a.y + (b.y - a.y) * u - y));
        }
        expect(found.pixels).toBeLessThanOrEqual(least + 1e-9);
        expect(found.pixels).toBeGreaterThan(least - 1);
      },
    ),
  );
});
