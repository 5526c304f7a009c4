import fc from 'fast-check';
import { spacingSchema, type Spacing } from './schema';
import { MAX_SLOTS, spaceSlots } from './spacing';

const spacing = (s: Partial<Spacing>) => spacingSchema.parse(s);
const on = (s: Partial<Spacing>, length = 10, closed = false) =>
  spaceSlots(spacing(s), { length, closed, autoPitch: 1, seed: 1 });

/** How far the distance of any two neighbours is off the pitch. */
const unevenness = (s: ArrayLike<number>, pitch: number) => {
  let worst = 0;
  for (let i = 0; i + 1 < s.length; i++) worst = Math.max(worst, Math.abs(s[i + 1] - s[i] - pitch));
  return worst;
};

describe('spacing by pitch', () => {
  test('even out: a whole number of stretches, as near the pitch as can be', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 200, noNaN: true }),
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        (length, pitch) => {
          const { s, pitch: used } = on({ pitch }, length);
          const n = Math.round(length / pitch);
          expect(s.length).toBe(n < 1 ? 1 : n + 1);
          if (n < 1) return;
          expect(s[0]).toBe(0);
          expect(s[n]).toBeCloseTo(length, 9);
          expect(unevenness(s, used)).toBeLessThan(1e-9 * length);
        },
      ),
    );
  });

  test('at end and centre keep the pitch exactly and fit as many as there is room for', () => {
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 200, noNaN: true }),
        fc.double({ min: 0.05, max: 20, noNaN: true }),
        (length, pitch) => {
          for (const leftover of ['end', 'centre'] as const) {
            const { s } = on({ pitch, leftover }, length);
            expect(unevenness(s, pitch)).toBeLessThan(5e-10);
            const rest = length - s[s.length - 1] + (leftover === 'centre' ? s[0] : 0);
            expect(rest).toBeLessThan(pitch * (1 + 1e-6));
            expect(rest).toBeGreaterThan(-1e-6);
            if (leftover === 'centre') expect(s[0]).toBeCloseTo(length - s[s.length - 1], 9);
          }
        },
      ),
    );
  });

  test('a length of a whole number of pitches is not cut short by rounding', () => {
    expect(on({ pitch: 0.1, leftover: 'end' }, 0.3).s).toHaveLength(4);
    expect(on({ pitch: 0.7, leftover: 'end' }, 2.1).s).toHaveLength(4);
  });

  test('a loop has no double slot at its seam', () => {
    const { s, pitch } = on({ pitch: 1.1 }, 10, true);
    expect(s).toHaveLength(9);
    expect(10 - s[8]).toBeCloseTo(pitch, 12);
  });

  test('insets', () => {
    const { s, usable } = on({ pitch: 2, insetStart: 1, insetEnd: 3 });
    expect([...s]).toEqual([1, 3, 5, 7]);
    expect(usable).toBe(6);
    expect(on({ insetStart: 6, insetEnd: 4 }).problem).toBe('no-room');
  });
});

describe('spacing by count', () => {
  test('ends included, half in, one slot, a loop', () => {
    expect([...on({ mode: 'count', count: 5 }).s]).toEqual([0, 2.5, 5, 7.5, 10]);
    expect([...on({ mode: 'count', count: 5, ends: 'half' }).s]).toEqual([1, 3, 5, 7, 9]);
    expect([...on({ mode: 'count', count: 1 }).s]).toEqual([0]);
    expect([...on({ mode: 'count', count: 4 }, 10, true).s]).toEqual([0, 2.5, 5, 7.5]);
  });
});

describe('looseness', () => {
  test('stays within its measure, keeps the order and the least distance, and is the same for more slots', () => {
    const base = on({ pitch: 0.5, leftover: 'end' }, 50);
    const loose = on({ pitch: 0.5, leftover: 'end', looseBy: 0.4, minDistance: 0.1 }, 50);
    expect(loose.loose).toBeCloseTo(0.2, 12);
    for (let i = 0; i < base.s.length; i++)
      expect(Math.abs(loose.s[i] - base.s[i])).toBeLessThanOrEqual(0.2 + 1e-12);
    for (let i = 0; i + 1 < base.s.length; i++)
      expect(loose.s[i + 1] - loose.s[i]).toBeGreaterThanOrEqual(0.1 - 1e-12);
    const longer = on({ pitch: 0.5, leftover: 'end', looseBy: 0.2 }, 80);
    for (let i = 1; i < 90; i++)
      expect(longer.s[i]).toBe(on({ pitch: 0.5, leftover: 'end', looseBy: 0.2 }, 50).s[i]);
  });
});

describe('what cannot be', () => {
  test.each([
    [{ pitch: 0 }, 'pitch-not-positive'],
    [{ pitch: -1 }, 'pitch-not-positive'],
    [{ pitch: NaN }, 'pitch-not-positive'],
    [{ pitch: 1e-9 }, 'too-many-slots'],
    [{ pitch: 1e-9, leftover: 'end' as const }, 'too-many-slots'],
    [{ mode: 'count' as const, count: 0 }, 'count-not-positive'],
    [{ mode: 'count' as const, count: 1e9 }, 'too-many-slots'],
  ])('%j is refused at once', (settings, problem) => {
    const result = spaceSlots(
      { ...spacing({}), ...settings },
      { length: 10, closed: false, autoPitch: 1, seed: 1 },
    );
    expect(result.problem).toBe(problem);
    expect(result.s).toHaveLength(0);
    if (problem === 'too-many-slots') expect(result.wanted).toBeGreaterThan(MAX_SLOTS);
  });
});
