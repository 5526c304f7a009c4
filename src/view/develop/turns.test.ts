import { Turns, type Fences, type Work } from './turns';

/** A card that does one thing after the other, each for as long as it is told; and a page in whose turns it is given them. */
class Card {
  /** When each thing was given to it, when it is done, and whether it shows something. */
  readonly given: { at: number; done: number; shows: boolean }[] = [];
  readonly told: number[] = [];
  private ms = 0;

  readonly gl = {
    SYNC_GPU_COMMANDS_COMPLETE: 1,
    SYNC_STATUS: 2,
    UNSIGNALED: 3,
    fenceSync: () => {
      const at = performance.now();
      const done = Math.max(at, this.given.at(-1)?.done ?? 0) + this.ms;
      this.given.push({ at, done, shows: this.shows });
      this.ms = 0;
      return { done } as unknown as WebGLSync;
    },
    getSyncParameter: (sync: WebGLSync) =>
      performance.now() >= (sync as unknown as { done: number }).done ? 4 : 3,
    deleteSync: () => {},
    flush: () => {},
  } as unknown as Fences;
  private shows = false;

  work(steps: { ms: number; expected?: number; shows?: boolean }[], more: Partial<Work> = {}): Work {
    let k = 0;
    return {
      mayGoOn: () => true,
      isOver: () => k === steps.length,
      isToShow: () => steps[k]?.shows ?? false,
      step: () => {
        const i = k++;
        const { ms, expected = ms, shows = false } = steps[i];
        this.ms += ms;
        this.shows = shows;
        return { expected, took: (took) => (this.told[i] = took) };
      },
      over: () => {},
      ...more,
    };
  }

  /** Milliseconds that it had nothing to do between the first thing and the last. */
  get idle(): number {
    return this.given.slice(1).reduce((sum, { at }, i) => sum + Math.max(0, at - this.given[i].done), 0);
  }
}

beforeEach(() => {
  jest.useFakeTimers();
  // A page has sixty frames a second.
  globalThis.requestAnimationFrame = (then) => Number(setTimeout(() => then(0), 16));
  globalThis.cancelAnimationFrame = (id) => clearTimeout(id);
});
afterEach(() => void jest.useRealTimers());

const never = () => {
  throw new Error('It went on to its end.');
};

/** Lets the page turn until the work is over. @returns milliseconds that it took */
function run(card: Card, work: Work): number {
  const began = performance.now();
  let over = 0;
  new Turns(() => card.gl).begin({ ...work, over: () => void (over = performance.now() - began) });
  jest.advanceTimersByTime(10_000);
  return over;
}

test('a card that takes what is expected never waits, and has no more than the next step before it', () => {
  const card = new Card();
  const steps = Array.from({ length: 20 }, (_, i) => ({ ms: 30 + ((i * 17) % 50) }));
  const all = steps.reduce((sum, { ms }) => sum + ms, 0);
  const took = run(card, card.work(steps));
  expect(card.idle).toBe(0);
  expect(took).toBeGreaterThanOrEqual(all);
  expect(took).toBeLessThan(all + 10);
  card.given.forEach(({ at, done }, i) => {
    // Of what was given before it, a few milliseconds are left; no two are begun before one.
    if (i > 0) expect(card.given[i - 1].done - at).toBeLessThanOrEqual(13);
    if (i > 1) expect(card.given[i - 2].done).toBeLessThanOrEqual(at);
    expect(done - at).toBeLessThan(80 + 13);
  });
  card.told.forEach((ms, i) => expect(Math.abs(ms - steps[i].ms)).toBeLessThanOrEqual(4));
});

test('whatever was expected, no more than two steps are before the card', () => {
  const card = new Card();
  const steps = Array.from({ length: 12 }, (_, i) => ({ ms: 90, expected: (i * 40) % 200 }));
  run(card, card.work(steps));
  expect(card.told).toHaveLength(12);
  card.given.forEach(({ at }, i) => {
    if (i > 1) expect(card.given[i - 2].done).toBeLessThanOrEqual(at);
  });
});

