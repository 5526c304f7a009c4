import { distance, dot, sub, type Vec3 } from '../../math/vec3';
import { GAP_REASONS, STATE } from '../result';
import type { EvaluatedArrangement } from '../../evaluate/scene';
import type { Scene } from '../../scene/schema';
import { volumeOf } from '../../testing/meshes';
import { slotName } from '../slotId';
import { placed, sheet, turn, worked } from '../../testing/sheets';

/** Sheets against closed forms: cylinders, cones and planes, where every place is known. */

describe('a ring of the grid', () => {
  test.each([
    ['none', 7],
    ['brick', 12],
  ])('round a cylinder (%s) has as many as columns, equally far apart over the seam too', (stagger, n) => {
    const { placements, at } = worked(sheet({ grid: { columns: n, rows: 4, stagger } }), { radius: 2 });
    expect(placements.count).toBe(4 * n);
    for (let row = 0; row < 4; row++)
      for (let i = 0; i < n; i++) {
        // Lengths run along the faces of the 60-sided form: alike from any place to the one as many faces on.
        const here = at(row * n + i);
        const next = at(row * n + ((i + 1) % n));
        const angle = (p: Vec3) => Math.atan2(p[2], p[0]);
        let step = Math.abs(angle(next) - angle(here));
        if (step > Math.PI) step = 2 * Math.PI - step;
        expect(Math.abs(here[1] - next[1])).toBeLessThan(1e-9);
        expect(step).toBeCloseTo((2 * Math.PI) / n, 2);
      }
    const apart = Array.from({ length: n }, (_, i) => distance(at(i), at((i + 1) % n)));
    // As many columns as divide the sides meet them alike: then even chords are the same.
    if (60 % n === 0) for (const d of apart) expect(Math.abs(d - apart[0])).toBeLessThan(1e-6);
  });

  test('props stand out from the wall with their fronts up it', () => {
    const { placements, at } = worked(sheet({ grid: { columns: 6, rows: 2 } }), { radius: 2, top: 2 });
    for (const i of placed(placements)) {
      const out = turn(placements, i, [0, 1, 0]);
      const p = at(i);
      expect(dot(out, [p[0] / 2, 0, p[2] / 2])).toBeGreaterThan(0.99);
      expect(dot(turn(placements, i, [0, 0, 1]), [0, 1, 0])).toBeCloseTo(1, 9);
    }
  });

  test('fewer columns where the wall is narrow, each row even', () => {
    const {
      placements,
      at,
      sheet: flat,
    } = worked(sheet({ grid: { columns: 24, rows: 5, follow: true } }), { radius: 3, top: 1, height: 5 });
    // Of the five rows the lengths are known: those of a cone at the middle of each fifth of its side.
    const rows = [0.1, 0.3, 0.5, 0.7, 0.9].map((t) => 3 - 2 * t);
    const n = rows.map((r) => Math.round((24 * r) / 3));
    expect(placements.count).toBe(n.reduce((a, b) => a + b, 0));
    let first = 0;
    n.forEach((count, j) => {
      for (let i = 0; i < count; i++) {
        const p = at(first + i);
        expect(p[1]).toBeCloseTo(5 * [0.1, 0.3, 0.5, 0.7, 0.9][j], 6);
        const angle = Math.atan2(-p[2], p[0]) / (2 * Math.PI);
        const share = (i + 0.5) / count;
        expect(Math.abs(((angle + 1) % 1) - share)).toBeLessThan(2e-3);
      }
      first += count;
    });
    expect(flat!.width).toBeCloseTo(2 * 60 * 3 * Math.sin(Math.PI / 60), 5);
    expect(flat!.height).toBeCloseTo(Math.hypot(2, 5), 6);
  });
});

