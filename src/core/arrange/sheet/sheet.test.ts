import { quatRotate, type Quat } from '../../math/quat';
import { distance, dot, sub, type Vec3 } from '../../math/vec3';
import { AT, type Chart } from '../../mesh/chart/chart';
import { GAP_REASONS, STATE, type Placements } from '../result';
import { Evaluator, type EvaluatedArrangement } from '../../evaluate/scene';
import { shapeSchema } from '../../mesh/make/schema';
import type { Mesh } from '../../mesh/mesh';
import { emptyScene, newProp, newSurface } from '../../scene/defaults';
import { pathSchema } from '../../curve/schema';
import type { Scene } from '../../scene/schema';
import { volumeOf } from '../../testing/meshes';
import { ASSETS } from '../../testing/scene';
import { slotName } from '../slotId';
import { sheetBender } from './bend';
import { newAt, sheetMap } from './map';
import { sheetSchema, type Sheet } from './schema';

/** Sheets against closed forms: cylinders, cones and planes, where every place is known. */

const sheet = (more: object = {}): Sheet =>
  sheetSchema.parse({
    id: 'tiles',
    kind: 'sheet',
    name: 'Tiles',
    thread: 'moss',
    surface: 'wall',
    order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
    ...more,
  });

/** The wall is a straight line from (radius, 0) to (top, height) turned about Y, or any other shape. */
function worked(
  tiles: Sheet,
  wall: { radius: number; top?: number; height?: number; columns?: number } | object,
  change: (scene: Scene) => void = () => {},
): EvaluatedArrangement & { at(i: number): Vec3 } {
  const turned =
    'radius' in wall && !('shape' in wall)
      ? (wall as { radius: number; top?: number; height?: number; columns?: number })
      : null;
  const scene: Scene = {
    ...emptyScene('Sheets'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [
      newSurface('wall', 'Wall', {
        source: 'made',
        shape: shapeSchema.parse(
          turned ? { shape: 'turned', path: 'profile', columns: turned.columns ?? 60, rows: 16 } : wall,
        ),
        color: '#D8CDB6',
      }),
    ],
    paths: turned
      ? [
          pathSchema.parse({
            id: 'profile',
            name: 'Profile',
            source: {
              kind: 'points',
              points: [
                { id: 'a', kind: 'corner', position: [turned.radius, 0, 0] },
                { id: 'b', kind: 'corner', position: [turned.top ?? turned.radius, turned.height ?? 6, 0] },
              ],
            },
          }),
        ]
      : [],
    arrangements: [tiles],
  };
  change(scene);
  const result = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
  const { position } = result.placements;
  return { ...result, at: (i) => [position[i * 3], position[i * 3 + 1], position[i * 3 + 2]] };
}

const placed = (p: Placements): number[] =>
  Array.from({ length: p.count }, (_, i) => i).filter((i) => p.state[i] === STATE.placed);
const turn = (p: Placements, i: number, v: Vec3) =>
  quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, v);

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
        { id: 'f', item: { kind: 'rest' } },
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
    const cornered = { entries: [entry('e')], corner: { kind: 'rest' } };
    const { placements: p } = worked(sheet({ order: cornered, grid: { columns: 4, rows: 3 } }), plane);
    const empty = [...p.slot].filter((_, i) => p.state[i] === STATE.rest);
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
const cylinder = (radius: number, height: number): Chart => ({
  u: [0, 1],
  v: [0, 1],
  closedU: true,
  closedV: false,
  at(u, v, out) {
    const [c, s] = [Math.cos(2 * Math.PI * u), Math.sin(2 * Math.PI * u)];
    const k = 2 * Math.PI * radius;
    out.set([radius * c, v * height, -radius * s, c, 0, -s, -k * s, 0, -k * c, 0, height, 0]);
    return true;
  },
  line: (stays) => ({
    at: Float64Array.of(0, 1),
    s: Float64Array.of(0, stays === 0 ? height : 2 * Math.PI * radius),
  }),
});

