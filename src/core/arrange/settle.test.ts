import { inBlocks } from './pegs/blocks';
import { Evaluator } from '../evaluate/scene';
import { quatRotate, type Quat } from '../math/quat';
import { distance, type Vec3 } from '../math/vec3';
import { shapeSchema } from '../mesh/make/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../scene/defaults';
import { sceneSchema, type Scene } from '../scene/schema';
import { ASSETS } from '../testing/scene';
import { arrangementSchema, has, kindOf, newArrangement, type Arrangement } from './registry';
import { STATE, type Placements } from './result';
import { slotName } from './slotId';

/** What every kind can that has the blocks for it, in one scene: a run, a sheet, pegs, and riders, spans and strands on a run. */

const base = (id: string) => ({ id, name: id, thread: 'woad' as const });
const order = { entries: [newEntry('e', { kind: 'prop', prop: 'p' })] };

const KINDS: Record<string, Arrangement> = {
  run: newArrangement('run', base('run'), {
    paths: [{ part: 0, path: 'line' }],
    order,
    spacing: { mode: 'count', count: 24 },
  }),
  sheet: newArrangement('sheet', base('sheet'), { surface: 'plane', order, grid: { columns: 9, rows: 5 } }),
  riders: newArrangement('riders', base('riders'), {
    on: 'leaders',
    props: [{ prop: 'p' }],
    offset: [0.1, 0, 0.2],
  }),
  scatter: newArrangement('scatter', base('scatter'), {
    over: { kind: 'surfaces', surfaces: ['plane'] },
    props: [{ prop: 'p' }],
    spread: { how: 'loose', amount: 'number', number: 40 },
  }),
  stock: newArrangement('stock', base('stock'), {
    shelves: [{ from: 'path', path: 'line', part: 0, depth: 0.6, levels: [{ height: 4 }] }],
    order,
    filling: { air: 0.05, deepBy: 'count', deep: [1, 1], highBy: 'count', high: [1, 1] },
  }),
  // Their foot is their middle.
  spans: newArrangement('spans', base('spans'), { on: 'leaders', props: [{ prop: 'p' }] }),
  // Stood midway between their ends, too.
  strands: newArrangement('strands', base('strands'), { from: { on: 'leaders' }, props: [{ prop: 'p' }] }),
  pegs: newArrangement('pegs', base('pegs'), {
    pegs: inBlocks(
      Array.from({ length: 30 }, (_, i) => ({
        id: `peg${i + 1}`,
        prop: 'p',
        position: [(i % 6) * 0.9 - 2.2, 0, Math.floor(i / 6) * 0.7 - 1.4],
        rotation: [0, Math.sin(i), 0, Math.cos(i)],
        scale: [1.2, 1, 0.9],
      })),
    ),
  }),
};

/** An arrangement with its own values over it, worked out in its scene. */
function worked(kind: string, values: object = {}): Placements & { found: string[] } {
  const plane = newSurface('plane', 'Plane', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'plane', width: 8, depth: 4 }),
    color: '#D8CDB6',
  });
  const leaders = newRun('leaders', 'Leaders', 'moss', 'line', [newEntry('l', { kind: 'prop', prop: 'p' })]);
  leaders.spacing = { ...leaders.spacing, mode: 'count', count: 30 };
  const at = (id: string, x: number, z: number) => newPoint(id, 'corner', [x, 0, z]);
  const corners = [at('1', -1, -1), at('2', 1.5, -1), at('3', 1.5, 1), at('4', -1, 1)];
  const scene: Scene = sceneSchema.parse({
    ...emptyScene('Kinds'),
    props: ['p', 'q'].map((id) => newProp(id, id, { source: 'built', name: 'box' })),
    surfaces: [plane],
    paths: [
      newPath('line', 'Line', [at('a', -4, 0.3), at('b', 4, -0.4)]),
      newPath('field', 'Field', corners, true),
    ],
    arrangements: [{ ...KINDS[kind], ...values }, leaders],
  });
  const { placements, findings } = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
  return { ...placements, found: findings.map((f) => f.kind) };
}
const foot = (p: Placements, i: number): Vec3 => [...p.position.subarray(i * 3, i * 3 + 3)] as Vec3;
const placed = (p: Placements) => [...p.state.keys()].filter((i) => p.state[i] === STATE.placed);
const kinds = Object.keys(KINDS);
const withHand = kinds.filter((kind) => has(KINDS[kind], 'hand'));
const colliding = kinds.filter((kind) => {
  const a = KINDS[kind];
  return has(a, 'gaps') && 'collide' in a.gaps;
});

