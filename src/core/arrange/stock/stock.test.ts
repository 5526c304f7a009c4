import { Evaluator } from '../../evaluate/scene';
import { quatRotate, type Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { propBounds, keptBounds } from '../../mesh/mesh';
import { pathSchema } from '../../curve/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newPath, newProp, newSurface } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { cases, SEED } from '../../testing/prove';
import { ASSETS, exampleMesh } from '../../testing/scene';
import { newArrangement } from '../registry';
import { STATE, type ArrangementResult } from '../result';
import { slotName } from '../slotId';
import type { Stock } from './schema';

/** Shelves, against counting by hand and against every box held against every other. */

const MESH = exampleMesh();
/** Three props of the box of 0.4 × 0.6 × 0.5 m: as it is at a quarter, lying, and about its middle. */
const PROPS = [
  { ...newProp('tin', 'Tin', { source: 'built' as const, name: 'box' }), unitScale: 0.25 },
  { ...newProp('jar', 'Jar', { source: 'built' as const, name: 'box' }), unitScale: 0.4, up: '+x' as const },
  {
    ...newProp('coil', 'Coil', { source: 'built' as const, name: 'box' }),
    unitScale: 0.3,
    front: '-x' as const,
    foot: { at: 'centre' as const },
  },
];
const size = (id: string) => {
  const { min, max } = propBounds(
    PROPS.find((p) => p.id === id)!,
    keptBounds(MESH),
  );
  return [max[0] - min[0], max[1] - min[1], max[2] - min[2]];
};
const entry = (prop: string, more: object = {}) => ({
  id: `e-${prop}`,
  item: { kind: 'prop', prop },
  ...more,
});
const EDGE: Vec3[] = [
  [0, 1, 0],
  [3, 1, 0],
];

function sceneOf(stock: object, edge: Vec3[] = EDGE, kind: 'corner' | 'smooth' = 'corner'): Scene {
  const given = newArrangement(
    'stock',
    { id: 'stock', name: 'Stock', thread: 'weld' },
    {
      shelves: [{ from: 'path', path: 'edge', part: 0, depth: 0.5, levels: [{ height: 0.7 }] }],
      order: { entries: [entry('tin')] },
      ...stock,
    },
  );
  return {
    ...emptyScene('Stock'),
    props: PROPS,
    paths: [newPath('edge', 'Edge', points(kind, edge))],
    arrangements: [given],
  };
}
const evaluated = (scene: Scene): ArrangementResult => new Evaluator(ASSETS).evaluate(scene).arrangements[0];
const work = (stock: object, edge?: Vec3[], kind?: 'corner' | 'smooth') =>
  evaluated(sceneOf(stock, edge, kind));
const names = (r: ArrangementResult) => [...r.placements.slot].map(slotName);
const states = (r: ArrangementResult) => [...r.placements.state];

/** The eight corners of what stands in a row. */
function corners({ placements: p }: ArrangementResult, i: number): Vec3[] {
  const { min, max } = propBounds(
    PROPS.find((q) => q.id === p.props[p.prop[i]])!,
    keptBounds(MESH),
  );
  const q = [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;
  return [0, 1, 2, 3, 4, 5, 6, 7].map((c) => {
    const own = [0, 1, 2].map((a) => ((c >> a) & 1 ? max[a] : min[a]) * p.scale[i * 3 + a]) as Vec3;
    return quatRotate(q, own).map((v, a) => v + p.position[i * 3 + a]) as Vec3;
  });
}

test('facings, rows and stacks of one box are as many as divide into the board, with their fronts on its edge', () => {
  const [w, h, d] = size('tin');
  const r = work({ filling: { air: 0.02, airBehind: 0.01, airAbove: 0.05, leftover: 'end' } });
  const across = Math.floor((3 + 0.02) / (w + 0.02));
  const deep = Math.floor((0.5 + 0.01) / (d + 0.01));
  const high = Math.floor((0.7 - 0.05) / h);
  expect([across, deep, high]).toEqual([25, 3, 4]);
  expect(r.placements.count).toBe(across * deep * high);
  expect(r.findings).toEqual([]);
  for (let c = 0; c < across; c++)
    for (let b = 0; b < deep; b++)
      for (let u = 0; u < high; u++) {
        const i = (c * deep + b) * high + u;
        expect(slotName(r.placements.slot[i])).toBe(`${c + 1}.${b + 1}.${u + 1}`);
        const all = corners(r, i);
        expect(Math.min(...all.map((p) => p[0]))).toBeCloseTo(c * (w + 0.02), 12);
        expect(Math.min(...all.map((p) => p[1]))).toBeCloseTo(1 + u * h, 12);
        // The board lies to the left of the way along +X: towards −Z.
        expect(Math.max(...all.map((p) => p[2]))).toBeCloseTo(-b * (d + 0.01), 12);
      }
});

test('what is left of an edge is shared out, or stays at its ends; back and centre move whole facings', () => {
  const [w, , d] = size('tin');
  const xs = (r: ArrangementResult) => r.stock!.facings.map((f) => f.x0);
  const even = work({ filling: { air: 0, leftover: 'even' } });
  expect(xs(even)[0]).toBeCloseTo(0, 12);
  expect(even.stock!.facings.at(-1)!.x1).toBeCloseTo(3, 12);
  const gaps = xs(even)
    .slice(1)
    .map((x, i) => x - even.stock!.facings[i].x1);
  gaps.forEach((g) => expect(g).toBeCloseTo((3 - 30 * w) / 29, 12));
  const centre = work({ filling: { air: 0, leftover: 'centre', insetStart: 0.53, insetEnd: 0.04 } });
  expect(xs(centre)[0] - 0.53).toBeCloseTo(2.96 - centre.stock!.facings.at(-1)!.x1, 12);
  const backs = (align: string) => {
    const r = work({ filling: { align, airBehind: 0 } });
    return Math.min(...[0, 1, 2].flatMap((i) => corners(r, i * 4).map((p) => p[2])));
  };
  expect(backs('front')).toBeCloseTo(-4 * d + d, 9);
  expect(backs('back')).toBeCloseTo(-(0.5 - d), 9);
  expect(backs('centre')).toBeCloseTo(-(4 * d + (0.5 - 4 * d) / 2 - d), 9);
});

/** A seeded number 0–1 a call. */
function stream(seed: number): () => number {
  let a = seed >>> 0;
  return () => {
    a = (a + 0x6d2b79f5) | 0;
    let t = Math.imul(a ^ (a >>> 15), 1 | a);
    t = (t + Math.imul(t ^ (t >>> 7), 61 | t)) ^ t;
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296;
  };
}

/** A recipe with everything drawn. */
function anyStock(r: () => number): object {
  const range = (low: number, high: number): [number, number] => [
    low + (high - low) * r() * 0.5,
    low + (high - low) * (0.5 + r() * 0.5),
  ];
  const counts = (): [number, number] => [1 + Math.floor(r() * 3), 1 + Math.floor(r() * 5)];
  const of = <T>(...list: T[]): T => list[Math.floor(r() * list.length)];
  return {
    seed: Math.floor(r() * 1000),
    shelves: [
      {
        from: 'path',
        path: 'edge',
        part: 0,
        behind: of('left', 'right'),
        depth: 0.2 + r() * 0.8,
        levels: [{ height: 0.2 + r() * 0.8, board: 0.02 }, { height: 0.15 + r() * 0.5 }].slice(0, of(1, 2)),
      },
    ],
    order: {
      mode: of('pattern', 'mix'),
      entries: PROPS.map(({ id }) => entry(id, { times: counts(), weight: r() })),
    },
    filling: {
      air: r() * 0.05,
      airBehind: r() * 0.03,
      airAbove: r() * 0.05,
      setback: r() * 0.03,
      leftover: of('even', 'end', 'centre'),
      align: of('front', 'centre', 'back'),
      deepBy: of('fit', 'count', 'share'),
      deep: counts(),
      highBy: of('fit', 'count', 'share'),
      high: counts(),
    },
    stand: { turnDeg: of(0, r() * 360), tipDeg: of(0, 0, r() * 30), rollDeg: 0, size: 0.7 + r() * 0.6 },
    sold: {
      front: of([0, 0], range(0, 1)),
      top: of([0, 0], range(0, 1)),
      out: of(0, 0.2),
      forward: of(true, false),
    },
    variation: {
      turnDeg: of([0, 0], [-r() * 40, r() * 40]),
      size: of([1, 1], [0.8, 1.2]),
      sizeY: of([1, 1], [0.9, 1.1]),
      along: of([0, 0], [-0.01, 0.02]),
      side: of([0, 0], [-0.02, 0.01]),
      mirror: of(0, 0.5),
    },
    gaps: { chance: of(0, 0.1) },
  };
}

/** How far two boxes of eight corners each reach into each other along the axis that parts them best. */
function reach(a: Vec3[], b: Vec3[]): number {
  const sides = (c: Vec3[]) => [1, 2, 4].map((k) => c[k].map((v, i) => v - c[0][i]) as Vec3);
  const cross = (u: Vec3, v: Vec3): Vec3 => [
    u[1] * v[2] - u[2] * v[1],
    u[2] * v[0] - u[0] * v[2],
    u[0] * v[1] - u[1] * v[0],
  ];
  const [p, q] = [sides(a), sides(b)];
  let best = Infinity;
  for (const axis of [...p, ...q, ...p.flatMap((u) => q.map((v) => cross(u, v)))]) {
    const l = Math.sqrt(axis[0] ** 2 + axis[1] ** 2 + axis[2] ** 2);
    if (l < 1e-9) continue;
    const on = (c: Vec3[]) => c.map((v) => (v[0] * axis[0] + v[1] * axis[1] + v[2] * axis[2]) / l);
    const [u, v] = [on(a), on(b)];
    best = Math.min(
      best,
      Math.min(Math.max(...u), Math.max(...v)) - Math.max(Math.min(...u), Math.min(...v)),
    );
  }
  return best;
}

/** The deepest that anything placed reaches into anything else. */
function deepest(r: ArrangementResult): number {
  const rows = states(r).flatMap((s, i) => (s === STATE.placed ? [i] : []));
  const boxes = rows.map((i) => corners(r, i));
  const low = boxes.map((c) => [0, 1, 2].map((a) => Math.min(...c.map((p) => p[a]))));
  const high = boxes.map((c) => [0, 1, 2].map((a) => Math.max(...c.map((p) => p[a]))));
  let most = 0;
  for (let i = 0; i < boxes.length; i++)
    for (let j = i + 1; j < boxes.length; j++)
      if ([0, 1, 2].every((a) => low[i][a] < high[j][a] - 1e-9 && low[j][a] < high[i][a] - 1e-9))
        most = Math.max(most, reach(boxes[i], boxes[j]));
  return most;
}

test('nothing reaches into a neighbour, through a board, over the edge or past its ends, whatever the recipe', () => {
  const r = stream(SEED);
  for (let k = 0; k < cases(10_000); k++) {
    const stock = anyStock(r) as Stock;
    const result = work(stock, [
      [0, 1, 0],
      [0.8 + r() * 0.8, 1, 0],
    ]);
    expect(deepest(result)).toBeLessThan(1e-7);
    const [shelf] = stock.shelves;
    const out = shelf.from === 'path' && shelf.behind === 'right' ? -1 : 1;
    const { shelves, facings } = result.stock ?? { shelves: [], facings: [] };
    for (const f of facings) {
      const { at, height, depth, length } = shelves[f.shelf];
      for (let i = f.start; i < f.end; i++) {
        if (result.placements.state[i] !== STATE.placed) continue;
        for (const [x, y, z] of corners(result, i)) {
          expect(y).toBeGreaterThan(at[1] - 1e-7);
          expect(y).toBeLessThan(at[1] + height + 1e-7);
          expect(z * out).toBeLessThan(1e-7);
          expect(z * out).toBeGreaterThan(-depth - 1e-7);
          expect(Math.abs(x - at[0])).toBeLessThan(length / 2 + 1e-7);
        }
      }
    }
  }
});

test('on bends and round corners nothing reaches into a neighbour or over the edge either', () => {
  const r = stream(SEED + 1);
  const bends: [Vec3[], 'corner' | 'smooth'][] = [
    [
      [
        [-2, 1, 0],
        [0, 1, 0.6],
        [2, 1, 0],
      ],
      'smooth',
    ],
    [
      [
        [-2, 1, 0.6],
        [0, 1, 0],
        [2, 1, 0.6],
      ],
      'smooth',
    ],
    [
      [
        [-1.5, 1, 1.5],
        [-1.5, 1, 0],
        [1.5, 1, 0],
        [1.5, 1, 1.5],
      ],
      'corner',
    ],
    [
      [
        [-1, 1, -1],
        [-1, 1, 0],
        [1, 1, 0.3],
        [1, 1, -1],
      ],
      'corner',
    ],
  ];
  for (let k = 0; k < cases(400); k++) {
    const [edge, kind] = bends[k % bends.length];
    const result = work(anyStock(r), edge, kind);
    expect(deepest(result)).toBeLessThan(1e-6);
  }
});

test('groups come in turn, mixes never twice in a row, zones and levels hold what they are given', () => {
  const order = { entries: [entry('tin', { times: [3, 3] }), entry('coil', { times: [2, 2] })] };
  const props = (r: ArrangementResult, shelf = 0) =>
    r.stock!.facings.filter((f) => f.shelf === shelf).map((f) => r.placements.props[f.prop]);
  const groups = props(work({ order }));
  expect(groups.slice(0, 10).join()).toBe('tin,tin,tin,coil,coil,tin,tin,tin,coil,coil');
  const mixed = props(work({ order: { ...order, mode: 'mix', noRepeats: true } }));
  mixed.slice(1).forEach((p, i) => expect(p).not.toBe(mixed[i]));
  const levels = work({
    order,
    shelves: [
      {
        from: 'path',
        path: 'edge',
        part: 2,
        depth: 0.3,
        levels: [
          { height: 0.4, goods: ['e-coil'] },
          { height: 0.3, goods: ['e-tin'] },
        ],
      },
    ],
  });
  expect(new Set(props(levels))).toEqual(new Set(['coil']));
  expect(new Set(props(levels, 1))).toEqual(new Set(['tin']));
  // The upper one stands on the board over the lower.
  expect(levels.stock!.shelves[1].at[1]).toBeCloseTo(1 + 0.4 + 0.03, 12);
  expect(names(levels)[0]).toBe('p2.1.1.1');
  const zoned = sceneOf({
    order: { entries: [entry('tin', { zones: [0] }), entry('coil', { zones: [1] })] },
  });
  const edge = points('corner', [
    [0, 1, 0],
    [1.2, 1, 0],
    [3, 1, 0],
  ]);
  edge[1].zone = 1;
  zoned.paths = [newPath('edge', 'Edge', edge)];
  const r = evaluated(zoned);
  r.stock!.facings.forEach((f) =>
    expect(r.placements.props[f.prop]).toBe(f.x0 < 1.2 - 1e-9 ? 'tin' : 'coil'),
  );
});

test('ranges of depth and height are drawn by every facing and row for itself; nothing else changes a draw', () => {
  const filling = {
    deepBy: 'count',
    deep: [1, 3],
    highBy: 'count',
    high: [1, 4],
    air: 0.02,
    leftover: 'end',
  };
  const r = work({ filling });
  const deep = r.stock!.facings.map((f) => f.deep);
  expect(new Set(deep)).toEqual(new Set([1, 2, 3]));
  const stacks = (x: ArrangementResult) => {
    const out: Record<string, number> = {};
    for (const name of names(x)) {
      const [a, b] = name.split('.');
      out[`${a}.${b}`] = (out[`${a}.${b}`] ?? 0) + 1;
    }
    return out;
  };
  expect(new Set(Object.values(stacks(r)))).toEqual(new Set([1, 2, 3, 4]));
  // Rows of one facing differ too: the deepest is drawn as the first is.
  expect(
    r.stock!.facings.some(
      (f) =>
        f.deep > 1 &&
        new Set(Array.from({ length: f.deep }, (_, b) => stacks(r)[`${f.name}.${b + 1}`])).size > 1,
    ),
  ).toBe(true);
  const longer = work({ filling }, [EDGE[0], [5, 1, 0]]);
  const shorter = stacks(r);
  for (const [name, count] of Object.entries(shorter)) expect(stacks(longer)[name]).toBe(count);
  const nested = work({ filling: { ...filling, deepBy: 'fit' } });
  for (const [name, count] of Object.entries(shorter)) expect(stacks(nested)[name]).toBe(count);
});

test('taken from the front, from the top and sold out; what stood on it comes down; the rest is pulled forward', () => {
  const whole = work({});
  const some = work({ sold: { front: [0.2, 0.9], top: [0, 0.6], out: 0.1 } });
  expect(names(some)).toEqual(names(whole));
  const more = work({ sold: { front: [0.4, 1], top: [0, 0.8], out: 0.2 } });
  states(some).forEach((s, i) => s === STATE.taken && expect(states(more)[i]).toBe(STATE.taken));
  const front = work({ sold: { front: [0.5, 0.5] } });
  // Of three rows the first two, whole.
  names(front).forEach((name, i) =>
    expect(states(front)[i] === STATE.taken).toBe(Number(name.split('.')[1]) <= 2),
  );
  const forward = work({ sold: { front: [0.5, 0.5], forward: true } });
  names(forward).forEach((name, i) => {
    if (states(forward)[i] !== STATE.placed) return;
    expect(Math.max(...corners(forward, i).map((p) => p[2]))).toBeCloseTo(0, 12);
  });
  const [, h] = size('tin');
  const byHand = work({ hand: { '2.1.1': { removed: true }, '2.1.3': { removed: true } } });
  const at = names(byHand).indexOf('2.1.4');
  expect(Math.min(...corners(byHand, at).map((p) => p[1]))).toBeCloseTo(1 + h, 12);
  const out = work({ byFacing: { '3': { sold: true }, '4': { prop: 'coil' } } });
  names(out).forEach((name, i) => {
    if (name.startsWith('3.')) expect(states(out)[i]).toBe(STATE.taken);
    if (name.startsWith('4.')) expect(out.placements.props[out.placements.prop[i]]).toBe('coil');
  });
});

test('a prop says what a shelf needs to know: not stacked, so high, so deep, air above', () => {
  const r = work({
    order: { entries: [entry('tin'), entry('jar'), entry('coil')] },
    onShelf: { tin: { stack: false }, jar: { deep: 1, high: 2 }, coil: { above: 0.45 } },
  });
  const of = (id: string) => r.stock!.facings.filter((f) => r.placements.props[f.prop] === id);
  of('tin').forEach((f) => expect(f.high).toBe(1));
  of('jar').forEach((f) => expect([f.deep, f.high]).toEqual([1, 2]));
  of('coil').forEach((f) => expect(f.high).toBe(1));
});

test('what cannot be is named, and the rest stays', () => {
  const kinds = (stock: object) => work(stock).findings.map((f) => [f.kind, f.detail.prop ?? f.detail.path]);
  const shelf = (more: object) => ({
    shelves: [{ from: 'path', path: 'edge', part: 0, depth: 0.5, ...more }],
  });
  const order = { entries: [entry('tin'), entry('coil')] };
  const [, tall] = size('coil');
  const low = work({ ...shelf({ levels: [{ height: tall }] }), order });
  expect(low.findings.map((f) => [f.kind, f.detail.prop])).toEqual([['stock-too-high', 'coil']]);
  expect(low.placements.count).toBeGreaterThan(10);
  expect(
    kinds({
      ...shelf({ depth: size('tin')[2] + 0.001, levels: [{ height: 1 }] }),
      order: { entries: [entry('tin'), entry('jar')] },
    }),
  ).toEqual([['stock-too-deep', 'jar']]);
  expect(kinds(shelf({ depth: 0 }))).toEqual([['stock-no-depth', 'edge']]);
  expect(kinds(shelf({ depth: null }))).toEqual([['stock-no-board', 'edge']]);
  expect(kinds(shelf({ levels: [{ height: 0 }] }))).toEqual([['stock-no-height', 'edge']]);
  expect(kinds({ shelves: [] })).toEqual([['stock-nothing', undefined]]);
  expect(kinds({ shelves: [{ from: 'path', path: 'gone', part: 0 }] })).toEqual([['shelf-missing', 'gone']]);
  expect(kinds({ shelves: [{ from: 'surface', surface: 'gone', part: 0 }] })[0][0]).toBe('shelf-missing');
  expect(kinds({ order: { entries: [] } })).toEqual([['no-props', undefined]]);
  expect(
    work({ ...shelf({ levels: [{ height: 1 }] }) }, [
      [0, 1, 0],
      [size('tin')[0] - 0.001, 1, 0],
    ]).findings[0].kind,
  ).toBe('stock-too-wide');
});

test('the depth of the board behind an edge and the height over it are found on surfaces', () => {
  const scene = sceneOf({
    shelves: [{ from: 'path', path: 'edge', part: 0 }],
  });
  const slab = (id: string, y: number, height: number) => {
    const made = newSurface(id, id, {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'box', width: 4, depth: 0.45, height, round: 0, fillet: 0 }),
      color: '#D8CDB6',
    });
    made.position = [1.5, y, -0.225];
    return made;
  };
  scene.surfaces = [slab('board', 0.9, 0.1), slab('above', 1.62, 0.05)];
  const r = evaluated(scene);
  expect(r.findings).toEqual([]);
  const { depth, height } = r.stock!.shelves[0];
  expect(depth).toBeCloseTo(0.45, 6);
  expect(height).toBeCloseTo(0.62, 9);
  // Seen from the other side there is none.
  scene.arrangements = [
    {
      ...(scene.arrangements[0] as Stock),
      shelves: [{ from: 'path', path: 'edge', part: 0, behind: 'right', depth: null, levels: [] }],
    },
  ];
  expect(evaluated(scene).findings.map((f) => f.kind)).toEqual(['stock-no-board']);
});

