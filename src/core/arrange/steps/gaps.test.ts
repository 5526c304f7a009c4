import { STATE } from '../result';
import { markGaps } from './gaps';
import { wholeGaps } from './gapsSchema';

/** The states of slots 1 … n. */
function marked(n: number, seed: number, longest: number | null, more: object = {}, chance = 0.6): number[] {
  const state = new Uint8Array(n);
  const row = {
    id: Array.from({ length: n }, (_, i) => i + 1),
    isPause: () => false,
    isKeptOut: () => false,
    ...more,
  };
  markGaps(wholeGaps({ chance, longest }), row, { seed, hand: new Map() }, state);
  return [...state];
}
/** The longest run of gaps, over the seam where it goes around. */
function longestOf(state: number[], around: boolean): number {
  const twice = around ? [...state, ...state] : state;
  let [run, most] = [0, 0];
  for (const s of twice) most = Math.max(most, (run = s === STATE.chance ? run + 1 : 0));
  return Math.min(most, state.length);
}

test('the longest run of gaps by chance is kept over the seam of what is closed', () => {
  let seams = 0;
  for (let seed = 0; seed < 200; seed++)
    for (const longest of [1, 2, 3]) {
      const [open, closed] = [false, true].map((around) => marked(17, seed, longest, { around }));
      expect(longestOf(open, false)).toBeLessThanOrEqual(longest);
      expect(longestOf(closed, true)).toBeLessThanOrEqual(longest);
      if (longestOf(open, true) > longest) seams++;
      // Where there is nothing to be held over the seam, all is drawn as on an open one.
      else expect(closed).toEqual(open);
      // What was drawn no gap becomes none for it.
      const free = marked(17, seed, null);
      closed.forEach((s, i) => s === STATE.chance && expect(free[i]).toBe(STATE.chance));
    }
  expect(seams).toBeGreaterThan(100);
});

test('lines count for themselves', () => {
  const state = marked(12, 3, 2, { lines: [0, 4, 8] }, 1);
  const [gap, there] = [STATE.chance, STATE.placed];
  expect(state).toEqual([gap, gap, there, gap, gap, gap, there, gap, gap, gap, there, gap]);
});