test.each(kinds)('%s: nothing stands in a closed path that is kept free, and all the rest stand', (kind) => {
  const keepOuts = [{ id: 'k', name: 'K', kind: 'region', path: 'field', where: 'inside' }];
  const [whole, kept] = [worked(kind), worked(kind, { gaps: { keepOuts } })];
  const inside = (i: number) => {
    const [x, , z] = foot(whole, i);
    return x > -1 && x < 1.5 && z > -1 && z < 1;
  };
  expect(placed(kept)).toEqual(placed(whole).filter((i) => !inside(i)));
  expect(placed(kept).length).toBeLessThan(placed(whole).length);
});

test.each(kinds)('%s: keeps away from a path by its distance', (kind) => {
  const keepOuts = [{ id: 'k', name: 'K', kind: 'near', of: { kind: 'path', id: 'field' }, distance: 0.4 }];
  const [whole, kept] = [worked(kind), worked(kind, { gaps: { keepOuts } })];
  // The field's border is four straight sides.
  const ring: Vec3[] = [
    [-1, 0, -1],
    [1.5, 0, -1],
    [1.5, 0, 1],
    [-1, 0, 1],
  ];
  const near = (at: Vec3) =>
    ring.some((a, k) => {
      const b = ring[(k + 1) % 4];
      const [dx, dz] = [b[0] - a[0], b[2] - a[2]];
      const t = Math.min(1, Math.max(0, ((at[0] - a[0]) * dx + (at[2] - a[2]) * dz) / (dx * dx + dz * dz)));
      return distance(at, [a[0] + dx * t, 0, a[2] + dz * t]) <= 0.4;
    });
  expect(placed(kept)).toEqual(placed(whole).filter((i) => !near(foot(whole, i))));
});

test.each(kinds)('%s: a share is taken, at random the same and more; from the start the first', (kind) => {
  const n = worked(kind).count;
  const gone = (share: number, from: string) => {
    const p = worked(kind, { gaps: { taken: { share, from } } });
    return [...p.state.keys()].filter((i) => p.state[i] === STATE.taken);
  };
  expect(gone(0.25, 'start')).toEqual(Array.from({ length: Math.round(n * 0.25) }, (_, i) => i));
  const few = gone(0.2, 'random');
  expect(few).toHaveLength(Math.round(n * 0.2));
  expect(gone(0.5, 'random')).toEqual(expect.arrayContaining(few));
});