describe('bent items', () => {
  const mesh = {
    positions: Float64Array.from(
      [0, 1, 2, 3, 4, 5, 6, 7, 8].flatMap((i) => [
        (i % 3) * 0.4 - 0.4,
        0.1 * (i % 2),
        Math.floor(i / 3) * 0.3,
      ]),
    ),
    normals: Float64Array.from({ length: 27 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
    indices: Uint32Array.from([0, 3, 1, 1, 3, 4, 4, 5, 1, 1, 5, 2]),
    groups: [{ start: 0, count: 12, material: 0 }],
  };
  const box = { min: [-0.4, 0, 0] as Vec3, max: [0.4, 0.1, 0.6] as Vec3 };

  test('on a cylinder are where the closed form has them', () => {
    const [radius, height] = [1.5, 4];
    const tiles = sheet({ facing: { bend: true, tolerance: 1 } });
    const map = sheetMap(cylinder(radius, height), tiles);
    const [a, b] = [0.83, 0.3];
    const at = newAt();
    map.at(a, b, at);
    const bender = sheetBender(map, tiles.facing, [mesh], [box]);
    const out = {
      count: 1,
      props: ['p'],
      prop: Int32Array.of(0),
      slot: Float64Array.of(1),
      state: new Uint8Array(1),
      position: at.slice(AT.position, 3),
      rotation: new Float64Array(4),
      scale: Float64Array.of(1, 1, 1),
      s: new Float64Array(1),
    } as Placements;
    // Y out of the wall, Z up it.
    const angle = 2 * Math.PI * a;
    const [c, s] = [Math.cos(angle), Math.sin(angle)];
    const axes = [
      [s, 0, c],
      [c, 0, -s],
      [0, 1, 0],
    ];
    out.rotation.set(fromAxes(axes));
    bender.bend(a, b, at, [0, 1, 0], 0, out, 0);
    const bent = out.bent![out.shape![0]];
    for (let i = 0; i < 9; i++) {
      const [x, y, z] = [0, 1, 2].map((k) => mesh.positions[i * 3 + k]);
      // X is left: against the way round.
      const phi = angle - x / radius;
      const r = radius + y;
      const want: Vec3 = [r * Math.cos(phi), b * height + z, -r * Math.sin(phi)];
      const p = [...bent.positions.subarray(i * 3, i * 3 + 3)] as Vec3;
      const turned = quatRotate([...out.rotation] as Quat, p);
      const got: Vec3 = [
        turned[0] + out.position[0],
        turned[1] + out.position[1],
        turned[2] + out.position[2],
      ];
      expect(distance(got, want)).toBeLessThan(1e-9);
      const n = quatRotate([...out.rotation] as Quat, [...bent.normals.subarray(i * 3, i * 3 + 3)] as Vec3);
      expect(dot(n, [Math.cos(phi), 0, -Math.sin(phi)])).toBeCloseTo(1, 6);
    }
  });

  test('on a plane stay as they are; a mesh of a cylinder is as near as its chords', () => {
    const flat = worked(sheet({ facing: { bend: true }, grid: { columns: 6, rows: 3 } }), {
      shape: 'plane',
      width: 8,
      depth: 4,
    });
    expect(flat.placements.bent).toBeUndefined();
    const sides = 80;
    const round = worked(sheet({ facing: { bend: true }, grid: { columns: 8, rows: 2 } }), {
      radius: 2,
      columns: sides,
    });
    const p = round.placements;
    const chord = 2 * (1 - Math.cos(Math.PI / sides));
    for (const i of placed(p)) {
      const bent = p.bent![p.shape![i]];
      const own = ASSETS.mesh({ source: 'built', name: 'box' }) as Mesh;
      const lows = new Set<number>();
      for (let v = 0; v * 3 < bent.positions.length; v++) {
        const q = quatRotate(
          [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat,
          [...bent.positions.subarray(v * 3, v * 3 + 3)] as Vec3,
        );
        const r = Math.hypot(q[0] + round.at(i)[0], q[2] + round.at(i)[2]);
        // The box is 0.6 high, from the wall out.
        expect(r).toBeGreaterThan(2 - chord - 1e-6);
        expect(r).toBeLessThan(2.6 + 0.002);
        if (r < 2 + 1e-6) lows.add(v);
      }
      expect(lows.size).toBeGreaterThan(4);
      expect(bent.indices.length).toBeGreaterThanOrEqual(own.indices.length);
    }
    // Round a form that is the same all over, alike shapes are one; the faces meet each of eight columns alike.
    expect(p.bent!.length).toBe(1);
  });

  test('a prop may keep its shape among bent ones, and a hand may decide otherwise for one', () => {
    const order = ['p', 'q'].map((prop) => ({ id: prop, item: { kind: 'prop', prop } }));
    const two = (facing: object, hand: object = {}) => {
      const { placements: p } = worked(
        sheet({ order: { entries: order }, grid: { columns: 4, rows: 1 }, facing, hand }),
        { radius: 2, columns: 80 },
        (s) => s.props.push(newProp('q', 'Q', { source: 'built', name: 'box' })),
      );
      return [0, 1, 2, 3].map((i) => (p.shape?.[i] ?? -1) >= 0);
    };
    expect(two({ bend: true })).toEqual([true, true, true, true]);
    expect(two({ bend: true, rigid: ['q'] })).toEqual([true, false, true, false]);
    const hand = { '1': { bend: false }, '2': { bend: true } };
    expect(two({ bend: true, rigid: ['q'] }, hand)).toEqual([false, true, true, false]);
    expect(two({}, hand)).toEqual([false, true, false, false]);
  });

  test('an item across the seam is whole, and the same as one beside it', () => {
    const grid = { columns: 8, rows: 2, stagger: 'brick' };
    const { placements: p, at } = worked(sheet({ grid, facing: { bend: true } }), { radius: 2, columns: 80 });
    // The last of the moved row stands on the seam itself.
    const seam = placed(p).find((i) => at(i)[1] > 3 && Math.abs(Math.atan2(at(i)[2], at(i)[0])) < 1e-6)!;
    const beside = placed(p).find((i) => at(i)[1] > 3 && i !== seam)!;
    const extent = (i: number) => {
      const { positions } = p.bent![p.shape![i]];
      const x = positions.filter((_, k) => k % 3 === 0);
      return Math.max(...x) - Math.min(...x);
    };
    expect(extent(seam)).toBeCloseTo(extent(beside), 6);
    expect(extent(seam)).toBeLessThan(0.6);
  });

  test('relief is a factor on heights over the wall, and leaves what lies on it where it is', () => {
    const heights = (relief: number, lift = 0) => {
      const { placements: p, at } = worked(
        sheet({ facing: { bend: true, relief, lift }, grid: { columns: 8, rows: 2 } }),
        { radius: 2, columns: 80 },
      );
      const { positions } = p.bent![p.shape![0]];
      return Array.from({ length: positions.length / 3 }, (_, v) => {
        const q = turn(p, 0, [positions[v * 3], positions[v * 3 + 1], positions[v * 3 + 2]]);
        return Math.hypot(q[0] + at(0)[0], q[2] + at(0)[2]) - 2;
      });
    };
    const [plain, twice, over] = [1, 2.5, -0.5].map((relief) => heights(relief));
    // Lengths along the normal, to how far the sides of the wall are from round.
    plain.forEach((h, v) => {
      expect(Math.abs(twice[v] - 2.5 * h)).toBeLessThan(0.004);
      expect(Math.abs(over[v] + 0.5 * h)).toBeLessThan(0.004);
    });
    // Lifted by as much everywhere, thickness kept.
    heights(1, 0.2).forEach((h, v) => expect(Math.abs(h - plain[v] - 0.2)).toBeLessThan(0.004));
    expect(Math.max(...twice)).toBeCloseTo(1.5, 2);
    expect(Math.min(...over)).toBeCloseTo(-0.3, 2);
  });

  test('every second one is turned half round, or mirrored: bent ones as rigid ones', () => {
    const grid = { columns: 8, rows: 2 };
    const wall = { radius: 2, columns: 80 };
    const of = (facing: object) => worked(sheet({ facing, grid }), wall).placements;
    const ends = of({ alternate: 'turn' });
    for (let i = 0; i < 16; i++) {
      const odd = (Math.floor(i / 8) + i) % 2 === 1;
      expect(turn(ends, i, [0, 0, 1])[1]).toBeCloseTo(odd ? -1 : 1, 9);
      expect(ends.scale[i * 3]).toBe(1);
    }
    const mirrored = of({ alternate: 'mirror' });
    for (let i = 0; i < 16; i++) {
      expect(turn(mirrored, i, [0, 0, 1])[1]).toBeCloseTo(1, 9);
      expect(mirrored.scale[i * 3]).toBe((Math.floor(i / 8) + i) % 2 === 1 ? -1 : 1);
    }
    // The box stands 1 to 1.4 m to the left of its origin: mirrored it is bent as far to the right.
    const bent = of({ alternate: 'mirror', bend: true });
    const sides = [0, 1].map((i) => {
      const x = bent.bent![bent.shape![i]].positions.filter((_, k) => k % 3 === 0);
      return [Math.min(...x), Math.max(...x)];
    });
    expect(sides[1][0]).toBeCloseTo(-sides[0][1], 2);
    expect(sides[1][1]).toBeCloseTo(-sides[0][0], 2);
  });

  test('distortion: none on a cone in true size, known when it is stretched', () => {
    const cone = { radius: 3, top: 1, height: 5 };
    const plain = worked(sheet({ grid: { columns: 12, rows: 4 } }), cone).sheet!.distortion;
    for (let i = 0; i < plain.length; i += 2) expect(plain[i]).toBeCloseTo(1, 1);
    const stretched = worked(sheet({ fit: 'stretch', grid: { columns: 12, rows: 4 } }), cone);
    const { distortion, width } = stretched.sheet!;
    [0.125, 0.375, 0.625, 0.875].forEach((t, j) => {
      const r = 3 - 2 * t;
      expect(distortion[j * 24]).toBeCloseTo((2 * 60 * r * Math.sin(Math.PI / 60)) / width, 1);
    });
  });
});

describe('what is wrong is said', () => {
  const [sin, cos] = [Math.sin, Math.cos].map((f) => (deg: number) => f((deg * Math.PI) / 180));
  const said = (more: object, wall: object, change?: (s: Scene) => void) =>
    worked(sheet(more), wall, change).findings.map((f) => f.kind);
  const plane = { shape: 'plane', width: 8, depth: 4 };
  test('no surface, no columns, no room, nothing to place, a frame beside the surface', () => {
    expect(said({ surface: 'gone' }, plane)).toEqual(['surface-missing']);
    // A file may name no columns; what is read is held to one. Called directly it is said.
    const none = sheet();
    none.grid.columns = 0;
    expect(worked(none, plane).findings.map((f) => f.kind)).toContain('sheet-no-columns');
    expect(said({ grid: { left: 9 } }, plane)).toContain('sheet-no-room');
    expect(said({ order: {} }, plane)).toContain('no-props');
    const away = { over: { kind: 'frame', position: [50, 1, 0] }, grid: { columns: 2, rows: 2 } };
    expect(said({ ...away, width: 2, height: 2 }, plane)).toContain('sheet-missed');
  });
  test('a surface without texture coordinates; items larger than it; items across sharp corners', () => {
    const bare = (s: Scene) => (s.surfaces[0].mesh = { source: 'built', name: 'floor' });
    expect(said({}, plane, bare)).toEqual(['sheet-no-uv']);
    expect(said({ facing: { size: 30 }, grid: { columns: 1, rows: 1 } }, plane)).toContain('sheet-larger');
    const box = { shape: 'box', width: 3, height: 3, depth: 3, fillet: 0 };
    expect(said({ grid: { columns: 9, rows: 9 } }, box)).toContain('uv-overlap');
  });

  /** Two panels of a square metre side by side, apart on the texture: the second one as it is, or mirrored. */
  const onPanels = (mirrored: boolean, items: object) => {
    const panels: Mesh = {
      positions: Float32Array.from([0, 1].flatMap((x) => [x, 0, 1, x + 1, 0, 1, x + 1, 0, 0, x, 0, 0])),
      normals: Float32Array.from({ length: 24 }, (_, i) => (i % 3 === 1 ? 1 : 0)),
      uvs: Float32Array.from(
        [0, 1].flatMap((x) => {
          const [left, right] = x === 1 && mirrored ? [1, 0.55] : [x * 0.55, x * 0.55 + 0.45];
          return [left, 0, right, 0, right, 1, left, 1];
        }),
      ),
      indices: Uint32Array.from([0, 4].flatMap((o) => [0, 1, 2, 0, 2, 3].map((k) => k + o))),
      groups: [{ start: 0, count: 12, material: 0 }],
      materials: (ASSETS.mesh({ source: 'built', name: 'box' }) as Mesh).materials,
    };
    const mesh: typeof ASSETS.mesh = (ref) =>
      ref.source === 'built' && ref.name === 'panels' ? panels : ASSETS.mesh(ref);
    const scene = { ...emptyScene('Panels'), props: [newProp('p', 'P', { source: 'built', name: 'box' })] };
    scene.surfaces = [newSurface('wall', 'Wall', { source: 'built', name: 'panels' })];
    scene.arrangements = [sheet({ match: { guess: false }, ...items })];
    return new Evaluator({ ...ASSETS, mesh }).evaluate(scene).arrangements[0];
  };
  test('texture coordinates of which one island is turned over', () => {
    const grid = { columns: 2, rows: 1 };
    expect(onPanels(false, { grid }).findings.map((f) => f.kind)).not.toContain('uv-turned');
    const told = onPanels(true, { grid }).findings.find((f) => f.kind === 'uv-turned')!;
    expect(told.detail).toMatchObject({ surface: 'wall', island: 2, count: 2 });
  });
  test('items that straddle: over the gap between two patches, over the border, and none beside them', () => {
    // 2 m of panels and 0.22 m between them on the texture; the box is 0.4 m wide and 0.5 m long, its origin in the middle.
    const at = (id: string, x: number, y: number) => ({ id, prop: 'p', at: [x, y], size: 0.9 });
    const items = [
      at('item1', 0.5, 0.5),
      at('item2', 0.95, 0.5),
      at('item3', 1.5, 0.1),
      at('item4', 1.5, 0.5),
    ];
    const { findings, placements } = onPanels(false, { grid: { on: false }, items });
    // Lengths are those of the panels, and the gap has none.
    expect([...placements.position.subarray(9)]).toEqual([1.5, 0, 0.5].map((x) => expect.closeTo(x, 5)));
    // 0.76 m wide and 0.95 m long, a little left of the middle of a metre: it only lies over the border when it is turned.
    const long = (turnDeg: number) => {
      const turned = { ...at('item1', 0.45, 0.5), turnDeg, size: 1.9 };
      return onPanels(false, { grid: { on: false }, items: [turned] }).findings.some(
        (f) => f.kind === 'sheet-straddles',
      );
    };
    expect([0, 90, 180].map(long)).toEqual([false, true, false]);
    const told = findings.filter((f) => f.kind === 'sheet-straddles');
    expect(told.map((f) => f.slots!.map(slotName))).toEqual([['k1.2', 'k1.3']]);
  });
  test('items that straddle a sharp edge, live as its angle grows', () => {
    // A lip: a cylinder of 2 m that goes over into a cone as long, its faces meeting there.
    const lip = (turnDeg: number) =>
      worked(
        sheet({ grid: { columns: 12, rows: 3 } }),
        { radius: 2, columns: 48 },
        (s) =>
          (s.paths[0] = pathSchema.parse({
            id: 'profile',
            name: 'Profile',
            source: {
              kind: 'points',
              points: [
                { id: 'a', kind: 'corner', position: [2, 0, 0] },
                { id: 'b', kind: 'corner', position: [2, 2, 0] },
                { id: 'c', kind: 'corner', position: [2 + 2 * sin(turnDeg), 2 + 2 * cos(turnDeg), 0] },
              ],
            },
          })),
      ).findings.find((f) => f.kind === 'sheet-straddles')?.slots;
    expect(lip(30)).toBeUndefined();
    // The middle row of three lies across.
    const over = lip(40)!.map(slotName);
    expect(over).toHaveLength(12);
    expect(over.every((name) => name.startsWith('r1.'))).toBe(true);
  });
});

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
function fromAxes([x, y, z]: number[][]): Quat {
  const w = Math.sqrt(Math.max(0, 1 + x[0] + y[1] + z[2])) / 2;
  if (w > 0.1) {
    const k = 1 / (4 * w);
    return [(y[2] - z[1]) * k, (z[0] - x[2]) * k, (x[1] - y[0]) * k, w];
  }
  throw new Error('Turned too far for this test.');
}
