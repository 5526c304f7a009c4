import fc from 'fast-check';
import { asResult, circlePoints, compiled, points } from '../../testing/paths';
import { newEntry, newRun } from '../../scene/defaults';
import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { STATE, type Placements } from '../result';
import type { ArrangeContext } from '../context';
import { parseSlotName, slotName, slotParts } from '../slotId';
import { evaluateRun } from './evaluate';
import { runSchema, type Run } from './schema';
import { cases } from '../../testing/prove';

/** Runs with the whole of their recipe, against closed forms and against themselves under edits. */

const bounds = { min: [-0.2, 0, -0.25] as Vec3, max: [0.2, 1, 0.25] as Vec3 };
const line = compiled(
  points('corner', [
    [0, 0, 0],
    [12, 0, 0],
  ]),
);
const square = compiled(
  points('corner', [
    [0, 0, 0],
    [6, 0, 0],
    [6, 0, -6],
    [0, 0, -6],
  ]),
  true,
);
const circle = compiled(circlePoints(5, 16), true);
const steep = compiled(
  points('smooth', [
    [0, 0, 0],
    [0, 4, 0],
    [3, 4, 1],
    [3, 0, 1],
  ]),
);
const two = asResult(
  line,
  compiled(
    points('corner', [
      [0, 0, 4],
      [6, 0, 4],
    ]),
  ),
);
const PATHS: Record<string, ReturnType<typeof asResult>> = {
  line: asResult(line),
  square: asResult(square),
  circle: asResult(circle),
  steep: asResult(steep),
  two,
};
const CONTEXT: ArrangeContext = {
  path: (id) => PATHS[id],
  prop: (id) => ('abcd'.includes(id) ? { state: 'ready', bounds } : undefined),
};

function run(path: string, change: (r: Run) => void = () => {}, props = ['a']): Run {
  const r = newRun(
    'run1',
    'Run',
    'madder',
    path,
    props.map((p, i) => newEntry(`e${i}`, { kind: 'prop', prop: p })),
  );
  change(r);
  return r;
}
const placed = (path: string, change: (r: Run) => void = () => {}, context = CONTEXT) =>
  evaluateRun(run(path, change), context).placements;
const at = (p: Placements, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];
const front = (p: Placements, i: number) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, [0, 0, 1]);
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

describe('facing', () => {
  test('towards a point, a path and the nearest prop of another run', () => {
    const other = placed('circle', (r) => Object.assign(r.spacing, { mode: 'count', count: 3 }));
    const context = { ...CONTEXT, arrangement: (id: string) => (id === 'other' ? other : undefined) };
    const aimed = (target: Run['facing']['target']) =>
      placed(
        'line',
        (r) => {
          r.facing.heading = 'target';
          r.facing.target = target;
        },
        context,
      );
    const p = aimed({ kind: 'point', position: [6, 9, 8] });
    for (let i = 0; i < p.count; i++) {
      const [dx, dz] = [6 - at(p, i)[0], 8 - at(p, i)[2]];
      expect(front(p, i)).toEqual(near([dx / Math.hypot(dx, dz), 0, dz / Math.hypot(dx, dz)]));
    }
    const q = aimed({ kind: 'path', path: 'two' });
    for (let i = 1; i < q.count; i++) expect(Math.abs(front(q, i)[0])).toBeLessThanOrEqual(1);
    const r = aimed({ kind: 'props', arrangement: 'other', slot: '1' });
    for (let i = 0; i < r.count; i++) {
      const d = at(other, 0).map((v, a) => v - at(r, i)[a]);
      const l = Math.hypot(d[0], d[2]);
      if (l > 1e-6) expect(front(r, i)).toEqual(near([d[0] / l, 0, d[2] / l]));
    }
    const missing = evaluateRun(
      run('line', (x) => {
        x.facing.heading = 'target';
        x.facing.target = { kind: 'path', path: 'gone' };
      }),
      CONTEXT,
    );
    expect(missing.findings.map((f) => f.kind)).toContain('target-missing');
    expect(missing.placements.count).toBeGreaterThan(5);
  });

  test('alternate flips: every second turned about, or mirrored', () => {
    const turned = placed('line', (r) => (r.facing.alternate = 'turn'));
    const mirrored = placed('line', (r) => (r.facing.alternate = 'mirror'));
    for (let i = 0; i < turned.count; i++) {
      expect(front(turned, i)[0]).toBeCloseTo(i % 2 ? -1 : 1, 9);
      expect([...mirrored.scale.subarray(i * 3, i * 3 + 3)]).toEqual([i % 2 ? -1 : 1, 1, 1]);
    }
  });

  test('the lateral offset follows its ramp', () => {
    const p = placed('line', (r) => {
      Object.assign(r.spacing, { mode: 'count', count: 5 });
      r.facing.sideRamp = [
        [0, 0],
        [0.5, 2],
        [1, 0],
      ];
    });
    expect([...Array(5).keys()].map((i) => at(p, i)[2])).toEqual(near([0, 1, 2, 1, 0]));
  });
});

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

