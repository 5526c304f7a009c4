import { STATE } from '../result';
import type { Run } from './schema';
import { at, circle, CONTEXT, front, line, placed } from '../../testing/runs';

/** Runs drawn along by the pulley. */

const near = (v: number[]) => v.map((x) => expect.closeTo(x, 6));

describe('pulley', () => {
  test('loops wrap without a jump, each slot keeps its random values', () => {
    const pulled = (offset: number) =>
      placed('circle', (r) => {
        Object.assign(r.spacing, { mode: 'count', count: 9 });
        r.variation.size = [0.5, 2];
        r.pulley.offset = offset;
      });
    const [a, b] = [pulled(0), pulled(7.3)];
    for (let i = 0; i < 9; i++) expect(b.s[i]).toBeCloseTo((a.s[i] + 7.3) % circle.length, 9);
    expect(b.scale).toEqual(a.scale);
    expect(
      pulled(circle.length).s.every(
        (s, i) => Math.abs(Math.sin(((s - a.s[i]) / circle.length) * Math.PI)) < 1e-9,
      ),
    ).toBe(true);
  });

  test('open paths clip at the ends, or bring the slot in at the other; time adds the speed', () => {
    const set = (ends: 'clip' | 'wrap') => (r: Run) => {
      Object.assign(r.spacing, { mode: 'count', count: 7 });
      Object.assign(r.pulley, { offset: 1, speed: 0.5, ends });
    };
    const clip = placed('line', set('clip'), { ...CONTEXT, time: 4 });
    expect([...clip.state]).toEqual([0, 0, 0, 0, 0, STATE.pastEnd, STATE.pastEnd]);
    expect([...clip.s].slice(0, 5)).toEqual(near([3, 5, 7, 9, 11]));
    const wrap = placed('line', set('wrap'), { ...CONTEXT, time: 4 });
    // Slots come round at a whole pitch; one of them is always between the ends.
    expect(
      [...wrap.s]
        .map((s, i) => (wrap.state[i] ? NaN : s))
        .filter((s) => !Number.isNaN(s))
        .sort((a, b) => a - b),
    ).toEqual(near([1, 3, 5, 7, 9, 11]));
  });

  test('from end to end in a time, whatever the length of the path; what turns or stays never leaves it', () => {
    const at = (pulley: object, time: number, spacing: object = { mode: 'count', count: 1 }, path = 'line') =>
      placed(
        path,
        (r) => {
          Object.assign(r.spacing, spacing);
          Object.assign(r.pulley, { duration: 6, ends: 'turn', ...pulley });
        },
        { ...CONTEXT, time },
      );
    for (const [time, share] of [
      [0, 0],
      [1.5, 0.25],
      [6, 1],
      [9, 0.5],
      [12, 0],
      [61.5, 0.25],
    ]) {
      const { s, state } = at({}, time);
      expect([...state]).toEqual([STATE.placed]);
      expect(s[0]).toBeCloseTo(share * line.length, 9);
      expect(at({ ends: 'stay' }, time).s[0]).toBeCloseTo(Math.min(1, time / 6) * line.length, 9);
    }
    // Round a loop in that time, and backwards.
    const round = at({ speed: -1 }, 1.5, {}, 'circle').s;
    const begins = at({}, 0, {}, 'circle').s;
    round.forEach((s, i) =>
      expect((((s - begins[i] + circle.length * 0.25) % circle.length) + 1) % circle.length).toBeCloseTo(
        1,
        6,
      ),
    );
    // Three of them go as far as the room of all lets them.
    const train = { mode: 'pitch', pitch: 1, leftover: 'end', insetEnd: line.length - 2.5 };
    const free = at({ ends: 'turn' }, 6, train);
    expect(free.s[2]).toBeCloseTo(2.5, 9);
    for (let t = 0; t < 20; t += 0.7) expect([...at({}, t, train).state]).toEqual([0, 0, 0]);
    // End to end, by their own lengths.
    const touching = { mode: 'touch', leftover: 'end' };
    const still = at({ duration: null }, 0, touching);
    const gone = at({ ends: 'stay' }, 60, touching);
    expect(gone.s[0]).toBeGreaterThan(still.s[0]);
    expect([...gone.state].every((s) => s === STATE.placed)).toBe(true);
  });

  test('round an open path all come in again at their pitch: one alone is never away, half in none is further apart', () => {
    const at = (spacing: object, offset: number) =>
      placed('line', (r) => {
        Object.assign(r.spacing, spacing);
        Object.assign(r.pulley, { offset, ends: 'wrap' });
      });
    for (let offset = 0; offset < 30; offset += 0.37) {
      const one = at({ mode: 'count', count: 1 }, offset);
      expect([...one.state]).toEqual([STATE.placed]);
      expect(one.s[0]).toBeCloseTo(offset % line.length, 9);
      const dense = at(
        {
          mode: 'pitch',
          pitch: 0.5,
          density: [
            [0, 2],
            [1, 0.5],
          ],
        },
        offset,
      );
      expect(dense.state.filter((s) => s === STATE.pastEnd).length).toBeLessThanOrEqual(3);
      const half = at({ mode: 'count', count: 6, ends: 'half' }, offset);
      expect([...half.state].every((s) => s === STATE.placed)).toBe(true);
      const s = [...half.s].sort((a, b) => a - b);
      s.slice(1).forEach((v, i) => expect(v - s[i]).toBeCloseTo(2, 9));
    }
  });

  test('what ramps along the way runs over what the insets leave, to the side as in density', () => {
    const p = placed('line', (r) => {
      Object.assign(r.spacing, { mode: 'count', count: 5, insetStart: 3, insetEnd: 1 });
      r.facing.sideRamp = [
        [0, 0],
        [1, 2],
      ];
    });
    const plain = placed('line', (r) => {
      Object.assign(r.spacing, { mode: 'count', count: 5, insetStart: 3, insetEnd: 1 });
    });
    [0, 0.5, 1, 1.5, 2].forEach((side, i) => {
      const [x, z] = [0, 2].map((a) => p.position[i * 3 + a] - plain.position[i * 3 + a]);
      expect(Math.sqrt(x * x + z * z)).toBeCloseTo(side, 9);
    });
  });

  test('end to end on a loop neighbours still meet wherever the pulley stands', () => {
    for (const offset of [0.3, 5, 100.7]) {
      const p = placed('circle', (r) => {
        r.spacing.mode = 'touch';
        r.pulley.offset = offset;
      });
      for (let i = 0; i < p.count; i++) {
        const j = (i + 1) % p.count;
        const tip = (k: number, way: number) =>
          at(p, k).map((v, a) => v + front(p, k)[a] * 0.25 * p.scale[k * 3 + 2] * way);
        expect(Math.hypot(...tip(i, 1).map((v, a) => v - tip(j, -1)[a]))).toBeLessThan(1e-6);
      }
    }
  });
});
