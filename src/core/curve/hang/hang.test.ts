import fc from 'fast-check';
import { distance, dot, normalize, sub, type Vec3 } from '../../math/vec3';
import { compileStrokes } from '../compile';
import { samplePath } from '../sample';
import { downIn } from './wind';
import { hungBetween } from './hang';
import { hangSchema, windSchema } from './schema';

const compiled = (made: ReturnType<typeof hungBetween>) => {
  const result = compileStrokes([{ points: made.points, closed: false, firstPoint: 0 }]);
  if (!result.ok) throw new Error(result.problem);
  return result.path;
};
const place = fc.tuple(
  ...[0, 1, 2].map(() => fc.double({ min: -20, max: 20, noNaN: true })),
) as fc.Arbitrary<Vec3>;
const unit = place.filter((v) => Math.hypot(...v) > 0.1).map((v) => normalize(v));

test('a line is as long as it is asked to be, sagging in any wind or stiff in any direction, and ends on its ends', () => {
  fc.assert(
    fc.property(
      place,
      place,
      unit,
      unit,
      unit,
      fc.double({ min: 0.001, max: 3, noNaN: true }),
      (from, to, down, a, b, slack) => {
        const straight = distance(from, to);
        fc.pre(straight > 0.01);
        for (const how of ['sag', 'stiff'] as const) {
          const hang = hangSchema.parse({ how, slack });
          const made = hungBetween({ from, to, leaves: [a, b] }, hang, down);
          expect(made.points[0].position).toEqual(from);
          expect(made.points.at(-1)!.position).toEqual(to);
          const path = compiled(made);
          expect(Math.abs(path.length / (straight * (1 + slack)) - 1)).toBeLessThan(1e-9);
        }
      },
    ),
    { numRuns: 60 },
  );
});

test('what sags lies in the plane of its ends and of which way it hangs, deepest as it is asked to be', () => {
  const [from, to]: [Vec3, Vec3] = [
    [1, 5, 2],
    [7, 6, -1],
  ];
  const wind = windSchema.parse({ strength: 1, gusts: 0, compassDeg: 90 });
  const down = downIn(wind, from, 3);
  // Push and weight alike: half way to level, to the east.
  expect(down[0]).toBeCloseTo(Math.SQRT1_2, 12);
  expect(down[1]).toBeCloseTo(-Math.SQRT1_2, 12);
  const path = compiled(hungBetween({ from, to }, hangSchema.parse({ by: 'sag', sag: 1.3 }), down));
  const { position } = samplePath(
    path,
    Array.from({ length: 2001 }, (_, i) => (path.length * i) / 2000),
  );
  const way = normalize(sub(to, from));
  const square = normalize([
    way[1] * down[2] - way[2] * down[1],
    way[2] * down[0] - way[0] * down[2],
    way[0] * down[1] - way[1] * down[0],
  ]);
  let deepest = 0;
  for (let i = 0; i <= 2000; i++) {
    const p = sub([...position.subarray(i * 3, i * 3 + 3)] as Vec3, from);
    expect(Math.abs(dot(p, square))).toBeLessThan(1e-9);
    // Along which it hangs, below the line between the ends.
    const k = (dot(p, way) - dot(p, down) * dot(way, down)) / (1 - dot(way, down) ** 2);
    deepest = Math.max(deepest, dot(p, down) - k * dot(way, down));
  }
  expect(deepest).toBeCloseTo(1.3, 5);
});

test('gusts come and go with time, the same for the same seed, and nearly together for neighbours', () => {
  const wind = windSchema.parse({ strength: 0.5, gusts: 1 });
  const at = (x: number, t: number, seed = 1) => downIn({ ...wind, seed }, [x, 2, 0], t)[0];
  const over = Array.from({ length: 200 }, (_, i) => at(0, i / 5));
  expect(Math.max(...over) - Math.min(...over)).toBeGreaterThan(0.3);
  expect(over.every((v, i) => v === at(0, i / 5))).toBe(true);
  expect(over.some((v, i) => v !== at(0, i / 5, 2))).toBe(true);
  over.forEach((v, i) => expect(Math.abs(v - at(0.5, i / 5))).toBeLessThan(0.15));
  over.slice(1).forEach((v, i) => expect(Math.abs(v - over[i])).toBeLessThan(0.15));
});

test('a stiff line leaves its ends the way that they point; one that is to be shorter than the way is straight, and says so', () => {
  const ends = {
    from: [0, 0, 0] as Vec3,
    to: [4, 0, 0] as Vec3,
    leaves: [
      [0, 1, 0],
      [0, 1, 0],
    ] as [Vec3, Vec3],
  };
  const path = compiled(hungBetween(ends, hangSchema.parse({ how: 'stiff', by: 'length', length: 9 })));
  const { tangent } = samplePath(path, [0, path.length]);
  expect([...tangent.subarray(0, 3)]).toEqual([0, 1, 0]);
  expect(tangent[4]).toBeCloseTo(-1, 12);
  const short = hungBetween(ends, hangSchema.parse({ by: 'length', length: 3 }));
  expect(short.short).toBe(true);
  expect(compiled(short).length).toBeCloseTo(4, 12);
  expect(compiled(hungBetween(ends, hangSchema.parse({ how: 'taut' }))).length).toBeCloseTo(4, 12);
});
