import { asResult, circlePoints, compiled, points } from '../../testing/paths';
import { newEntry, newRun } from '../../scene/defaults';
import { quatRotate } from '../../math/quat';
import type { CompileResult } from '../../curve/compile';
import type { ArrangeContext, PropFacts } from '../context';
import { STATE } from '../result';
import { slotName } from '../slotId';
import { evaluateRun } from './evaluate';
import type { Run } from './schema';

const ready = (length: number): PropFacts => ({
  state: 'ready',
  bounds: { min: [-0.2, 0, -length / 2], max: [0.2, 1, length / 2] },
});

function context(
  paths: Record<string, CompileResult>,
  props: Record<string, PropFacts> = { a: ready(0.5), b: ready(0.8) },
): ArrangeContext {
  return { path: (id) => paths[id], prop: (id) => props[id] };
}

const line = compiled(
  points('corner', [
    [0, 0, 0],
    [10, 0, 0],
  ]),
);
const circle = compiled(circlePoints(5, 16), true);
const CONTEXT = context({ line: asResult(line), circle: asResult(circle) });

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

const row = (a: Float64Array, i: number, width: number) => [...a.subarray(i * width, i * width + width)];
const front = (q: number[]) => quatRotate(q as [number, number, number, number], [0, 0, 1]);

describe('a run on a circle against closed forms', () => {
  test('positions, headings and arc lengths', () => {
    const r = run('circle', (x) => {
      x.spacing.mode = 'count';
      x.spacing.count = 12;
      x.facing.side = 1;
      x.facing.lift = 0.25;
    });
    const { placements: p } = evaluateRun(r, CONTEXT);
    for (let i = 0; i < 12; i++) {
      const a = (2 * Math.PI * i) / 12;
      // The path runs counter-clockwise seen from above; to the right is outside.
      const [x, y, z] = row(p.position, i, 3);
      expect(x).toBeCloseTo(6 * Math.cos(a), 4);
      expect(y).toBeCloseTo(0.25, 9);
      expect(z).toBeCloseTo(-6 * Math.sin(a), 4);
      const f = front(row(p.rotation, i, 4));
      expect(f[0]).toBeCloseTo(-Math.sin(a), 4);
      expect(f[2]).toBeCloseTo(-Math.cos(a), 4);
    }
  });

  test('outward points away from the middle, whichever way the path runs', () => {
    for (const heading of ['outward', 'across'] as const) {
      const { placements: p } = evaluateRun(
        run('circle', (x) => (x.facing.heading = heading)),
        CONTEXT,
      );
      for (let i = 0; i < p.count; i++) {
        const f = front(row(p.rotation, i, 4));
        const at = row(p.position, i, 3);
        expect((f[0] * at[0] + f[2] * at[2]) / 5).toBeCloseTo(1, 4);
      }
    }
  });
});

describe('independence', () => {
  const busy = (x: Run) => {
    x.spacing.pitch = 0.1;
    x.variation.turnDeg = [-90, 90];
    x.variation.size = [0.5, 1.5];
    x.gaps.chance = 0.2;
  };
  test('changing one setting leaves the draws of every other', () => {
    const base = evaluateRun(run('line', busy), CONTEXT).placements;
    const tipped = evaluateRun(
      run('line', (x) => (busy(x), (x.variation.tipDeg = [-10, 10]))),
      CONTEXT,
    ).placements;
    expect(tipped.scale).toEqual(base.scale);
    expect(tipped.state).toEqual(base.state);
    expect(tipped.position).toEqual(base.position);
    const fewer = evaluateRun(
      run('line', (x) => (busy(x), (x.gaps.chance = 0.05))),
      CONTEXT,
    ).placements;
    for (let i = 0; i < base.count; i++) {
      if (fewer.state[i] === STATE.chance) expect(base.state[i]).toBe(STATE.chance);
    }
    expect(fewer.rotation).toEqual(base.rotation);
  });

  test('the hand’s decisions win over everything, by slot name', () => {
    const r = run('line', (x) => {
      x.spacing.pitch = 1;
      x.gaps.keepOuts = [{ id: 'k', kind: 'range', name: 'K', part: 0, stroke: 0, from: 2.5, to: 6.5 }];
      x.hand = { '2': { removed: true }, '5': { removed: false } };
    });
    const { state } = evaluateRun(r, CONTEXT).placements;
    expect([...state]).toEqual([
      0,
      STATE.hand,
      0,
      STATE.keepOut,
      0,
      STATE.keepOut,
      STATE.keepOut,
      0,
      0,
      0,
      0,
    ]);
  });

  test('several paths: each has its own part in the slot ids, and its own keep-outs', () => {
    const r = run('line', (x) => {
      x.paths.push({ part: 3, path: 'circle' });
      x.spacing.pitch = 2;
      x.gaps.keepOuts = [{ id: 'k', kind: 'range', name: 'K', part: 3, stroke: 0, from: 30, to: 4 }];
    });
    const { placements: p, parts } = evaluateRun(r, CONTEXT);
    expect(parts.map((x) => [x.part, x.end - x.start])).toEqual([
      [0, 6],
      [3, 16],
    ]);
    for (let i = 0; i < 6; i++) expect(p.state[i]).toBe(0);
    // Over the seam of the loop.
    for (let i = 6; i < p.count; i++) expect(p.state[i] === STATE.keepOut).toBe(p.s[i] >= 30 || p.s[i] <= 4);
  });
});

