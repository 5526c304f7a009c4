import { lampOver, lampSet } from './lampSet';
import { lampSchema } from './lampSchema';

/** Lights around a thing: they look at it, from where one looks too, and are as strong there as they are called. */

const box = { min: [2, 0, -1] as const, max: [4, 2, 1] as const };
const subject = { min: [...box.min], max: [...box.max], eye: [3, 5, 20] } as never;

test('main, fill and back: to the right, to the left and behind; each as strong at the middle as it says', () => {
  const set = lampSet(subject, 'run1');
  expect(set.map((l) => l.name)).toEqual(['Main', 'Fill', 'Back']);
  const [main, fill, back] = set.map(({ at }) => [at[0] - 3, at[1] - 1, at[2]]);
  expect(main[0]).toBeGreaterThan(0);
  expect(fill[0]).toBeLessThan(0);
  expect([main[2] > 0, fill[2] > 0, back[2] > 0]).toEqual([true, true, false]);
  const bright = set.map(({ strength }, i) => strength / Math.hypot(...[main, fill, back][i]) ** 2);
  [1, 0.35, 0.7].forEach((want, i) => expect(bright[i] / want).toBeCloseTo(1, 2));
  for (const lamp of set) {
    expect(lamp.aim).toEqual([3, 1, 0]);
    expect(lamp.aimedAt).toBe('run1');
    expect(lampSchema.safeParse({ ...lamp, id: 'l' }).success).toBe(true);
  }
});

test('one light hangs over a thing, clear of it', () => {
  for (const kind of ['point', 'area', 'spot'] as const) {
    const { at, aim, strength } = lampOver(kind, subject, null);
    expect([at[0], at[2]]).toEqual([3, 0]);
    expect(at[1]).toBeGreaterThan(2.5);
    expect(aim).toEqual([3, 1, 0]);
    expect(strength / (at[1] - 1) ** 2).toBeCloseTo(1, 2);
  }
});