test.each(colliding)('%s: what collides is left out, until no two boxes reach into each other', (kind) => {
  const larger: Record<string, object> = {
    riders: { size: 2 },
    scatter: { stand: { size: 2.2 } },
    pegs: { variation: { size: [2, 2] } },
  };
  const size = larger[kind] ?? { facing: { size: 2.2 } };
  const left = worked(kind, { ...size, gaps: { collide: 'leave-out' } });
  const rows = placed(left);
  expect(rows.length).toBeLessThan(worked(kind, size).count);
  expect([...left.state].filter((s) => s === STATE.collision)).toHaveLength(left.count - rows.length);
  // The box is 0.4 wide and 0.5 long about its foot: corners of one in the other's own space, both ways.
  const reach = (i: number, j: number) => {
    const q = [...left.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
    const back: Quat = [-q[0], -q[1], -q[2], q[3]];
    const [w, l] = [0.2 * left.scale[i * 3], 0.25 * left.scale[i * 3 + 2]];
    return [-1, -0.5, 0, 0.5, 1].some((a) =>
      [-1, -0.5, 0, 0.5, 1].some((b) => {
        const r = [...left.rotation.subarray(j * 4, j * 4 + 4)] as Quat;
        const corner = quatRotate(r, [0.2 * a * left.scale[j * 3], 0, 0.25 * b * left.scale[j * 3 + 2]]);
        const [to, from] = [foot(left, j), foot(left, i)];
        const [x, , z] = quatRotate(back, [0, 1, 2].map((k) => to[k] + corner[k] - from[k]) as Vec3);
        return Math.abs(x) < w - 1e-6 && Math.abs(z) < l - 1e-6;
      }),
    );
  };
  for (const i of rows) for (const j of rows) if (i < j) expect(reach(i, j) || reach(j, i)).toBe(false);
});

test.each(withHand)(
  '%s: a hand moves, turns, sizes, swaps, removes and locks single slots, and no others',
  (kind) => {
    const whole = worked(kind);
    const [a, b, c, d] = [2, 5, 7, 9];
    const name = (i: number) => slotName(whole.slot[i]);
    const lock = { prop: 'q', s: 1, position: [3, 2, 1], rotation: [0, 1, 0, 0], scale: [1, 2, 1] };
    const hand = {
      [name(a)]: { side: 0.3, lift: 0.2, turnDeg: 90, size: 1.5 },
      [name(b)]: { prop: 'q' },
      [name(c)]: { removed: true },
      [name(d)]: { lock },
    };
    const by = worked(kind, { hand });
    for (let i = 0; i < whole.count; i++) {
      if ([a, d].includes(i)) continue;
      expect(distance(foot(by, i), foot(whole, i))).toBeLessThan(1e-12);
      expect(by.state[i]).toBe(i === c ? STATE.hand : whole.state[i]);
      expect(by.props[by.prop[i]]).toBe(i === b ? 'q' : 'p');
    }
    const q = [...whole.rotation.subarray(a * 4, a * 4 + 4)] as Quat;
    // To the right is the other way along the prop's own X; up is its own.
    const moved = quatRotate(q, [-0.3, 0.2, 0]);
    expect(distance(foot(by, a), [0, 1, 2].map((k) => foot(whole, a)[k] + moved[k]) as Vec3)).toBeLessThan(
      1e-9,
    );
    expect(by.scale[a * 3]).toBeCloseTo(1.5 * whole.scale[a * 3], 12);
    const front = quatRotate([...by.rotation.subarray(a * 4, a * 4 + 4)] as Quat, [0, 0, 1]);
    const left = quatRotate(q, [1, 0, 0]);
    expect(distance(front, left)).toBeLessThan(1e-9);
    expect(foot(by, d)).toEqual(lock.position);
    // Through another seed and other settings it stays just so.
    const later = worked(kind, { hand, seed: 99, variation: { lift: [1, 2] } });
    expect(foot(later, d)).toEqual(lock.position);
    expect([...later.scale.subarray(d * 3, d * 3 + 3)]).toEqual(lock.scale);
  },
);

test('every kind is among these; those that have a hand say what a prop or slot that goes does', () => {
  expect(kinds.toSorted()).toEqual(arrangementSchema.options.map((o) => o.shape.kind.value).toSorted());
  for (const kind of withHand) {
    const a = KINDS[kind];
    expect(has(a, 'gaps')).toBe(true);
    const { removeSlots, withoutProp } = kindOf(a);
    const first = worked(kind).slot[0];
    const out = removeSlots!(a, [first], true) as { hand: object };
    expect(out.hand).toEqual({ [slotName(first)]: { removed: true } });
    expect(removeSlots!({ ...a, ...out } as Arrangement, [first], false)).toMatchObject({ hand: {} });
    const swapped = { ...a, hand: { [slotName(first)]: { prop: 'p', side: 1 } } } as Arrangement;
    expect(withoutProp(swapped, 'p')).toMatchObject({ hand: { [slotName(first)]: { side: 1 } } });
    expect(withoutProp(a, 'none')).toMatchObject({ hand: (a as { hand: object }).hand });
  }
});
