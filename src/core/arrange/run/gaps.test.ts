import { newEntry } from '../../scene/defaults';
import type { Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { STATE } from '../result';
import { slotName } from '../slotId';
import { evaluateRun } from './evaluate';
import type { Run } from './schema';
import { at, CONTEXT, front, placed, run } from '../../testing/runs';

/** Gaps of runs and what the hand did, against brute force. */

const near = (v: number[]) => v.map((x) => expect.closeTo(x, 6));

describe('gaps', () => {
  const base = (r: Run) => {
    r.spacing.pitch = 0.25;
    r.gaps.chance = 0.6;
  };
  test('the longest run of gaps by chance is held', () => {
    const p = placed('line', (r) => {
      base(r);
      r.gaps.longest = 2;
    });
    expect([...p.state].map((s) => (s ? 'x' : '.')).join('')).not.toContain('xxx');
  });

  test('regions and distances, as a brute-force check of every place', () => {
    const p = placed('line', (r) => {
      r.spacing.pitch = 0.25;
      r.gaps.keepOuts = [{ id: 'k', kind: 'region', name: 'K', path: 'circle', where: 'inside' }];
    });
    for (let i = 0; i < p.count; i++)
      expect(p.state[i] === STATE.keepOut).toBe(Math.hypot(at(p, i)[0], at(p, i)[2]) < 5 - 1e-6);
    const posts = placed('line', (r) => Object.assign(r.spacing, { mode: 'count', count: 3 }));
    const context = { ...CONTEXT, arrangement: () => posts };
    const q = placed(
      'line',
      (r) => {
        r.spacing.pitch = 0.25;
        r.gaps.keepOuts = [
          { id: 'k', kind: 'near', name: 'K', of: { kind: 'arrangement', id: 'posts' }, distance: 1.1 },
        ];
      },
      context,
    );
    for (let i = 0; i < q.count; i++)
      expect(q.state[i] === STATE.keepOut).toBe([0, 6, 12].some((x) => Math.abs(at(q, i)[0] - x) <= 1.1));
    const open = evaluateRun(
      run(
        'line',
        (r) => (r.gaps.keepOuts = [{ id: 'k', kind: 'region', name: 'K', path: 'steep', where: 'inside' }]),
      ),
      CONTEXT,
    );
    expect(open.findings.map((f) => f.kind)).toEqual(['keep-out-open']);
  });

  test('taken: a share off an end or at random; a greater share takes the same and more', () => {
    const taken = (share: number, from: 'start' | 'end' | 'random') =>
      placed('line', (r) => {
        Object.assign(r.spacing, { mode: 'count', count: 20 });
        r.gaps.taken = { share, from };
      });
    expect([...taken(0.25, 'start').state].slice(0, 6)).toEqual([5, 5, 5, 5, 5, 0]);
    expect([...taken(0.25, 'end').state].slice(-6)).toEqual([0, 5, 5, 5, 5, 5]);
    const [few, many] = [taken(0.3, 'random'), taken(0.6, 'random')];
    expect([...few.state].filter((s) => s === STATE.taken)).toHaveLength(6);
    few.state.forEach((s, i) => s === STATE.taken && expect(many.state[i]).toBe(STATE.taken));
  });

  test('close up: the rest moves along and keeps ids and random values; holes stay put', () => {
    const settings = (after: 'hole' | 'close') => (r: Run) => {
      Object.assign(r.spacing, { mode: 'count', count: 13 });
      r.variation.turnDeg = [-90, 90];
      r.gaps.keepOuts = [{ id: 'k', kind: 'range', name: 'K', part: 0, stroke: 0, from: 4.5, to: 6.5 }];
      r.gaps.after = after;
      r.hand = { '2': { removed: true }, '9': { removed: true } };
    };
    const hole = placed('line', settings('hole'));
    const close = placed('line', settings('close'));
    expect([...close.slot]).toEqual([...hole.slot]);
    const standing = [...Array(13).keys()].filter((i) => close.state[i] === STATE.placed);
    expect(standing.map((i) => slotName(close.slot[i]))).toEqual([
      '1',
      '3',
      '4',
      '5',
      '6',
      '7',
      '8',
      '10',
      '11',
      '12',
      '13',
    ]);
    expect(standing.map((i) => at(close, i)[0])).toEqual(near([0, 1, 2, 3, 4, 7, 8, 9, 10, 11, 12]));
    for (const i of standing)
      expect(close.rotation.subarray(i * 4, i * 4 + 4)).toEqual(hole.rotation.subarray(i * 4, i * 4 + 4));
  });

  test('props whose boxes would reach into one before them are left out; the hand keeps one', () => {
    const dense = (r: Run) => {
      Object.assign(r.spacing, { pitch: 0.3, leftover: 'end' });
      r.gaps.collide = 'leave-out';
    };
    const p = placed('line', dense);
    const standing = [...Array(p.count).keys()].filter((i) => p.state[i] === STATE.placed);
    for (let k = 1; k < standing.length; k++)
      expect(p.s[standing[k]] - p.s[standing[k - 1]]).toBeGreaterThanOrEqual(0.5 - 1e-5);
    expect(
      placed('line', (r) => {
        dense(r);
        r.hand = { '2': { removed: false } };
      }).state[1],
    ).toBe(STATE.placed);
  });
});

describe('by hand', () => {
  const settings = (r: Run) => {
    Object.assign(r.spacing, { mode: 'count', count: 7 });
    r.order.entries.push(newEntry('e9', { kind: 'prop', prop: 'b' }));
  };
  test('nudges, swaps, turns and sizes apply to that slot alone', () => {
    const plain = placed('line', settings);
    const p = placed('line', (r) => {
      settings(r);
      r.hand = { '3': { prop: 'c', along: 0.5, side: -0.25, lift: 1, turnDeg: 90, size: 2 } };
    });
    expect(p.props[p.prop[2]]).toBe('c');
    expect(at(p, 2)).toEqual(near([4.5, 1, -0.25]));
    expect(front(p, 2)).toEqual(near([0, 0, -1]));
    expect([...p.scale.subarray(6, 9)]).toEqual([2, 2, 2]);
    for (const i of [0, 1, 3, 4, 5, 6]) expect(at(p, i)).toEqual(at(plain, i));
  });

  test('a lock holds a slot through every change, even one that takes the slot away', () => {
    const lock = {
      prop: 'b',
      s: 8,
      position: [8, 3, 1] as Vec3,
      rotation: [0, 1, 0, 0] as Quat,
      scale: [1, 2, 1] as Vec3,
    };
    for (const change of [
      (r: Run) => (r.seed = 77),
      (r: Run) => (r.spacing.count = 3),
      (r: Run) => (r.variation.side = [-1, 1]),
      (r: Run) => (r.order.entries = r.order.entries.slice(0, 1)),
      (r: Run) => (r.gaps.chance = 1),
    ]) {
      const p = placed('line', (r) => {
        settings(r);
        r.hand = { '5': { lock } };
        change(r);
      });
      const i = p.slot.indexOf(5);
      expect([p.state[i], p.props[p.prop[i]], at(p, i), [...p.scale.subarray(i * 3, i * 3 + 3)]]).toEqual([
        STATE.placed,
        'b',
        [8, 3, 1],
        [1, 2, 1],
      ]);
    }
  });
});