describe('the layout', () => {
  const plane = { shape: 'plane', width: 8, depth: 4, columns: 7, rows: 3 };
  const names = (r: EvaluatedArrangement) => placed(r.placements).length;

  test('columns and rows come from the footprint; margins, skips, chance and the hand take places', () => {
    // The box is 0.4 wide and 0.5 long.
    expect(worked(sheet(), plane).placements.count).toBe(20 * 8);
    const grid = { columns: 10, rows: 4 };
    const whole = worked(sheet({ grid }), plane);
    expect(whole.at(0)).toEqual([-3.6, 0, 1.5].map((x) => expect.closeTo(x, 6)));
    const inset = worked(sheet({ grid: { ...grid, left: 2, bottom: 1 } }), plane);
    expect(inset.at(0)).toEqual([-1.7, 0, 1 - 0.375].map((x) => expect.closeTo(x, 6)));
    expect(names(worked(sheet({ grid: { ...grid, skipRows: { every: 2, from: 2 } } }), plane))).toBe(20);
    expect(
      names(worked(sheet({ grid: { ...grid, skipColumns: { every: 5, from: 1, keep: true } } }), plane)),
    ).toBe(8);
    expect(names(worked(sheet({ grid: { ...grid, skipCells: { every: 3, from: 1 } } }), plane))).toBe(26);
    const hand = { '1': { removed: true }, 'r1.2': { side: 0.25, along: -0.1, turnDeg: 90 } };
    const byHand = worked(sheet({ grid, hand }), plane);
    expect(GAP_REASONS[byHand.placements.state[0]]).toBe('hand');
    expect(sub(byHand.at(11), whole.at(11))).toEqual([0.25, 0, 0.1].map((x) => expect.closeTo(x, 6)));
    const some = worked(sheet({ grid, gaps: { chance: 0.4 } }), plane).placements;
    // The same ones and more with a greater share.
    const more = worked(sheet({ grid, gaps: { chance: 0.6 } }), plane).placements;
    expect(some.state.some((s) => s === STATE.chance)).toBe(true);
    some.state.forEach((s, i) => s === STATE.chance && expect(more.state[i]).toBe(STATE.chance));
  });

  test('staggered: brick leaves half a cell out at open ends, drop lifts columns, hex has six neighbours alike', () => {
    const brick = worked(sheet({ grid: { columns: 4, rows: 2, stagger: 'brick' } }), plane);
    expect(brick.placements.count).toBe(7);
    expect(brick.at(4)[0]).toBeCloseTo(-2, 6);
    const drop = worked(sheet({ grid: { columns: 4, rows: 2, stagger: 'drop' } }), plane);
    // As brick at the right, half a place at the top of a second column has no room.
    expect(drop.placements.count).toBe(6);
    expect(drop.at(1)[2]).toBeCloseTo(drop.at(0)[2] - 1, 6);
    // Exactly, whatever the depth: what is left over is shared by both ends.
    const hex = worked(sheet({ grid: { columns: 8, stagger: 'hex' } }), { ...plane, depth: 7.3 });
    const p = placed(hex.placements).map(hex.at);
    const middle = p.reduce((a, b) => (distance(a, [0, 0, 0]) < distance(b, [0, 0, 0]) ? a : b));
    const near = p.map((q) => distance(q, middle)).filter((d) => d > 1e-9 && d < 1.2);
    expect(near.length).toBe(6);
    for (const d of near) expect(d).toBeCloseTo(1, 5);
    const z = p.map((q) => q[2]);
    expect(Math.max(...z)).toBeCloseTo(-Math.min(...z), 6);
  });

  test('the order of props runs across or up', () => {
    const order = {
      entries: [
        { id: 'e', item: { kind: 'prop', prop: 'p' } },
        { id: 'f', item: { kind: 'pause' } },
      ],
    };
    const slots = (dir: string) => {
      const { placements: p } = worked(sheet({ order, grid: { columns: 4, rows: 3, order: dir } }), plane);
      return new Set(placed(p).map((i) => p.slot[i]));
    };
    const across = slots('across');
    const up = slots('up');
    expect(across.size).toBe(6);
    expect(up).not.toEqual(across);
  });

  test('corners of the grid have their own prop, and entries may be held to rows', () => {
    const entry = (id: string, zones: number[] = []) => ({ id, item: { kind: 'prop', prop: 'p' }, zones });
    const cornered = { entries: [entry('e')], corner: { kind: 'pause' } };
    const { placements: p } = worked(sheet({ order: cornered, grid: { columns: 4, rows: 3 } }), plane);
    const empty = [...p.slot].filter((_, i) => p.state[i] === STATE.pause);
    expect(empty.map(slotName)).toEqual(['1', '4', 'r2.1', 'r2.4']);
    const rowed = { entries: [entry('e', [2])] };
    const { placements: q } = worked(sheet({ order: rowed, grid: { columns: 4, rows: 3 } }), plane);
    expect(placed(q).map((i) => slotName(q.slot[i]))).toEqual(['r1.1', 'r1.2', 'r1.3', 'r1.4']);
  });

  test('free items keep their layout places; outside the patch they are missed and told of', () => {
    const items = [
      { id: 'item1', prop: 'p', at: [1, 1], turnDeg: 30 },
      { id: 'item2', prop: 'p', at: [9, 1] },
    ];
    const r = worked(sheet({ grid: { on: false }, items }), plane);
    expect(r.at(0)).toEqual([-3, 0, 1].map((x) => expect.closeTo(x, 6)));
    expect(GAP_REASONS[r.placements.state[1]]).toBe('missed');
    expect(r.findings.map((f) => f.kind)).toContain('sheet-missed');
    const front = turn(r.placements, 0, [0, 0, 1]);
    expect(Math.acos(-front[2]) * (180 / Math.PI)).toBeCloseTo(30, 6);
  });
});

