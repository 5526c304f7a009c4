import fc from 'fast-check';
import { compilePath, type CompiledPath } from '../../curve/compile';
import type { Vec3 } from '../../math/vec3';
import { exactlyClosed } from '../../testing/bodies';
import { points } from '../../testing/paths';
import { solidFacts } from '../solid/facts';
import { makeMesh } from '.';
import { flatFaces } from './flatFaces';
import { shapeSchema } from './schema';

const line = (places: Vec3[], closed = false): CompiledPath => {
  const made = compilePath({ source: { kind: 'points', points: points('corner', places) }, closed } as never);
  if (!made.ok) throw new Error(made.problem);
  return made.path;
};
const body = (settings: object, ...paths: CompiledPath[]) => {
  const named = new Map(paths.map((p, i) => [`p${i}`, p]));
  const ids =
    'shape' in settings && settings.shape === 'loft' ? { paths: [...named.keys()] } : { path: 'p0' };
  const mesh = makeMesh(shapeSchema.parse({ ...settings, ...ids, ends: true }), '#D8CDB6', {
    path: (id) => named.get(id),
  });
  if (typeof mesh === 'string') throw new Error(mesh);
  return { ...solidFacts(mesh), exact: exactlyClosed(mesh) };
};

test('a ring is filled with faces that use all of its places, counterclockwise, and hold its area', () => {
  fc.assert(
    fc.property(
      fc.array(fc.tuple(fc.double({ min: 0.2, max: 2, noNaN: true }), fc.integer({ min: 0, max: 4 })), {
        minLength: 3,
        maxLength: 12,
      }),
      (spikes) => {
        const corner = (i: number) => {
          const a = (2 * Math.PI * i) / spikes.length;
          return [spikes[i % spikes.length][0] * Math.cos(a), spikes[i % spikes.length][0] * Math.sin(a)];
        };
        // Places along each side, as many as drawn: earcut has no use for them.
        const ring = spikes.flatMap(([, more], i) => {
          const [p, q] = [corner(i), corner(i + 1)];
          return Array.from({ length: more + 1 }, (_, k): [number, number] => [
            p[0] + ((q[0] - p[0]) * k) / (more + 1),
            p[1] + ((q[1] - p[1]) * k) / (more + 1),
          ]);
        });
        const shoelace = ring.reduce((sum, [x, y], i) => {
          const [u, w] = ring[(i + 1) % ring.length];
          return sum + x * w - u * y;
        }, 0);
        const faces = flatFaces(ring);
        const sides = new Map<string, number>();
        let area = 0;
        for (let f = 0; f < faces.length; f += 3) {
          const c = [0, 1, 2].map((k) => faces[f + k]);
          c.forEach((v, k) =>
            sides.set(`${v} ${c[(k + 1) % 3]}`, (sides.get(`${v} ${c[(k + 1) % 3]}`) ?? 0) + 1),
          );
          const [a, b, d] = c.map((v) => ring[v]);
          area += (b[0] - a[0]) * (d[1] - a[1]) - (b[1] - a[1]) * (d[0] - a[0]);
        }
        const once = [...sides.values()].every((n) => n === 1);
        const bordered = ring.every((_, i) => sides.has(`${i} ${(i + 1) % ring.length}`));
        const inner = [...sides.keys()].filter((s) => !sides.has(s.split(' ').reverse().join(' ')));
        expect([once, bordered, inner.length]).toEqual([true, true, ring.length]);
        expect(area).toBeCloseTo(shoelace, 9);
      },
    ),
    { numRuns: 300 },
  );
});

// 48 sides hold this much of what a circle does.
const round = (columns: number) => (columns / (2 * Math.PI)) * Math.sin((2 * Math.PI) / columns);

test.each([360, 90, 200])(
  'a profile turned by %d degrees is a body: a frustum’s share, whichever way it is drawn',
  (sweepDeg) => {
    const profile: Vec3[] = [
      [1, 0, 0],
      [0.5, 1.2, 0],
    ];
    const whole = (Math.PI * 1.2 * (1 + 0.5 + 0.25)) / 3;
    const columns = 48;
    const share = (sweepDeg / 360) * round((columns * 360) / sweepDeg);
    for (const drawn of [profile, [...profile].reverse()]) {
      const { closed, volume, exact } = body({ shape: 'turned', sweepDeg, columns, rows: 7 }, line(drawn));
      expect([closed, exact]).toEqual([true, true]);
      expect(volume! / (whole * share)).toBeCloseTo(1, 5);
    }
  },
);

test('a closed profile turned halfway is half a ring (Pappus); one that begins on the axis has no lid there', () => {
  const square = line(
    [
      [1, 0, 0],
      [1.4, 0, 0],
      [1.4, 0.4, 0],
      [1, 0.4, 0],
    ],
    true,
  );
  const ring = body({ shape: 'turned', sweepDeg: 180, columns: 64, rows: 16 }, square);
  expect([ring.closed, ring.exact]).toEqual([true, true]);
  expect(ring.volume! / (0.16 * Math.PI * 1.2 * round(128))).toBeCloseTo(1, 5);
  const cone = body(
    { shape: 'turned', columns: 48, rows: 4 },
    line([
      [0, 1, 0],
      [1, 0, 0],
    ]),
  );
  expect(cone.closed).toBe(true);
  expect(cone.volume! / ((Math.PI / 3) * round(48))).toBeCloseTo(1, 5);
});

test('a loft through closed paths is a body: a pyramid’s stump; through open ones it stays open', () => {
  const square = (y: number, r: number): CompiledPath =>
    line(
      [
        [-r, y, -r],
        [r, y, -r],
        [r, y, r],
        [-r, y, r],
      ],
      true,
    );
  const stump = body({ shape: 'loft', smooth: false, columns: 40, rows: 6 }, square(0, 1), square(2, 0.5));
  expect([stump.closed, stump.exact]).toEqual([true, true]);
  expect(stump.volume).toBeCloseTo((2 / 3) * (4 + 2 + 1), 5);
  const open = body(
    { shape: 'loft', columns: 4, rows: 4 },
    line([
      [0, 0, 0],
      [1, 0, 0],
    ]),
    line([
      [0, 1, 0],
      [1, 1, 0],
    ]),
  );
  expect(open.closed).toBe(false);
});
