import fc from 'fast-check';
import { circlePoints, compiled, points } from '../../testing/paths';
import { distance, type Vec3 } from '../../math/vec3';
import type { CompiledPath } from '../../curve/compile';
import { nearestOnPath } from '../../curve/nearest';
import { pointAt } from '../../curve/sample';
import { layTouching, type TouchItem, type TouchLayout, type TouchSettings } from './touch';
import { cases } from '../../testing/prove';

const even = (n: number): TouchItem => ({ back: 0.2 + (n % 3) * 0.05, front: 0.3 });
const settings = (path: CompiledPath, s: Partial<TouchSettings> = {}): TouchSettings => ({
  clearance: 0,
  leftover: 'end',
  start: 0,
  end: path.length,
  loop: path.closed,
  level: false,
  side: () => 0,
  sizeAt: () => 1,
  ...s,
});
const lay = (path: CompiledPath, s: Partial<TouchSettings> = {}, item: (n: number) => TouchItem = even) => {
  const made = layTouching(path, settings(path, s), item, 5000);
  if (typeof made === 'string') throw new Error(made);
  return made;
};
const vec = (a: Float64Array, i: number): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];
/** Back and front end of an item, from its foot and direction. */
const ends = (l: TouchLayout, i: number, item: (n: number) => TouchItem = even): [Vec3, Vec3] => {
  const [p, d, k] = [vec(l.position, i), vec(l.direction, i), l.size[i]];
  const at = (m: number): Vec3 => [p[0] + d[0] * m, p[1] + d[1] * m, p[2] + d[2] * m];
  return [at(-item(i).back * k), at(item(i).front * k)];
};

const straight = compiled(
  points('corner', [
    [0, 0, 0],
    [10, 0, 0],
  ]),
);
const bent = compiled(
  points('smooth', [
    [0, 0, 0],
    [4, 1, 3],
    [8, 0, -2],
    [12, 2, 0],
    [9, 0, 4],
  ]),
);
const closed = compiled(circlePoints(3, 16), true);
// A figure of eight.
const crossing = compiled(
  points('smooth', [
    [-4, 0, -2],
    [4, 0, 2],
    [4, 0, -2],
    [-4, 0, 2],
  ]),
  true,
);
const cornered = compiled(
  points('corner', [
    [0, 0, 0],
    [5, 0, 0],
    [5, 0, 5],
  ]),
);

test.each([
  ['straight', straight],
  ['bent', bent],
  ['closed', closed],
  ['self-crossing', crossing],
  ['cornered', cornered],
])('%s: backs and fronts lie on the path and neighbours meet, to 1e-6 of their length', (_, path) => {
  for (const leftover of ['end', 'even', 'centre'] as const) {
    const l = lay(path, { leftover });
    expect(l.count).toBeGreaterThan(10);
    for (let i = 0; i < l.count; i++) {
      const [back, front] = ends(l, i);
      expect(nearestOnPath(path, back).distance).toBeLessThan(5e-7);
      expect(nearestOnPath(path, front).distance).toBeLessThan(5e-7);
      if (i > 0) expect(distance(ends(l, i - 1)[1], back)).toBeLessThan(5e-7);
    }
    if (leftover === 'even') {
      const end = ends(l, l.count - 1)[1];
      expect(distance(end, path.closed ? ends(l, 0)[0] : pointAt(path, path.length))).toBeLessThan(5e-7);
      expect(Math.abs(Math.log(l.factor))).toBeLessThan(0.1);
    }
  }
});

test.each([
  ['bent', bent],
  ['self-crossing', crossing],
  ['cornered', cornered],
])('%s: each front is the first place as far from its back as the item is long', (_, path) => {
  const l = lay(path, {}, (n) => ({ back: 0.4, front: 0.5 + (n % 4) * 0.5 }));
  for (let i = 0; i < l.count; i++) {
    const from = pointAt(path, l.back[i]);
    const length = 0.9 + (i % 4) * 0.5;
    expect(distance(pointAt(path, l.front[i]), from)).toBeCloseTo(length, 10);
    // Every place in between, finely sampled, is nearer.
    let farthest = 0;
    for (let k = 1; k < 400; k++) {
      const s = l.back[i] + ((l.front[i] - l.back[i]) * k) / 400;
      farthest = Math.max(farthest, distance(pointAt(path, s), from));
    }
    expect(farthest).toBeLessThan(length);
  }
});

test('a ring of equal props is a regular polygon: the chord of the closed form', () => {
  const l = lay(closed, { leftover: 'even' }, () => ({ back: 0.25, front: 0.25 }));
  // The path is a circle to 1e-7; its inscribed polygon's side is 2 r sin(π / n).
  expect(0.5 * l.factor).toBeCloseTo(2 * 3 * Math.sin(Math.PI / l.count), 5);
});

test('clearance stands between neighbours, and round the seam too', () => {
  const l = lay(closed, { leftover: 'even', clearance: 0.1 });
  for (let i = 0; i < l.count; i++) {
    const next = (i + 1) % l.count;
    expect(distance(ends(l, i)[1], ends(l, next)[0])).toBeCloseTo(0.1 * l.factor, 6);
  }
  const open = lay(straight, { clearance: 0.25 }, () => ({ back: 0.5, front: 0.5 }));
  expect([...open.s]).toEqual([0.5, 1.75, 3, 4.25, 5.5, 6.75, 8, 9.25].map((v) => expect.closeTo(v, 9)));
  const over = lay(straight, { clearance: -0.2 }, () => ({ back: 0.5, front: 0.5 }));
  expect(over.s[1] - over.s[0]).toBeCloseTo(0.8, 9);
});

