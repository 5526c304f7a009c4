import fc from 'fast-check';
import type { Vec3 } from '../math/vec3';
import { points } from '../testing/paths';
import { compilePath } from './compile';
import { polyline } from './sample';

/** Points for drawing. */

const drawn = (places: Vec3[], closed: boolean): Vec3[] => {
  const made = compilePath({ source: { kind: 'points', points: points('corner', places) }, closed } as never);
  if (!made.ok) throw new Error(made.problem);
  const { position: p } = polyline(made.path, 0.12);
  return Array.from({ length: p.length / 3 }, (_, i) => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]]);
};

test('no corner is left out, in whichever directions the sides before and after it run', () => {
  const square = fc.tuple(fc.integer({ min: 0, max: 6 }), fc.integer({ min: 0, max: 6 }));
  fc.assert(
    fc.property(fc.array(square, { minLength: 3, maxLength: 12 }), fc.boolean(), (cells, closed) => {
      const places = cells
        .filter(([x, z], i) => i === 0 || x !== cells[i - 1][0] || z !== cells[i - 1][1])
        .map(([x, z]): Vec3 => [x * 0.2, 0, z * 0.2]);
      fc.pre(places.length > 2 && places[0].join() !== places.at(-1)!.join());
      const kept = drawn(places, closed);
      places.forEach((q, i) => {
        const [p, r] = [places[i - 1] ?? (closed && places.at(-1)), places[i + 1] ?? (closed && places[0])];
        if (!p || !r) return;
        const turns = (q[0] - p[0]) * (r[2] - q[2]) - (q[2] - p[2]) * (r[0] - q[0]);
        if (Math.abs(turns) < 1e-9) return;
        const away = Math.min(...kept.map((k) => Math.hypot(k[0] - q[0], k[2] - q[2])));
        expect(away).toBeLessThan(1e-6);
      });
    }),
  );
});