test('the edge of a strip is the front of a board like any other path', () => {
  const lines = [
    newPath('front', 'Front', points('corner', EDGE)),
    newPath(
      'back',
      'Back',
      points('corner', [
        [0, 1, -0.45],
        [3, 1, -0.45],
      ]),
    ),
  ];
  const scene = sceneOf({
    shelves: [{ from: 'path', path: 'rim', part: 0, behind: 'left', levels: [{ height: 0.7 }] }],
  });
  const strip = newSurface('strip', 'Strip', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'loft', paths: ['front', 'back'], smooth: false }),
    color: '#D8CDB6',
  });
  const edge = (at: number) => ({
    ...lines[0],
    id: 'rim',
    source: pathSchema.parse({
      id: 'rim',
      name: 'Rim',
      source: { kind: 'mesh', surface: 'strip', take: { what: 'iso', along: 'v', from: at, to: at } },
    }).source,
  });
  // Of the two rims the one in front: found by where it lies.
  const rims = [0, 1].map((v) =>
    evaluated({ ...scene, surfaces: [strip], paths: [...lines, edge(v)] } as Scene),
  );
  const straight = work({
    shelves: [{ from: 'path', path: 'edge', part: 0, levels: [{ height: 0.7 }], depth: 0.45 }],
  });
  const front = rims.find((r) => r.placements.count > 0)!;
  expect(front.findings).toEqual([]);
  expect(front.stock!.shelves[0].depth).toBeCloseTo(0.45, 6);
  expect(front.placements.count).toBe(straight.placements.count);
  straight.placements.position.forEach((v, i) => expect(front.placements.position[i]).toBeCloseTo(v, 6));
});
