import { compilePath, type CompiledPath } from '../../curve/compile';
import type { Vec3 } from '../../math/vec3';
import { exactlyClosed } from '../../testing/bodies';
import { points } from '../../testing/paths';
import { solidFacts } from '../solid/facts';
import { makeMesh } from '.';
import { outlineArea, PLAIN_PROFILES, plainProfile } from './profiles';
import { shapeSchema } from './schema';

const line = (places: Vec3[], kind: 'corner' | 'smooth' = 'corner', closed = false): CompiledPath => {
  const made = compilePath({ source: { kind: 'points', points: points(kind, places) }, closed } as never);
  if (!made.ok) throw new Error(made.problem);
  return made.path;
};
function swept(settings: object, paths: Record<string, CompiledPath>) {
  const shape = shapeSchema.parse({ shape: 'swept', path: 'p', rows: 40, ...settings });
  const mesh = makeMesh(shape, '#D8CDB6', { path: (id) => paths[id] });
  if (typeof mesh === 'string') throw new Error(mesh);
  return mesh;
}
const straight = line([
  [0, 0, 0],
  [0, 0, 2],
]);

test.each(PLAIN_PROFILES)(
  '%s along a straight path is closed and holds its area times the length',
  (plain) => {
    const mesh = swept({ plain, width: 0.4, height: 0.6 }, { p: straight });
    expect(exactlyClosed(mesh)).toBe(true);
    const { closed, volume } = solidFacts(mesh);
    expect(closed).toBe(true);
    expect(volume! / (outlineArea(plainProfile(plain)) * 0.4 * 0.6 * 2)).toBeCloseTo(1, 5);
  },
);

test('it shrinks to its end as a frustum does, and a twist leaves what it holds nearly as it was', () => {
  const cone = solidFacts(swept({ plain: 'square', width: 1, height: 1, endFactor: 0.5 }, { p: straight }));
  expect(cone.volume).toBeCloseTo((2 / 3) * (1 + 0.5 + 0.25), 5);
  const twisted = solidFacts(
    swept({ plain: 'square', width: 1, height: 1, twistDeg: 180, rows: 400 }, { p: straight }),
  );
  expect(twisted.closed).toBe(true);
  expect(Math.abs(twisted.volume! / 2 - 1)).toBeLessThan(0.005);
});

test('round a loop it is closed without ends, and holds area times length (Pappus)', () => {
  const ring = line(
    Array.from({ length: 12 }, (_, i): Vec3 => [
      2 * Math.cos((i * Math.PI) / 6),
      0,
      2 * Math.sin((i * Math.PI) / 6),
    ]),
    'smooth',
    true,
  );
  for (const twistDeg of [0, 360, 200]) {
    const mesh = swept({ plain: 'square', width: 0.2, height: 0.2, rows: 400, twistDeg }, { p: ring });
    expect(exactlyClosed(mesh)).toBe(true);
    expect(Math.abs(solidFacts(mesh).volume! / (0.04 * ring.length) - 1)).toBeLessThan(0.01);
  }
});

test('a drawn profile is swept as large as it is, whichever plane it is drawn in and whichever way round', () => {
  // An L of 3 squares of 0.2 m, upright and on the ground.
  const l: [number, number][] = [
    [0, 0],
    [0.4, 0],
    [0.4, 0.2],
    [0.2, 0.2],
    [0.2, 0.4],
    [0, 0.4],
  ];
  for (const at of [
    (x: number, y: number): Vec3 => [x, y + 5, 7],
    (x: number, y: number): Vec3 => [x - 3, 0, y],
    (x: number, y: number): Vec3 => [9, y, x],
  ])
    for (const ring of [l, [...l].reverse()]) {
      const profile = line(
        ring.map(([x, y]) => at(x, y)),
        'corner',
        true,
      );
      const mesh = swept({ profile: 'q' }, { p: straight, q: profile });
      expect(exactlyClosed(mesh)).toBe(true);
      expect(solidFacts(mesh).volume).toBeCloseTo(0.12 * 2, 5);
    }
});

test('a profile that encloses nothing is refused, and one that would be of too many faces', () => {
  const make = (settings: object) =>
    makeMesh(shapeSchema.parse({ shape: 'swept', path: 'p', ...settings }), '#fff', {
      path: (id) => ({ p: straight, q: straight })[id],
      strokes: () => Array<CompiledPath>(80).fill(straight),
    });
  expect(make({ profile: 'q' })).toBe('surface-no-profile');
  expect(make({ plain: 'star', rows: 1000 })).toBe('surface-too-fine');
});

test('without ends it is open, and says so by its path when that is gone', () => {
  expect(solidFacts(swept({ ends: false }, { p: straight })).closed).toBe(false);
  expect(makeMesh(shapeSchema.parse({ shape: 'swept', path: 'x' }), '#fff', { path: () => undefined })).toBe(
    'surface-path-missing',
  );
});