describe('findings', () => {
  const kinds = (r: Run, c = CONTEXT) => evaluateRun(r, c).findings.map((f) => f.kind);
  test('what is missing is named, and the rest goes on', () => {
    expect(kinds(run('nowhere'))).toEqual(['path-missing']);
    expect(kinds(run('line', () => {}, []))).toContain('no-props');
    expect(kinds(run('line', () => {}, ['gone']))).toEqual(['prop-missing']);
    expect(kinds(run('line', (x) => (x.paths = [])))).toEqual(['no-path']);
    const missing = context({ line: asResult(line) }, { a: { state: 'mesh-missing' }, b: ready(1) });
    const result = evaluateRun(
      run('line', () => {}, ['a', 'b']),
      missing,
    );
    expect(result.findings.map((f) => f.kind)).toEqual(['mesh-missing']);
    expect(result.placements.count).toBeGreaterThan(3);
  });

  test('a limit comes with its number and the pitch that would do', () => {
    const { findings, placements } = evaluateRun(
      run('line', (x) => (x.spacing.pitch = 1e-9)),
      CONTEXT,
    );
    expect(placements.count).toBe(0);
    expect(findings[0]).toMatchObject({
      kind: 'too-many-slots',
      detail: { limit: 500_000, wanted: expect.any(Number) },
    });
    const enough = Number(findings[0].detail.least) * 1.001;
    expect(
      evaluateRun(
        run('line', (x) => (x.spacing.pitch = enough)),
        CONTEXT,
      ).placements.count,
    ).toBeGreaterThan(400_000);
  });

  test('props that reach into each other are found by their true lengths', () => {
    const tight = (pitch: number) =>
      kinds(run('line', (x) => Object.assign(x.spacing, { pitch, leftover: 'end' })));
    expect(tight(0.51)).toEqual([]);
    expect(tight(0.49)).toEqual(['too-tight']);
  });
});

test('ten thousand strokes of one path carry slots, each with an id of its own that stays', () => {
  const strokes = Array.from({ length: 10_000 }, (_, i) =>
    compiled(
      points('corner', [
        [i, 0, 0],
        [i, 0, 2],
      ]),
    ),
  );
  const many = (spacing: Partial<Run['spacing']>) =>
    evaluateRun(
      run('many', (r) => Object.assign(r.spacing, spacing)),
      context({ many: asResult(...strokes) }),
    );
  for (const spacing of [
    { mode: 'count' as const, count: 3 },
    { mode: 'divide' as const, parts: 2, per: 'side' as const },
  ]) {
    const { placements, findings } = many(spacing);
    expect(findings.filter((f) => f.severity === 'error' || f.kind === 'too-many-strokes')).toEqual([]);
    expect(placements.count).toBe(30_000);
    expect(new Set(placements.slot).size).toBe(30_000);
    // The last of a stroke lies at its end, and its name tells the stroke.
    const row = placements.count - 1;
    expect([...placements.position.subarray(row * 3, row * 3 + 3)]).toEqual([9999, 0, 2]);
    expect(slotName(placements.slot[row])).toBe('k9999.3');
  }
  // A slot that a hand took out stays out, whatever stroke it is on.
  const r = run('many', (one) => {
    Object.assign(one.spacing, { mode: 'count', count: 3 });
    one.hand = { 'k300.2': { removed: true } };
  });
  const { placements } = evaluateRun(r, context({ many: asResult(...strokes) }));
  expect([...placements.state].flatMap((state, i) => (state === STATE.hand ? [i] : []))).toEqual([901]);
});
