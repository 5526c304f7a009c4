import { compilePath, compileStrokes, splitStrokes, type CompiledPath } from './compile';
import { mergeStrokes, reversePoints } from './edit';
import { metricsOf } from './metrics';
import { nearestOnPath } from './nearest';
import { movedPoint, planeNormal, resample, simplify, subdivide } from './reshape';
import { pointAt, samplePath } from './sample';
import { joinEnds, splitAtPoint, weldEnds } from './strokes';
import { circlePoints, compiled, points } from '../testing/paths';
import type { PathPoint } from './schema';
import { distance, type Vec3 } from '../math/vec3';

const again = (pts: PathPoint[], closed: boolean): CompiledPath => {
  const r = compileStrokes([{ points: pts, closed, firstPoint: 0 }]);
  if (!r.ok) throw new Error(r.problem);
  return r.path;
};
const farthest = (a: CompiledPath, b: CompiledPath) => {
  const { position } = samplePath(
    a,
    Array.from({ length: 400 }, (_, i) => (a.length * i) / 399),
  );
  let worst = 0;
  for (let i = 0; i < 400; i++) {
    worst = Math.max(
      worst,
      nearestOnPath(b, [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]]).distance,
    );
  }
  return worst;
};
const wavy = compiled(
  points('smooth', [
    [0, 0, 0],
    [2, 1, 3],
    [5, 0, -2],
    [9, 0.5, 1],
    [12, 0, 0],
  ]),
);
const angular = compiled(
  points('corner', [
    [0, 0, 0],
    [4, 0, 0],
    [4, 0, 3],
    [8, 0, 3],
  ]),
);

test('subdividing keeps the curve exactly', () => {
  for (const path of [wavy, angular, compiled(circlePoints(3, 8), true)]) {
    const more = again(subdivide(path), path.closed);
    expect(more.segmentCount).toBe(path.segmentCount * 2);
    expect(Math.abs(more.length - path.length)).toBeLessThan(1e-12 * path.length);
    expect(farthest(path, more)).toBeLessThan(1e-9);
  }
  expect(subdivide(angular).every((p) => p.kind === 'corner')).toBe(true);
});

test('simplifying thousands of points stays within the tolerance, keeps corners and ends', () => {
  const dense = again(resample(wavy, 0.005), false);
  expect(dense.pointS.length).toBeGreaterThan(2000);
  for (const tolerance of [0.1, 0.01, 0.001]) {
    const few = simplify(dense, tolerance);
    expect(few.length).toBeLessThan(40);
    const path = again(few, false);
    expect(farthest(dense, path)).toBeLessThan(tolerance * 1.05);
    expect(distance(pointAt(path, 0), [0, 0, 0])).toBeLessThan(1e-6);
  }
  const cornered = simplify(again(subdivide(again(subdivide(angular), false)), false), 0.01);
  expect(cornered.map((p) => p.kind)).toEqual(['corner', 'corner', 'corner', 'corner']);
  const loop = compiled(circlePoints(3, 64), true);
  const few = simplify(loop, 0.01);
  expect(few.length).toBeLessThan(12);
  expect(farthest(loop, again(few, true))).toBeLessThan(0.0105);
});

test('resampling lays points evenly, each side between corners for itself', () => {
  const even = again(resample(angular, 0.5), false);
  expect([...even.pointS].map((s) => s % 0.5).every((r) => r < 1e-9 || r > 0.5 - 1e-9)).toBe(true);
  expect(even.corners).toHaveLength(2);
  const ring = resample(compiled(circlePoints(3, 16), true), 1);
  expect(ring).toHaveLength(Math.round(6 * Math.PI));
  for (const p of ring) expect(Math.hypot(p.position[0], p.position[2])).toBeCloseTo(3, 5);
});

test('turns and tightest radius against closed forms', () => {
  const circle = metricsOf(compiled(circlePoints(2, 32), true));
  expect(circle.turns).toBeCloseTo(1, 6);
  expect(circle.tightest).toBeCloseTo(2, 3);
  const m = metricsOf(angular);
  expect(m.turns).toBeCloseTo(0.5, 9);
  expect(m.tightest).toBe(0);
  expect(m.tightestS).toBeCloseTo(4, 9);
  expect(
    metricsOf(
      compiled(
        points('corner', [
          [0, 0, 0],
          [1, 0, 0],
        ]),
      ),
    ).tightest,
  ).toBe(Infinity);
  const filleted = metricsOf(
    compiled(
      points(
        'corner',
        [
          [0, 0, 0],
          [9, 0, 0],
          [9, 0, 9],
        ],
        { fillet: 2 },
      ),
    ),
  );
  // A cubic arc's own curvature swings by half a thousandth.
  expect(filleted.tightest).toBeCloseTo(2, 2);
});