describe('the corner match', () => {
  const plane = { shape: 'plane', width: 8, depth: 4 };
  const cornerAt = (match: object) => {
    const r = worked(sheet({ match: { guess: false, ...match }, grid: { columns: 8, rows: 4 } }), plane);
    const up = turn(r.placements, 0, [0, 1, 0]);
    const x = Array.from(r.placements.position.subarray(3, 6)).map((v, i) => v - r.at(0)[i]);
    return { at: r.at(0), up, across: x };
  };
  test.each([
    [{}, [-3.5, 0, 1.5], [1, 0, 0], 1],
    [{ flipU: true }, [3.5, 0, 1.5], [-1, 0, 0], 1],
    [{ flipV: true }, [-3.5, 0, -1.5], [1, 0, 0], 1],
    [{ otherSide: true }, [-3.5, 0, 1.5], [1, 0, 0], -1],
  ])('%j begins at %j and runs along %j', (match, at, across, side) => {
    const got = cornerAt(match);
    expect(got.at).toEqual(at.map((x) => expect.closeTo(x, 6)));
    expect(got.across).toEqual(across.map((x) => expect.closeTo(x, 6)));
    expect(got.up[1]).toBeCloseTo(side, 9);
  });
  test('swapped, rows run along v', () => {
    const { at, across } = cornerAt({ swap: true });
    expect(at).toEqual([-3, 0, 1.75].map((x) => expect.closeTo(x, 6)));
    expect(across).toEqual([0, 0, -0.5].map((x) => expect.closeTo(x, 6)));
  });
  test('a bent item is never mirrored, whichever corner is matched', () => {
    for (const match of [
      {},
      { flipU: true },
      { swap: true },
      { otherSide: true },
      { flipU: true, otherSide: true },
    ]) {
      const r = worked(
        sheet({ match: { guess: false, ...match }, grid: { columns: 6, rows: 2 }, facing: { bend: true } }),
        {
          radius: 2,
        },
      );
      const bent = r.placements.bent![0];
      // The signed volume of the box, whole and positive.
      const volume = volumeOf(bent.positions, bent.indices);
      expect(volume).toBeGreaterThan(0.08);
      expect(volume).toBeLessThan(0.16);
    }
  });
});

/** A cylinder of which everything is known: u around, v up. */

test('a frame lays its items onto a sphere along its normal, and to the nearest place', () => {
  const over = { kind: 'frame', position: [0, 3, 0], rotation: [0, 0, 0, 1], along: 'normal', reach: 5 };
  const grid = { columns: 3, rows: 3 };
  const wall = { shape: 'sphere', radius: 2, columns: 96, rows: 64 };
  const up = (s: Scene) => (s.surfaces[0].position = [0, 0, 0]);
  const r = worked(sheet({ over, width: 1.5, height: 1.5, grid }), wall, up);
  expect(placed(r.placements).length).toBe(9);
  for (const i of placed(r.placements)) {
    const p = r.at(i);
    const centre = r.at(4);
    expect(Math.hypot(p[0], p[2], p[1] - (centre[1] - 2))).toBeCloseTo(2, 2);
    const [x, y] = [r.sheet!.at[i * 2] - 0.75, r.sheet!.at[i * 2 + 1] - 0.75];
    // The sheet's right is the frame's −X.
    expect(p[0]).toBeCloseTo(-x, 6);
    expect(p[2]).toBeCloseTo(y, 6);
  }
});

/** The quaternion whose rotation has these columns. */
