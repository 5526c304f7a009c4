import { asResult, compiled, points } from '../../testing/paths';
import type { Placements } from '../result';
import { parseSlotName, slotName, slotParts } from '../slotId';
import { evaluateRun } from './evaluate';
import { at, circle, CONTEXT, front, placed, run } from '../../testing/runs';

/** Spacing of runs, against closed forms. */

const near = (v: number[]) => v.map((x) => expect.closeTo(x, 6));

describe('spacing', () => {
  test('divide: the whole, each side, each quadrant; every m-th from o; ids name the division', () => {
    const div = (path: string, s: object) =>
      placed(path, (r) => Object.assign(r.spacing, { mode: 'divide' }, s));
    expect([...div('line', { parts: 4 }).s]).toEqual(near([0, 3, 6, 9, 12]));
    expect([...div('line', { parts: 4, withEnds: false }).s]).toEqual(near([3, 6, 9]));
    expect([...div('circle', { parts: 8, every: 2, from: 1 }).s].map((s) => (s / circle.length) * 8)).toEqual(
      near([1, 3, 5, 7]),
    );
    expect([...div('square', { parts: 3, per: 'side' }).s]).toEqual(
      near(Array.from({ length: 12 }, (_, i) => i * 2)),
    );
    expect([...div('square', { parts: 3, per: 'side', withEnds: false }).s]).toEqual(
      near([2, 4, 8, 10, 14, 16, 20, 22]),
    );
    expect([...div('circle', { parts: 2, per: 'quadrant' }).s].map((s) => (s / circle.length) * 8)).toEqual(
      near([0, 1, 2, 3, 4, 5, 6, 7]),
    );
    const all = new Map([...div('square', { parts: 3, per: 'side' }).slot].map((id, i) => [id, i * 2]));
    const some = div('square', { parts: 3, per: 'side', every: 2, from: 1 });
    some.slot.forEach((id, i) => expect(some.s[i]).toBeCloseTo(all.get(id)!, 9));
  });

  test('insets in lengths of the prop are metres by its length and its size, and follow when that changes', () => {
    const inset = (s: object, size = 1) =>
      placed('line', (r) => {
        Object.assign(r.spacing, { mode: 'count', count: 3 }, s);
        r.facing.size = size;
      });
    // The prop is half a metre long.
    expect([...inset({ insetStartLengths: 2, insetEndLengths: 1 }).s]).toEqual(near([1, 6.25, 11.5]));
    expect([...inset({ insetStart: 1, insetStartLengths: 2, insetEndLengths: 1 }, 2).s]).toEqual(
      near([3, 7, 11]),
    );
  });

  test('at the points, the corners, midway; a point put in leaves the others their ids', () => {
    const path = points('corner', [
      [0, 0, 0],
      [2, 0, 0],
      [2, 0, 3],
      [6, 0, 3],
    ]);
    path[2] = { ...path[2], kind: 'smooth' };
    const on = (pts: typeof path, mode: 'points' | 'corners' | 'midpoints') =>
      evaluateRun(
        run('x', (r) => Object.assign(r.spacing, { mode: 'points', at: mode })),
        { ...CONTEXT, path: () => asResult(compiled(pts)) },
      ).placements;
    expect(on(path, 'points').count).toBe(4);
    expect([...on(path, 'corners').slot].map(slotName)).toEqual(['1', '2', '4']);
    expect(on(path, 'midpoints').count).toBe(3);
    const more = [...path];
    more.splice(1, 0, { ...path[0], id: 'pt9', position: [1, 0, 0] });
    const after = on(more, 'points');
    expect([...after.slot].map(slotName)).toEqual(['1', '9', '2', '3', '4']);
  });

  test('a density ramp: the local pitch is the pitch times the ramp, to the closed form', () => {
    const p = placed('line', (r) => {
      Object.assign(r.spacing, { mode: 'count', count: 4001 });
      r.spacing.density = [
        [0, 0.5],
        [1, 2],
      ];
    });
    // Places n / N of the way through ∫ du / (a + b·u): u = a (e^{b·w} − 1) / b with w = (n / N) ln(2 / 0.5) / b.
    for (const n of [0, 500, 2000, 3500, 4000]) {
      const w = ((n / 4000) * Math.log(4)) / 1.5;
      expect(p.s[n]).toBeCloseTo((12 * 0.5 * Math.expm1(1.5 * w)) / 1.5, 7);
    }
    const ratio = (p.s[4000] - p.s[3999]) / (p.s[1] - p.s[0]);
    expect(ratio).toBeCloseTo(4, 2);
  });

  test('loose by never breaks the least distance, also along a ramp and round a loop', () => {
    for (const path of ['line', 'circle']) {
      const p = placed(path, (r) => {
        Object.assign(r.spacing, { pitch: 0.5, looseBy: 5, minDistance: 0.2 });
        r.spacing.density = [
          [0, 1],
          [0.5, 3],
          [1, 1],
        ];
      });
      for (let i = 1; i < p.count; i++) expect(p.s[i] - p.s[i - 1]).toBeGreaterThanOrEqual(0.2 - 1e-9);
    }
  });

  test('rows: their offsets, stagger, sides; row numbers keep ids when rows come', () => {
    const rows = (s: object) =>
      placed('line', (r) => {
        r.spacing.pitch = 2;
        Object.assign(r.spacing.rows, s);
      });
    const lines = (p: Placements) => new Set([...Array(p.count).keys()].map((i) => at(p, i)[2].toFixed(6)));
    expect(lines(rows({ count: 3, distance: 0.5 }))).toEqual(new Set(['-0.500000', '0.000000', '0.500000']));
    expect(lines(rows({ count: 2, distance: 0.5, side: 'left' }))).toEqual(
      new Set(['0.000000', '-0.500000']),
    );
    const both = rows({ count: 2, distance: 1, side: 'both' });
    expect(lines(both)).toEqual(new Set(['0.500000', '-0.500000', '1.500000', '-1.500000']));
    const one = rows({ count: 1, distance: 1, side: 'both' });
    one.slot.forEach((id, i) => expect(at(both, both.slot.indexOf(id))).toEqual(near(at(one, i))));
    const alternate = rows({ distance: 1, side: 'alternate' });
    for (let i = 0; i < alternate.count; i++) expect(at(alternate, i)[2]).toBeCloseTo(i % 2 ? -0.5 : 0.5, 9);
    const staggered = rows({ count: 2, distance: 1, stagger: 0.5 });
    const second = [...staggered.slot.keys()].filter((i) => slotParts(staggered.slot[i]).row === 1);
    expect(second.map((i) => staggered.s[i])).toEqual(near([1, 3, 5, 7, 9, 11]));
    const mirrored = placed('line', (r) => {
      r.facing.heading = 'across';
      Object.assign(r.spacing.rows, { count: 1, distance: 2, side: 'both', mirrored: true });
    });
    for (let i = 0; i < mirrored.count; i++)
      expect(front(mirrored, i)[2] * Math.sign(at(mirrored, i)[2])).toBeCloseTo(1, 9);
  });

  test('strokes of one path each carry the run, with ids of their own', () => {
    const { placements: p, parts } = evaluateRun(
      run('two', (r) => (r.spacing.pitch = 2)),
      CONTEXT,
    );
    expect(parts.map((x) => [x.stroke, x.end - x.start])).toEqual([
      [0, 7],
      [1, 4],
    ]);
    expect(slotName(p.slot[8])).toBe('k1.2');
    expect(parseSlotName('k1.2')).toBe(p.slot[8]);
  });
});