test('centre leaves as much at both ends', () => {
  const l = lay(straight, { leftover: 'centre' }, () => ({ back: 0.35, front: 0.35 }));
  expect(l.back[0]).toBeCloseTo(10 - l.front[l.count - 1], 7);
  expect(l.back[0]).toBeCloseTo(0.1, 7);
});

test('upright props on a slope keep their length as seen from above', () => {
  const slope = compiled(
    points('corner', [
      [0, 0, 0],
      [8, 6, 0],
    ]),
  );
  const l = lay(slope, { level: true }, () => ({ back: 0.5, front: 0.5 }));
  expect(l.count).toBe(8);
  for (let i = 0; i < 8; i++) expect(vec(l.position, i)[0]).toBeCloseTo(i + 0.5, 9);
});

test('what takes no room is skipped; rows beside a bend meet on their own line', () => {
  const l = lay(straight, {}, (n) =>
    n === 1 ? { back: 0, front: 0, skip: true } : { back: 0.5, front: 0.5 },
  );
  expect([...l.s.slice(0, 4)]).toEqual([0.5, 1, 1.5, 2.5].map((v) => expect.closeTo(v, 9)));
  const row = lay(closed, { leftover: 'even', side: () => 1 }, () => ({ back: 0.25, front: 0.25 }));
  for (let i = 0; i < row.count; i++) {
    const [back, front] = ends(row, i, () => ({ back: 0.25, front: 0.25 }));
    expect(Math.hypot(back[0], back[2])).toBeCloseTo(4, 5);
    expect(
      distance(front, ends(row, (i + 1) % row.count, () => ({ back: 0.25, front: 0.25 }))[0]),
    ).toBeLessThan(1e-6);
  }
});

test('a hairpin is noticed, nothing without length is laid', () => {
  const pin = compiled(
    points('corner', [
      [0, 0, 0],
      [5, 0, 0],
      [0, 0, 0.2],
    ]),
  );
  expect(lay(pin, {}, () => ({ back: 0.45, front: 0.45 })).hairpins.length).toBeGreaterThan(0);
  expect(layTouching(straight, settings(straight), () => ({ back: 0, front: 0 }), 100)).toBe(
    'length-not-positive',
  );
  expect(layTouching(straight, settings(straight), () => ({ back: 1e-4, front: 1e-4 }), 100)).toBe(
    'too-many-slots',
  );
});

test('any lengths on any path: neighbours meet', () => {
  const length = fc.double({ min: 0.05, max: 1.5, noNaN: true });
  const place = fc.double({ min: -6, max: 6, noNaN: true });
  fc.assert(
    fc.property(
      fc.array(fc.tuple(place, place, place), { minLength: 3, maxLength: 6 }),
      fc.array(length, { minLength: 1, maxLength: 5 }),
      fc.boolean(),
      (at, lengths, loop) => {
        let path: CompiledPath;
        try {
          path = compiled(points('smooth', at), loop);
        } catch {
          return;
        }
        const item = (n: number) => ({
          back: lengths[n % lengths.length] / 2,
          front: lengths[n % lengths.length] / 2,
        });
        const l = layTouching(path, settings(path), item, 5000);
        if (typeof l === 'string') return;
        const apart = Array.from(
          { length: Math.max(0, l.count - 1) },
          (_, i) =>
            distance(ends(l, i, item)[1], ends(l, i + 1, item)[0]) - 1e-6 * lengths[(i + 1) % lengths.length],
        );
        expect(Math.max(0, ...apart)).toBeLessThan(1e-9);
      },
    ),
    { numRuns: cases(5000) },
  );
});

test('evened out over a hairpin nothing overruns the path: another number comes out even, or they lie at their own size', () => {
  let uneven = 0;
  for (let k = 0; k < 200; k++) {
    const wide = 0.05 + (k % 20) * 0.04;
    const item = (): TouchItem => ({ back: 0.15 + k * 0.004, front: 0.15 + k * 0.004 });
    const hairpin = compiled(
      points('corner', [
        [0, 0, 0],
        [5 + (k % 7) * 0.1, 0, 0],
        [5 + (k % 5) * 0.1, 0, wide],
        [0.5, 0, wide],
      ]),
    );
    const l = lay(hairpin, { leftover: 'even' }, item);
    expect(l.count).toBeGreaterThan(1);
    expect(l.front[l.count - 1]).toBeLessThanOrEqual(hairpin.length * (1 + 1e-9));
    if (!l.uneven) expect(l.front[l.count - 1]).toBeCloseTo(hairpin.length, 8);
    else uneven++;
    if (l.uneven) expect(l.factor).toBe(1);
    for (let i = 0; i < l.count; i++) {
      const [a, b] = ends(l, i, item);
      expect(distance(a, b)).toBeCloseTo(2 * item().back * l.factor, 9);
      expect(nearestOnPath(hairpin, b).distance).toBeLessThan(1e-9);
    }
  }
  // A scan over factors finds no more that come out even than these.
  expect(200 - uneven).toBeGreaterThan(40);
});
