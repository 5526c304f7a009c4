import fc from 'fast-check';
import { newEntry } from '../../scene/defaults';
import { STATE } from '../result';
import { evaluateRun } from './evaluate';
import { runSchema, type Run } from './schema';
import { cases } from '../../testing/prove';
import { at, CONTEXT, front, placed, run } from '../../testing/runs';

/** Runs with the whole of their recipe, against closed forms and against themselves under edits. */

const near = (v: number[]) => v.map((x) => expect.closeTo(x, 6));

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

  test('turned more each: the k-th as if all were turned by k times so much', () => {
    const each = placed('line', (r) => Object.assign(r.facing, { turnDeg: 10, turnEachDeg: 25 }));
    for (let i = 0; i < each.count; i++) {
      const all = placed('line', (r) => (r.facing.turnDeg = 10 + 25 * i));
      front(each, i).forEach((v, axis) => expect(v).toBeCloseTo(front(all, i)[axis], 12));
    }
    expect(each.count).toBeGreaterThan(5);
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
  const special = fc.constantFrom(null, { kind: 'pause' as const }, { kind: 'prop' as const, prop: 'b' });
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
      turnEachDeg: fc.oneof(fc.constant(0), angle),
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