test('end to end: what does not fit says so, and rows far outside the bends have all their props', () => {
  const { placements, findings } = evaluateRun(
    run('line', (r) => {
      Object.assign(r.spacing, { mode: 'touch', leftover: 'end' });
      r.facing.size = 40;
    }),
    CONTEXT,
  );
  expect([placements.count, findings[0].kind]).toEqual([0, 'nothing-fits']);
  const wide = placed('circle', (r) => {
    r.spacing.mode = 'touch';
    Object.assign(r.spacing.rows, { side: 'both', distance: 16, count: 1 });
  });
  const outside = [...Array(wide.count).keys()].filter(
    (i) => Math.hypot(at(wide, i)[0], at(wide, i)[2]) > 10,
  );
  expect(outside.length).toBe(Math.round(Math.PI / Math.asin(0.25 / 13)));
});

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

test('several strokes of change: count, seed of one channel, order and one point move nothing that they must not', () => {
  const settings = (r: Run) => {
    Object.assign(r.spacing, { mode: 'pitch', pitch: 0.7, leftover: 'end' });
    r.variation.turnDeg = [-20, 20];
    r.variation.spread.turnDeg = 'bell';
    r.variation.size = [0.8, 1.2];
    r.gaps.chance = 0.3;
    r.hand = { '4': { side: 0.3 }, '6': { removed: true } };
  };
  const base = placed('line', settings);
  const longer = placed('line', (r) => {
    settings(r);
    r.spacing.insetEnd = 2;
  });
  for (let i = 0; i < longer.count; i++) {
    expect(longer.slot[i]).toBe(base.slot[i]);
    expect(at(longer, i)).toEqual(at(base, i));
    expect(longer.state[i]).toBe(base.state[i]);
  }
  const ordered = placed('line', (r) => {
    settings(r);
    r.order.entries.push(newEntry('e5', { kind: 'prop', prop: 'd' }));
  });
  expect([ordered.position, ordered.rotation, ordered.scale, ordered.state]).toEqual([
    base.position,
    base.rotation,
    base.scale,
    base.state,
  ]);
  const sized = placed('line', (r) => {
    settings(r);
    r.variation.size = [1, 3];
    r.variation.mirror = 0.5;
    r.variation.tint.colors = ['#b4472f'];
  });
  expect([sized.position, sized.rotation, sized.state]).toEqual([base.position, base.rotation, base.state]);
  expect(sized.tint).toHaveLength(base.count * 3);
});

