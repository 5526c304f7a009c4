import { compilePath } from '../../curve/compile';
import type { CompiledPath } from '../../curve/compile';
import type { Vec3 } from '../../math/vec3';
import { drained } from '../../testing/bodies';
import { points } from '../../testing/paths';
import { solidFacts } from '../solid/facts';
import { joining } from '../solid/joining';
import { kernel, loadKernel } from '../solid/kernel';
import { meetings } from './joints';
import { networkOf } from './network';
import { networkSchema } from './networkSchema';

beforeAll(loadKernel);

const line = (...places: Vec3[]): CompiledPath => {
  const made = compilePath({
    source: { kind: 'points', points: points('corner', places) },
    closed: false,
  } as never);
  if (!made.ok) throw new Error(made.problem);
  return made.path;
};
const spec = (settings: object) =>
  networkSchema.parse({ source: 'network', radius: 0.1, joint: 0, reach: 0, sides: 48, ...settings });
function volume(strokes: CompiledPath[], settings: object): { volume: number; closed: boolean } {
  const { parts } = networkOf(strokes, spec(settings));
  const { mesh, refused } = drained(
    joining(kernel()!, [{ how: 'join', node: 'n', mend: 'none', grain: 0.05, parts }]),
  );
  expect(refused).toEqual([]);
  const { volume: v, closed } = solidFacts(mesh);
  return { volume: v!, closed };
}

test('two lines that cross: both tubes with round ends, less what they share (the bicylinder of Archimedes)', () => {
  const r = 0.1;
  const { volume: v, closed } = volume([line([-1, 0, 0], [1, 0, 0]), line([0, 0, -1], [0, 0, 1])], {});
  expect(closed).toBe(true);
  const wanted = 2 * (Math.PI * r * r * 2 + (4 / 3) * Math.PI * r ** 3) - (16 / 3) * r ** 3;
  // Facets of 48 sides lie within: by a third of a percent.
  expect(v / wanted).toBeGreaterThan(0.992);
  expect(v / wanted).toBeLessThan(1);
});

test('a joint is rounded by a ball; lines that nearly meet are joined within the reach, and else told of', () => {
  const [a, b] = [line([-1, 0, 0], [1, 0, 0]), line([0, 0.25, -1], [0, 0.25, 1])];
  const apart = networkOf([a, b], spec({ reach: 0.02 }));
  expect(apart.joints).toEqual([]);
  expect(apart.misses).toHaveLength(1);
  expect(apart.misses[0].distance).toBeCloseTo(0.25, 9);
  const joined = networkOf([a, b], spec({ reach: 0.06 }));
  expect([joined.joints.length, joined.misses.length]).toEqual([1, 0]);
  const two = volume([a, b], { reach: 0.02 });
  const one = volume([a, b], { reach: 0.06 });
  // The link between them: as long as they are apart, less what lies in the tubes.
  expect(one.volume - two.volume).toBeGreaterThan(Math.PI * 0.01 * 0.05);
  expect(one.volume - two.volume).toBeLessThan(Math.PI * 0.01 * 0.25);
  const ball = volume([a, b], { reach: 0.06, joint: 0.3 });
  expect(ball.closed).toBe(true);
  expect(ball.volume).toBeGreaterThan(one.volume);
  expect(ball.volume).toBeLessThan(one.volume + (4 / 3) * Math.PI * 0.027);
});

test('corners and rings stay closed; a bent line holds what a straight one does, and its knee', () => {
  const r = 0.1;
  const bent = volume([line([0, 0, 0], [1, 0, 0], [1, 1, 0])], {});
  expect(bent.closed).toBe(true);
  const straight = Math.PI * r * r * 2 + (4 / 3) * Math.PI * r ** 3;
  // At the knee the halves of two tubes overlap in half a bicylinder, and a ball's quarter rounds it.
  expect(bent.volume / straight).toBeGreaterThan(0.96);
  expect(bent.volume / straight).toBeLessThan(1);
  const ring = compilePath({
    source: {
      kind: 'points',
      points: points('smooth', [
        [1, 0, 0],
        [0, 0, 1],
        [-1, 0, 0],
        [0, 0, -1],
      ]),
    },
    closed: true,
  } as never);
  if (!ring.ok) throw new Error(ring.problem);
  const closed = volume([ring.path], {});
  expect(closed.closed).toBe(true);
  expect(closed.volume / (Math.PI * r * r * ring.path.length)).toBeCloseTo(1, 1);
});

test('meetings are the nearest places, by brute force', () => {
  const wave = (z: number): Vec3[] =>
    Array.from({ length: 60 }, (_, i) => [i * 0.1, Math.sin(i * 0.4 + z), z + 0.3 * Math.cos(i * 0.7)]);
  const [a, b] = [wave(0), wave(0.9)];
  const found = meetings([a, b], 0.8, 0.5);
  expect(found.length).toBeGreaterThan(2);
  const dense = (p: Vec3[]) =>
    p
      .slice(1)
      .flatMap((q, i) =>
        Array.from({ length: 40 }, (_, k) => q.map((v, c) => p[i][c] + ((v - p[i][c]) * k) / 40)),
      );
  const least = dense(a).reduce(
    (most, p) =>
      dense(b).reduce((m, q) => Math.min(m, Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])), most),
    Infinity,
  );
  expect(found[0].distance).toBeLessThanOrEqual(least + 1e-12);
  expect(found[0].distance).toBeGreaterThan(least - 0.01);
});
