import { restAll, FOUND, giveRow, type RestJob } from '@/core/mesh/contact/rests';
import type { Vec3 } from '@/core/math/vec3';
import { boxBetween, field, treeOf } from '@/core/testing/plumb';
import { Claims, claimsFor } from './claims';
import { Help, helpersFor } from './Help';
import { Helping } from './helping';
import { startHelper } from './inNode';
import type { Asked } from './message';
import { SharedTrees } from './sharedTrees';

const waves = treeOf(field(24, 8, (x, z) => 0.3 * Math.sin(2 * x) * Math.cos(1.7 * z)));
const box = treeOf(boxBetween([-0.4, 0, -0.4], [0.4, 1, 0.4]));
const base: Vec3[] = [
  [0.4, 0, 0.4],
  [0.4, 0, -0.4],
  [-0.4, 0, -0.4],
  [-0.4, 0, 0.4],
];

function jobOf(rows: number, grounds = [waves]): RestJob {
  const given: number[] = [];
  const m = [1, 0, 0, 0, 1, 0, 0, 0, 1];
  const [d, up]: Vec3[] = [
    [0, -1, 0],
    [0, 1, 0],
  ];
  for (let i = 0; i < rows; i++) {
    const at: Vec3 = [Math.sin(i * 1.7) * 3, 0.2, Math.cos(i * 2.3) * 3];
    giveRow(given, 0, { m, size: 1, at, d, up, slope: up });
  }
  const found = new Float64Array(rows * FOUND);
  return {
    grounds,
    things: [{ tree: box, base, reach: 1.2 }],
    tilts: true,
    rows,
    given: Float64Array.from(given),
    found,
  };
}
function alone(rows: number): Float64Array {
  const job = jobOf(rows);
  restAll(job);
  return job.found;
}

describe('claims', () => {
  test('each row is done once, whoever takes it, and all of them are done', () => {
    const memory = claimsFor(45);
    const [one, other] = [new Claims(memory, 45), new Claims(memory, 45)];
    const done: string[] = [];
    one.work((row) => {
      done.push(`one ${row}`);
      // Another comes while this is at work, and takes all that is left.
      if (row === 10) other.work((r) => done.push(`other ${r}`));
    });
    one.finish(() => done.push('again'), 1);
    expect(done.map((d) => Number(d.split(' ')[1])).sort((a, b) => a - b)).toEqual(
      Array.from({ length: 45 }, (_, i) => i),
    );
    expect(done.filter((d) => d.startsWith('other')).length).toBe(45 - 16);
  });

  test('what another has begun and never finishes is done here', () => {
    const memory = claimsFor(40);
    const [gone, here] = [new Claims(memory, 40), new Claims(memory, 40)];
    expect(() =>
      gone.work((row) => {
        if (row === 3) throw new Error('lost');
      }),
    ).toThrow('lost');
    const done: number[] = [];
    here.work((row) => done.push(row));
    expect(done).toEqual(Array.from({ length: 32 }, (_, i) => i + 8));
    here.finish((row) => done.push(row), 5);
    expect(done.slice(32)).toEqual([0, 1, 2, 3, 4, 5, 6, 7]);
  });
});

describe('help', () => {
  test('with a helper that does all, some or nothing of it, and without any, all comes out the same to the last bit', () => {
    const expected = alone(200);
    let helped = 0;
    const all = new Helping();
    const ways: Record<string, (job: Asked) => void> = {
      all: (job) => {
        all.help(job);
        helped++;
      },
      nothing: () => {},
      // It takes the first and is lost.
      lost: (job) => void Atomics.add(new Int32Array(job.claims), 0, 1),
    };
    for (const ask of Object.values(ways)) {
      const help = new Help(() => [{ ask }]);
      for (let i = 0; i < 2; i++) {
        const job = jobOf(200);
        help.restAll(job);
        expect(job.found).toEqual(expected);
      }
    }
    expect(helped).toBe(2);
    const none = [
      () => [],
      () => {
        throw new ReferenceError('Worker is not defined');
      },
    ];
    for (const start of none) {
      const job = jobOf(200);
      new Help(start).restAll(job);
      expect(job.found).toEqual(expected);
    }
  });

  test('a thread of Node does all where this one waits, and finds the same', () => {
    const helper = startHelper();
    let done = 0;
    const help = new Help(() => [
      {
        ask(job) {
          helper.ask(job);
          const state = new Int32Array(job.claims);
          const end = Date.now() + 50_000;
          while ((done = state[1]) < 2000 / 8 && Date.now() < end) Atomics.wait(state, 1, done, 500);
        },
      },
    ]);
    const job = jobOf(2000);
    help.restAll(job);
    expect(done).toBe(2000 / 8);
    expect(job.found).toEqual(alone(2000));
  });

  test('nobody is asked for a few rows, or where trees would have to be copied for longer than it takes', () => {
    let asked = 0;
    const help = new Help(() => [{ ask: () => asked++ }]);
    help.restAll(jobOf(20));
    expect(asked).toBe(0);
    const wide = treeOf(field(160, 53, (x, z) => 0.3 * Math.sin(2 * x) * Math.cos(1.7 * z)));
    help.restAll(jobOf(64, [wide]));
    expect(asked).toBe(0);
    help.restAll(jobOf(300, [wide]));
    expect(asked).toBe(1);
    // What is there already costs nothing.
    help.restAll(jobOf(64, [wide]));
    expect(asked).toBe(2);
  });

  test('one core is left to this thread, and no more than three help', () => {
    expect([1, 2, 3, 4, 16].map(helpersFor)).toEqual([0, 1, 2, 3, 3]);
  });
});

describe('trees of others', () => {
  test('each is told once; of one that moves only what moves is copied again', () => {
    const trees = new SharedTrees();
    const first = trees.name([waves, box]);
    expect(first.news.trees.map(([name]) => name)).toEqual(first.names);
    expect(first.news.trees[0][1]).toEqual({ ...waves, ...cut(waves) });
    expect(trees.name([box, waves])).toEqual({
      names: [...first.names].reverse(),
      news: { trees: [], forget: [] },
    });
    const moved = { ...waves, positions: waves.positions.map((v) => v + 1) };
    const [[name, copy]] = trees.name([moved]).news.trees;
    expect(first.names).not.toContain(name);
    expect(copy.positions).toEqual(moved.positions);
    expect(copy.indices).toBe(first.news.trees[0][1].indices);
    expect(copy.bounds).not.toBe(first.news.trees[0][1].bounds);
  });

  test('of too many the oldest are forgotten, and none of those that are asked for', () => {
    const trees = new SharedTrees();
    const large = Array.from({ length: 4 }, () => ({ ...waves, positions: new Float64Array(3_000_000) }));
    const { names } = trees.name([large[0], box]);
    trees.name([large[1]]);
    const { news } = trees.name([large[2], box]);
    expect(news.forget).toEqual([names[0]]);
    expect(trees.name([...large, box]).news.forget).toEqual([]);
    expect(trees.missing(large)).toBe(0);
    expect(trees.missing([waves])).toBeGreaterThan(10_000);
  });
});

/** Trees are sent as far as they are filled. */
const cut = ({ bounds, start, count, nodes }: typeof waves) => ({
  bounds: bounds.slice(0, nodes * 6),
  start: start.slice(0, nodes),
  count: count.slice(0, nodes),
});