test('any recipe the schema admits gives finite numbers and unit rotations', () => {
  const angle = fc.double({ min: -720, max: 720, noNaN: true });
  const metre = fc.double({ min: -20, max: 20, noNaN: true });
  const pair = (a: fc.Arbitrary<number>) => fc.tuple(a, a);
  const factor = fc.double({ min: 0.2, max: 4, noNaN: true });
  const share = fc.double({ min: 0, max: 1, noNaN: true });
  const ramp = fc.oneof(
    fc.constant([]),
    fc.array(fc.tuple(share, metre), { maxLength: 4 }).map((l) => l.sort((a, b) => a[0] - b[0])),
  );
  const special = fc.constantFrom(null, { kind: 'rest' as const }, { kind: 'prop' as const, prop: 'b' });
  const recipe = fc.record({
    spacing: fc.record({
      mode: fc.constantFrom('pitch', 'count', 'touch', 'divide', 'points'),
      pitch: fc.oneof(fc.constant(null), fc.double({ min: -1, max: 20, noNaN: true })),
      leftover: fc.constantFrom('even', 'end', 'centre'),
      count: fc.integer({ min: 1, max: 60 }),
      ends: fc.constantFrom('included', 'half'),
      clearance: fc.double({ min: -2, max: 2, noNaN: true }),
      parts: fc.integer({ min: 1, max: 30 }),
      per: fc.constantFrom('whole', 'side', 'quadrant'),
      every: fc.integer({ min: 1, max: 5 }),
      from: fc.integer({ min: 0, max: 5 }),
      withEnds: fc.boolean(),
      at: fc.constantFrom('points', 'corners', 'midpoints'),
      insetStart: metre,
      insetEnd: metre,
      looseBy: fc.double({ min: 0, max: 5, noNaN: true }),
      density: ramp,
      rows: fc.record({
        count: fc.integer({ min: 1, max: 3 }),
        distance: metre,
        stagger: share,
        side: fc.constantFrom('middle', 'left', 'right', 'both', 'alternate'),
        mirrored: fc.boolean(),
      }),
    }),
    facing: fc.record({
      heading: fc.constantFrom('along', 'across', 'outward', 'compass', 'target'),
      target: fc.constantFrom(
        { kind: 'point', position: [0, 0, 0] },
        { kind: 'path', path: 'line' },
        { kind: 'path', path: 'gone' },
      ),
      alternate: fc.constantFrom('none', 'turn', 'mirror'),
      posture: fc.constantFrom('upright', 'slope', 'bank'),
      compassDeg: angle,
      side: metre,
      sideRamp: ramp,
      lift: metre,
      turnDeg: angle,
      tipDeg: angle,
      rollDeg: angle,
      size: factor,
    }),
    variation: fc.record({
      along: pair(metre),
      side: pair(metre),
      turnDeg: pair(angle),
      turnStepDeg: fc.constantFrom(0, 7, 400),
      rollDeg: pair(angle),
      size: pair(factor),
      sizeY: pair(factor),
      mirror: share,
      spread: fc.record({ turnDeg: fc.constantFrom('uniform', 'bell', 'extremes') }),
      tint: fc.record({ colors: fc.constantFrom([], ['#123456']), strength: pair(share) }),
      perProp: fc.constantFrom({}, { a: { size: [2, 3] } }),
    }),
    gaps: fc.record({
      chance: share,
      longest: fc.constantFrom(null, 1, 3),
      taken: fc.record({ share, from: fc.constantFrom('start', 'end', 'random') }),
      after: fc.constantFrom('hole', 'close'),
      collide: fc.constantFrom('ignore', 'leave-out'),
      keepOuts: fc.constantFrom(
        [],
        [{ id: 'k', kind: 'range', from: 1, to: 2 }],
        [{ id: 'k', kind: 'region', path: 'circle' }],
      ),
    }),
    pulley: fc.record({ offset: metre, ends: fc.constantFrom('clip', 'wrap') }),
    hand: fc.constantFrom(
      {},
      { '2': { removed: true } },
      { '3': { along: 1, turnDeg: 4, size: 2 }, 'r1.2': { lift: 1 } },
    ),
    order: fc.record({
      mode: fc.constantFrom('pattern', 'mix'),
      bag: fc.boolean(),
      noRepeats: fc.boolean(),
      entries: fc.constant(run('line', undefined, ['a', 'b']).order.entries),
      first: special,
      last: special,
      corner: special,
    }),
    seed: fc.integer({ min: -100, max: 100 }),
  });
  fc.assert(
    fc.property(recipe, fc.constantFrom('steep', 'circle', 'square', 'two'), (settings, path) => {
      const r = runSchema.parse({ ...run(path), ...settings });
      const { placements: p, findings } = evaluateRun(r, CONTEXT);
      for (const numbers of [p.position, p.rotation, p.scale, p.s])
        expect(numbers.every(Number.isFinite)).toBe(true);
      // One look over all: an expectation for each of a hundred thousand slots would take the time itself.
      const rows = Array.from({ length: p.count }, (_, i) => i);
      const isUnit = (i: number) => Math.abs(Math.hypot(...p.rotation.subarray(i * 4, i * 4 + 4)) - 1) < 1e-9;
      expect(rows.filter((i) => !isUnit(i))).toEqual([]);
      expect(rows.filter((i) => p.prop[i] < 0 && p.state[i] === STATE.placed)).toEqual([]);
      expect(new Set(p.slot).size).toBe(p.count);
      if (p.count === 0 && !['divide', 'points'].includes(r.spacing.mode))
        expect(findings.length).toBeGreaterThan(0);
    }),
    { numRuns: cases(5000) },
  );
});