describe('strokes', () => {
  const a = points('corner', [
    [0, 0, 0],
    [1, 0, 0],
    [2, 0, 0],
  ]);
  const b = points('corner', [
    [5, 0, 0],
    [4, 0, 0],
    [3, 0, 0],
  ]).map((p) => ({ ...p, id: `b${p.id}` }));

  test('several strokes compile side by side, with points of one list', () => {
    const r = compilePath({ source: { kind: 'points', points: mergeStrokes([a, b]) }, closed: false });
    if (!r.ok) throw new Error(r.problem);
    expect(r.strokes.map((s) => s.length)).toEqual([2, 2].map((l) => expect.closeTo(l, 12)));
    expect([...r.strokes[1].segmentPoint]).toEqual([3, 4]);
    expect(splitStrokes(mergeStrokes([a, b]), false).map((s) => s.firstPoint)).toEqual([0, 3]);
  });

  test('splitting and joining give back what was there', () => {
    const cut = splitAtPoint(a, false, 'pt2', 'new');
    expect(cut.points.map((p) => [p.id, p.begins])).toEqual([
      ['pt1', false],
      ['pt2', false],
      ['new', true],
      ['pt3', false],
    ]);
    expect(splitAtPoint(a, false, 'pt1', 'new').points).toEqual(a);
    const [left, right] = splitStrokes(cut.points, false).map((s) => s.points);
    expect(weldEnds(mergeStrokes([left, right]), false, 1e-6).points.map((p) => p.position[0])).toEqual([
      0, 1, 2,
    ]);
    const loop = splitAtPoint(a, true, 'pt2', 'new');
    expect(loop.closed).toBe(false);
    expect(loop.points.map((p) => p.position[0])).toEqual([1, 2, 0, 1]);
    expect(weldEnds(loop.points, false, 1e-6)).toMatchObject({ closed: true });
  });

  test('ends are joined where they are nearest, whichever way the strokes run', () => {
    expect(joinEnds(a, b).map((p) => p.position[0])).toEqual([0, 1, 2, 3, 4, 5]);
    expect(joinEnds(b, a).map((p) => p.position[0])).toEqual([5, 4, 3, 2, 1, 0]);
    expect(joinEnds(reversePoints(a), b).map((p) => p.position[0])).toEqual([5, 4, 3, 2, 1, 0]);
  });

  test('reversing keeps every stretch in its zone', () => {
    const zoned = a.map((p, i) => ({ ...p, zone: i + 1 }));
    expect(reversePoints(zoned).map((p) => p.zone)).toEqual([2, 1, 1]);
    expect(reversePoints(reversePoints(zoned, true), true).map((p) => p.zone)).toEqual([1, 2, 3]);
  });
});

test('points are turned and sized about a place, handles with them', () => {
  const [p] = points('free', [[2, 0, 0]], { handleOut: [1, 0, 0] });
  const moved = movedPoint(p, {
    about: [1, 0, 0],
    turn: { axis: [0, 1, 0], angle: Math.PI / 2 },
    size: 3,
    move: [0, 5, 0],
  });
  expect(moved.position).toEqual([1, 5, -3].map((v) => expect.closeTo(v, 9)));
  expect(moved.handleOut).toEqual([0, 0, -3].map((v) => expect.closeTo(v, 9)));
});

test('the nearest plane of points on a tilted plane is that plane', () => {
  const n: Vec3 = [0.36, 0.8, 0.48];
  const on = (u: number, v: number): Vec3 => [u, (-n[0] * u - n[2] * v) / n[1], v];
  const got = planeNormal([on(0, 0), on(3, 1), on(-2, 4), on(1, -5), on(4, 4)]);
  got.forEach((v, i) => expect(v).toBeCloseTo(n[i], 9));
  expect(
    planeNormal([
      [0, 0, 0],
      [1, 2, 0],
      [2, 4, 0],
    ]),
  ).toEqual([0, 1, 0]);
});
