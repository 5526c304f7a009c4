import fc from 'fast-check';
import { Vector3 } from 'three';
import { eachNear, mayBeNear, pickFrustum } from './near';
import { nearestOnScreen, toScreen } from './project';
import { freeView, topView } from './testing/view';

const metre = fc.double({ min: -4, max: 4, noNaN: true });
const pixel = fc.tuple(fc.integer({ min: 0, max: 800 }), fc.integer({ min: 0, max: 500 }));
const view = freeView([9, 6.5, 13], [0, 0.5, 0]);

test('a line that comes near a pixel is never passed over, and one that is far away mostly is', () => {
  let passed = 0;
  fc.assert(
    fc.property(
      fc.array(fc.tuple(metre, metre, metre), { minLength: 2, maxLength: 6 }),
      pixel,
      (places, [x, y]) => {
        const position = Float64Array.from(places.flat());
        const line = { position, s: Float64Array.from(places, (_, i) => i) };
        const near = mayBeNear(pickFrustum(view, x, y, 12), position);
        if (nearestOnScreen(view, line, x, y).pixels <= 12) expect(near).toBe(true);
        if (!near) passed++;
      },
    ),
    { numRuns: 500 },
  );
  expect(passed).toBeGreaterThan(50);
});

test('just the places in the square around a pixel are within its pyramid, with perspective and without', () => {
  // Some of them lie behind the eye.
  const far = fc.double({ min: -30, max: 30, noNaN: true });
  for (const seen of [view, topView()])
    fc.assert(
      fc.property(far, far, far, pixel, fc.integer({ min: 5, max: 300 }), (px, py, pz, [x, y], pixels) => {
        const within = pickFrustum(seen, x, y, pixels);
        const p = toScreen(seen, [px, py, pz]);
        const off = Math.max(Math.abs(p.x - x), Math.abs(p.y - y)) - pixels;
        fc.pre(Math.abs(off) > 1e-6);
        expect(within.containsPoint(new Vector3(px, py, pz))).toBe(p.ahead && off < 0);
      }),
    );
});

test('of ten thousand places over the ground every one near the pixel is visited, and few others', () => {
  const places = Float32Array.from({ length: 3 * 10_000 }, (_, i) => {
    const n = Math.floor(i / 3);
    return [(n % 100) / 10 - 5, 0, Math.floor(n / 100) / 10 - 5][i % 3];
  });
  const near = (i: number) => {
    const p = toScreen(view, places.subarray(i * 3, i * 3 + 3) as unknown as number[]);
    return p.ahead && Math.abs(p.x - 390) <= 11 && Math.abs(p.y - 300) <= 11;
  };
  const visited: number[] = [];
  eachNear(pickFrustum(view, 390, 300, 11), places, (i) => visited.push(i));
  const all = Array.from({ length: 10_000 }, (_, i) => i).filter(near);
  expect(all.length).toBeGreaterThan(20);
  expect(visited).toEqual(expect.arrayContaining(all));
  expect(visited.length).toBeLessThan(3000);
});