test('what is shown waits for all before it, and what follows waits for a frame of the page', () => {
  const card = new Card();
  let shown = 0;
  const steps = [{ ms: 50 }, { ms: 50 }, { ms: 3, shows: true }, { ms: 50 }, { ms: 5, shows: true }];
  run(card, card.work(steps, { shown: () => void shown++ }));
  expect(shown).toBe(2);
  for (const [i, { at, shows }] of card.given.entries()) {
    if (shows) expect(at).toBeGreaterThanOrEqual(card.given[i - 1].done);
    if (i > 0 && card.given[i - 1].shows) expect(at).toBeGreaterThanOrEqual(card.given[i - 1].at + 16);
  }
});

test('steps that are short go together, but never with what is shown, and each is told its share', () => {
  const card = new Card();
  const frame = [{ ms: 1 }, { ms: 2 }, { ms: 1 }, { ms: 0 }, { ms: 1, shows: true }];
  const took = run(card, card.work([...frame, ...frame, ...frame]));
  expect(card.given.map(({ shows }) => shows)).toEqual([false, true, false, true, false, true]);
  // One frame of the page for each that is shown, and two looks.
  expect(took).toBeLessThanOrEqual(3 * (16 + 2 * 4));
  expect(card.told).toHaveLength(15);
  for (let i = 0; i < 15; i += 5) {
    expect(card.told[i + 1]).toBeCloseTo(2 * card.told[i], 9);
    expect(card.told[i] + card.told[i + 1] + card.told[i + 2]).toBeLessThanOrEqual(8);
    expect(card.told[i + 3]).toBe(0);
  }
  // What is long ends what goes together.
  const other = new Card();
  run(other, other.work([{ ms: 2 }, { ms: 50 }, { ms: 3 }, { ms: 2 }, { ms: 2 }, { ms: 1 }]));
  const gaps = other.given.map(({ done }, i) => Math.round(done - (i > 0 ? other.given[i - 1].done : 0)));
  // Two and fifty, since how long one is shows only when it is given; three, two and two; one.
  expect(gaps.slice(1)).toEqual([7, 1]);
  expect(Math.round(other.given[0].done - other.given[0].at)).toBe(52);
});

test('where nothing is known of a step, nothing is given before it is done, and it is told what the others leave', () => {
  const card = new Card();
  const unknown = { ms: 300, expected: Infinity };
  run(card, card.work([{ ms: 2 }, unknown, unknown, { ms: 2 }, { ms: 60 }]));
  // What was short has gone with it: what is long is seen only when it is given.
  expect(card.given.map(({ at, done }) => Math.round(done - at))).toEqual([302, 300, 62]);
  card.given.forEach(({ at }, i) => {
    if (i > 0) expect(at).toBeGreaterThanOrEqual(card.given[i - 1].done);
  });
  expect(card.told[0]).toBe(2);
  for (const i of [1, 2]) expect(Math.abs(card.told[i] - 300)).toBeLessThanOrEqual(4);
});

test('it stops where it may not go on, and at once when it is told to', () => {
  const card = new Card();
  let may = true;
  const turns = new Turns(() => card.gl);
  turns.begin(card.work(Array(9).fill({ ms: 50 }), { mayGoOn: () => may, over: never }));
  jest.advanceTimersByTime(120);
  may = false;
  const { length } = card.given;
  jest.advanceTimersByTime(1000);
  expect(card.given).toHaveLength(length);
  may = true;
  turns.begin(card.work(Array(9).fill({ ms: 50 }), { over: never }));
  jest.advanceTimersByTime(120);
  const before = card.given.length;
  expect(before).toBeGreaterThan(length);
  turns.stop();
  jest.advanceTimersByTime(1000);
  expect(card.given).toHaveLength(before);
});
