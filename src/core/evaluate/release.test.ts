import type { Run } from '../arrange/run/schema';
import { newArrangement, type Arrangement } from '../arrange/registry';
import { loadPhysics } from '../arrange/release/physics';
import { releaseSchema, type Release } from '../arrange/release/schema';
import { STATE, type Placements } from '../arrange/result';
import { quatFromUpFront, type Quat } from '../math/quat';
import { distance, type Vec3 } from '../math/vec3';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import type { Mesh } from '../mesh/mesh';
import { emptyScene, newEntry, newPath, newProp, newRun, newSurface } from '../scene/defaults';
import { sceneSchema, type Scene } from '../scene/schema';
import { exampleMesh } from '../testing/scene';
import { hullDepth, hullOf } from '../testing/hullDepth';
import { points } from '../testing/paths';
import { cases } from '../testing/prove';
import { channel, random01 } from '../math/random';
import { Evaluator, type Assets } from './scene';

/** Props that are let go: against closed forms of falling, sliding and bouncing, and every pair of a heap by itself. */

beforeAll(() => loadPhysics());

const G = 9.81;

/** Numbers from 0 to 1, the same at every run. */
function draw(name: string): () => number {
  let i = 0;
  return () => random01(1, i++, channel(name));
}

/** A box of given half sides about its middle, its sides turned outwards. */
function boxMesh(x: number, y: number, z: number): Mesh {
  const box = exampleMesh();
  const at = (v: number, low: number, half: number) => (v > low + 0.1 ? half : -half);
  const positions = Float32Array.from(box.positions, (v, i) => at(v, [1, 2, 3][i % 3], [x, y, z][i % 3]));
  return { ...box, positions };
}

/** A turned thing: rings of so many corners at heights and radii. */
function turned(profile: [r: number, y: number][], sides = 10): Mesh {
  const positions: number[] = [];
  const indices: number[] = [];
  for (const [r, y] of profile)
    for (let k = 0; k < sides; k++) {
      const a = (k / sides) * 2 * Math.PI;
      positions.push(r * Math.cos(a), y, r * Math.sin(a));
    }
  for (let ring = 0; ring + 1 < profile.length; ring++)
    for (let k = 0; k < sides; k++) {
      const [a, b] = [ring * sides + k, ring * sides + ((k + 1) % sides)];
      indices.push(a, a + sides, b, b, a + sides, b + sides);
    }
  const last = (profile.length - 1) * sides;
  for (let k = 1; k + 1 < sides; k++) indices.push(0, k, k + 1, last, last + k + 1, last + k);
  const box = exampleMesh();
  return {
    ...box,
    positions: Float32Array.from(positions),
    normals: Float32Array.from(positions, (_, i) => (i % 3 === 1 ? 1 : 0)),
    indices: Uint32Array.from(indices),
    groups: [{ start: 0, count: indices.length, material: 0 }],
  };
}

const FLOAT = turned([
  [0.05, -0.1],
  [0.1, -0.04],
  [0.1, 0.04],
  [0.05, 0.1],
]);
/** A bowl: its outside and its inside, a wall of 2 cm. */
const BOWL = turned(
  [
    [0.1, 0],
    [0.3, 0.3],
    [0.28, 0.3],
    [0.09, 0.02],
  ],
  16,
);
const CAN = turned([
  [0, -0.06],
  [0.05, -0.06],
  [0.05, 0.06],
  [0, 0.06],
]);
const ROLLER = turned(
  [
    [0, -0.1],
    [0.2, -0.1],
    [0.2, 0.1],
    [0, 0.1],
  ],
  120,
);
const MESHES: Record<string, Mesh> = {
  box: boxMesh(0.2, 0.2, 0.2),
  float: FLOAT,
  can: CAN,
  bowl: BOWL,
  roller: ROLLER,
};
const ASSETS: Assets = { mesh: (ref) => (ref.source === 'built' ? MESHES[ref.name] : undefined) };

const plane = (values: object = {}, deformers: object[] = []) => ({
  ...newSurface('ground', 'Ground', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'plane', width: 40, depth: 40, columns: 8, rows: 8 }),
    color: '#808080',
  }),
  ...values,
  deformers: deformers.map((d, i) => deformerSchema.parse({ id: `d${i}`, ...d })),
});

const prop = (name: string) => ({
  ...newProp(name, name, { source: 'built' as const, name }),
  foot: { at: 'origin' as const },
});

interface Put {
  at: Vec3;
  rotation?: Quat;
  prop?: string;
}

const inBlocks = <T>(list: T[]): T[][] =>
  Array.from({ length: Math.ceil(list.length / 250) }, (_, i) => list.slice(i * 250, i * 250 + 250));

/** Pegs that are let go over a plane. */
function sceneOf(put: Put[], release: Partial<Release>, change: (scene: Scene) => void = () => {}): Scene {
  const pegs = newArrangement(
    'pegs',
    { id: 'pegs', name: 'Things', thread: 'weld' },
    {
      release: releaseSchema.parse({ drag: 0, ...release }),
      pegs: inBlocks(
        put.map(({ at, rotation, prop = 'box' }, i) => ({
          id: `peg${i}`,
          prop,
          position: at,
          ...(rotation && { rotation }),
        })),
      ),
    },
  );
  const scene: Scene = {
    ...emptyScene('Falling'),
    props: Object.keys(MESHES).map(prop),
    surfaces: [plane()],
    arrangements: [pegs],
  };
  change(scene);
  return sceneSchema.parse(scene);
}

const fallen = (scene: Scene, time: number, evaluator = new Evaluator(ASSETS)) => {
  const result = evaluator.evaluate(scene, undefined, time).arrangements.find((a) => a.id === 'pegs')!;
  return result;
};
const at = ({ position }: Placements, row = 0): Vec3 => [...position.subarray(row * 3, row * 3 + 3)] as Vec3;
const turn = ({ rotation }: Placements, row = 0): Quat =>
  [...rotation.subarray(row * 4, row * 4 + 4)] as Quat;

test('it falls as things fall, and lies on what it falls onto', () => {
  const scene = sceneOf([{ at: [0.3, 5, 0.2] }], { at: 1 });
  expect(at(fallen(scene, 0.99).placements)).toEqual([0.3, 5, 0.2]);
  // Steps of 1/60 s: a fall by steps is ahead of half g t² by g t / 120 at the most.
  for (const t of [0.1, 0.4, 0.8]) {
    const [x, y, z] = at(fallen(scene, 1 + t).placements);
    expect([x, z]).toEqual([expect.closeTo(0.3, 5), expect.closeTo(0.2, 5)]);
    expect(Math.abs(5 - (G * t * t) / 2 - y)).toBeLessThan((G * t) / 120 + 1e-3);
  }
  const end = fallen(scene, 6);
  expect(at(end.placements)[1]).toBeGreaterThan(0.2 - 0.004);
  expect(at(end.placements)[1]).toBeLessThan(0.2 + 0.008);
  expect(end.findings).toEqual([]);
});

test('it slides as friction lets it, and stays where that holds it', () => {
  const tip = 25;
  const slope = (scene: Scene) => (scene.surfaces = [plane({ tipDeg: tip })]);
  const a = (tip * Math.PI) / 180;
  const up: Vec3 = [0, Math.cos(a), Math.sin(a)];
  const lying: Put = {
    at: [0, up[1] * 0.2, up[2] * 0.2],
    rotation: quatFromUpFront(up, [0, -Math.sin(a), Math.cos(a)]),
  };
  const way = (friction: number, t: number) =>
    distance(
      at(fallen(sceneOf([lying], { friction, bounce: 0, seconds: 3 }, slope), t).placements),
      lying.at,
    );
  const slides = G * (Math.sin(a) - 0.2 * Math.cos(a));
  // From the first second on, so that how it was put down does not count.
  expect(way(0.2, 2) - way(0.2, 1)).toBeCloseTo((slides * (4 - 1)) / 2, 0);
  expect(Math.abs((way(0.2, 2) - way(0.2, 1)) / ((slides * 3) / 2) - 1)).toBeLessThan(0.05);
  expect(way(0.8, 2)).toBeLessThan(0.02);
});

test('what rolls is slowed by its rolling friction', () => {
  const tip = 10;
  const a = (tip * Math.PI) / 180;
  const up: Vec3 = [0, Math.cos(a), Math.sin(a)];
  const roller: Put = {
    at: [0, up[1] * 0.2, up[2] * 0.2],
    rotation: quatFromUpFront([1, 0, 0], up),
    prop: 'roller',
  };
  const slope = (scene: Scene) => (scene.surfaces = [plane({ tipDeg: tip })]);
  const way = (rolling: number, t: number) =>
    distance(
      at(fallen(sceneOf([roller], { rolling, bounce: 0, drag: 0, seconds: 3 }, slope), t).placements),
      roller.at,
    );
  // From the first second on, so that how it was put down does not count.
  const gone = (rolling: number) => way(rolling, 2) - way(rolling, 1);
  // A cylinder rolls with two thirds of what slides; the air takes the same share of either way.
  for (const rolling of [0.015, 0.03])
    expect(Math.abs(gone(rolling) / gone(0) - (1 - rolling / ((2 / 3) * Math.sin(a))))).toBeLessThan(0.06);
  expect(way(0.2, 3)).toBeLessThan(0.05);
});

test('it bounces back by what it keeps of its speed', () => {
  const scene = sceneOf([{ at: [1.3, 2.2, 3.4] }], { bounce: 0.6, friction: 0 });
  const evaluator = new Evaluator(ASSETS);
  const falls = Math.sqrt((2 * 2) / G);
  let high = 0;
  for (let t = falls + 0.05; t < falls + 1; t += 1 / 60)
    high = Math.max(high, at(fallen(scene, t, evaluator).placements)[1]);
  expect(Math.abs((high - 0.2) / (2 * 0.6 * 0.6) - 1)).toBeLessThan(0.1);
});

test('one after the other, by chance, and let go slowly', () => {
  const put = Array.from({ length: 6 }, (_, i): Put => ({ at: [i * 2 - 5, 4, 0] }));
  const inTurn = fallen(sceneOf(put, { who: 'turn', every: 0.5 }), 1.25).placements;
  const high = Array.from({ length: 6 }, (_, i) => at(inTurn, i)[1]);
  expect(high.slice(3)).toEqual([4, 4, 4]);
  expect(high[0]).toBeLessThan(high[1]);
  expect(high[1]).toBeLessThan(high[2]);
  expect(high[2]).toBeLessThan(4);
  const chance = fallen(sceneOf(put, { who: 'chance', over: 2 }), 1).placements;
  const heights = new Set(Array.from({ length: 6 }, (_, i) => at(chance, i)[1]));
  expect(heights.size).toBeGreaterThan(3);
  // Held by less and less, it falls later than what is let go at once.
  const free = at(fallen(sceneOf(put, {}), 0.5).placements)[1];
  const held = at(fallen(sceneOf(put, { fade: 0.5 }), 0.5).placements)[1];
  expect(held).toBeGreaterThan(free + 0.3);
  expect(held).toBeLessThan(4);
});

/** A run along twelve metres, three metres over the plane. */
function beltOf(change: (run: Run, scene: Scene) => void): Scene {
  const run = newRun('pegs', 'Belt', 'weld', 'line', [newEntry('e1', { kind: 'prop', prop: 'box' })]);
  const line: Vec3[] = [
    [-6, 3, 0],
    [6, 3, 0],
  ];
  return sceneOf([], {}, (s) => {
    s.paths = [newPath('line', 'Line', points('corner', line))];
    change(run, s);
    s.arrangements = [run];
  });
}

test('what comes past a place of its path is let go there, and keeps its way', () => {
  const scene = beltOf((run) => {
    run.spacing = { ...run.spacing, mode: 'pitch', pitch: 1 };
    run.pulley = { ...run.pulley, speed: 1 };
    run.release = releaseSchema.parse({ who: 'place', place: 9, drag: 0, seconds: 6 });
  });
  const evaluator = new Evaluator(ASSETS);
  const before = fallen(scene, 0.01, evaluator).placements;
  const row = before.s.findIndex((s) => s > 7.5 && s < 8.98);
  const t = 9 - before.s[row] + 0.01;
  const after = fallen(scene, t + 0.5, evaluator).placements;
  const now = after.slot.indexOf(before.slot[row]);
  expect(Math.abs(3 - (G * 0.25) / 2 - at(after, now)[1])).toBeLessThan(0.15);
  // It went on as fast as the belt.
  expect(Math.abs(at(after, now)[0] - (3 + 0.5))).toBeLessThan(0.05);
  const early = after.s.findIndex((s, i) => s < 8 && after.state[i] === STATE.placed);
  expect(at(after, early)[1]).toBeCloseTo(3, 9);
});

test('a belt whose speed changes with time is fallen from like any other, and worked out once', () => {
  const scene = beltOf((run, s) => {
    run.spacing = { ...run.spacing, mode: 'count', count: 1 };
    run.release = releaseSchema.parse({ at: 2, drag: 0, seconds: 4 });
    const moments = [
      { at: 0, value: 0, way: 'straight' as const },
      { at: 2, value: 2, way: 'straight' as const },
    ];
    s.timed = [{ id: 't', node: 'pegs', field: ['pulley', 'speed'], moments }];
  });
  const evaluator = new Evaluator(ASSETS);
  // It has come two metres by then, and goes on at two metres a second as it falls.
  const [x, y] = at(fallen(scene, 2.5, evaluator).placements);
  expect(Math.abs(x - (-6 + 2 + 1))).toBeLessThan(0.05);
  expect(Math.abs(y - (3 - (G * 0.25) / 2))).toBeLessThan(0.1);
  expect(at(fallen(scene, 2.5).placements)).toEqual([x, y, expect.anything()]);
  // Another frame goes on with the same fall: one frame at a time, it is there at once.
  evaluator.goOn = () => false;
  expect(evaluator.evaluate(scene, undefined, 2.4).unfinished).toBeUndefined();
});

test('what has left a closed path is let go, and what is near the border of its ground', () => {
  const put = [-3, -1, 1, 3, 19.6].map((x): Put => ({ at: [x, 3, 0] }));
  const round = (s: Scene) =>
    (s.paths = [
      {
        ...newPath(
          'round',
          'Round',
          points('corner', [
            [-2, 0, -2],
            [2, 0, -2],
            [2, 0, 2],
            [-2, 0, 2],
          ]),
        ),
        closed: true,
      },
    ]);
  const falls = (release: Partial<Release>, change?: (s: Scene) => void) => {
    const { placements } = fallen(sceneOf(put, release, change), 0.5);
    return put.map((_, i) => at(placements, i)[1] < 2.5);
  };
  expect(falls({ who: 'region', region: ['round'] }, round)).toEqual([true, false, false, true, true]);
  // The ground is forty metres wide, three metres below.
  expect(falls({ who: 'border', near: 3.1 })).toEqual([false, false, false, false, true]);
});

test('a moment has one result, however it is come to', () => {
  const rnd = draw('release');
  const put = Array.from({ length: 40 }, (_, i): Put => ({
    at: [rnd() * 0.8, 0.4 + i * 0.25, rnd() * 0.8],
    prop: 'float',
  }));
  const scene = sceneOf(
    put,
    { then: 'ride' },
    (s) => (s.surfaces = [plane({}, [{ kind: 'wave', on: true, height: 0.1, length: 3, speed: 1 }])]),
  );
  const times = [0.3, 2.5, 1.01, 0, 1.7];
  const one = new Evaluator(ASSETS);
  const bits = (t: number, e = new Evaluator(ASSETS)) => {
    const { position, rotation } = fallen(scene, t, e).placements;
    return [...position, ...rotation];
  };
  const there = times.map((t) => bits(t, one));
  times.forEach((t, i) => expect(bits(t)).toEqual(there[i]));
  times.toReversed().forEach((t, i) => expect(bits(t, one)).toEqual(there[times.length - 1 - i]));
  // In pieces too: worked out for a frame at a time.
  const piecewise = new Evaluator(ASSETS);
  piecewise.goOn = () => false;
  let rounds = 0;
  while (piecewise.evaluate(scene, undefined, 1.01).unfinished) rounds++;
  expect(rounds).toBeGreaterThan(30);
  expect(bits(1.01, piecewise)).toEqual(there[2]);
});

test.each([
  { prop: 'float', apart: 0.24, size: 0.2 },
  { prop: 'can', apart: 0.17, size: 0.12 },
])(
  'a heap comes to rest, and nothing of it is in another by 2 % of its size: $prop',
  ({ prop, apart, size }) => {
    const many = Math.max(60, cases(500));
    const rnd = draw('heap');
    const side = many > 100 ? 7 : 4;
    const put = Array.from({ length: many }, (_, i): Put => {
      const [x, z] = [i % side, Math.floor(i / side) % side];
      return {
        at: [
          (x - side / 2) * apart + rnd() * 0.02,
          0.3 + Math.floor(i / side / side) * apart * 1.1,
          (z - side / 2) * apart + rnd() * 0.02,
        ],
        prop,
      };
    });
    const release = { seconds: 30, drag: 0.05, rolling: 0.05 };
    const { placements: p, findings } = fallen(sceneOf(put, release), 30);
    expect(findings).toEqual([]);
    const hull = hullOf(MESHES[prop]);
    const stands = put.map((_, i) => ({ p: at(p, i), q: turn(p, i) }));
    let deepest = 0;
    stands.forEach((a, i) => {
      expect(a.p[1]).toBeGreaterThan(size * 0.2);
      for (const b of stands.slice(0, i))
        if (distance(a.p, b.p) < size * 1.6) deepest = Math.max(deepest, hullDepth(hull, a, b));
    });
    expect(deepest).toBeLessThan(0.02 * size);
  },
);

test('what is hollow holds what falls into it', () => {
  const put: Put[] = [
    { at: [0, 0.02, 0], prop: 'bowl' },
    ...[0.6, 0.9, 1.2].map((y): Put => ({ at: [0.02, y, 0], prop: 'float' })),
  ];
  const lies = (shapes: Release['shapes']) => fallen(sceneOf(put, { shapes }), 8).placements;
  const parts = lies('auto');
  // In the bowl: near its middle, below its rim.
  expect(Math.hypot(at(parts, 1)[0] - at(parts, 0)[0], at(parts, 1)[2] - at(parts, 0)[2])).toBeLessThan(0.2);
  expect(at(parts, 1)[1]).toBeLessThan(0.25);
  // A hull has no inside: they lie on its lid, or have rolled off.
  const hull = lies('hulls');
  expect(at(hull, 1)[1] > 0.3 || Math.hypot(at(hull, 1)[0], at(hull, 1)[2]) > 0.3).toBe(true);
});

test('it rides on what moves under it, stays, or is gone', () => {
  const lift = (s: Scene) =>
    (s.surfaces = [plane({}, [{ kind: 'wave', on: true, height: 0.3, length: 12, speed: 0.4 }])]);
  const ride = sceneOf([{ at: [0, 0.6, 0] }], { then: 'ride', friction: 2, bounce: 0, seconds: 10 }, lift);
  const evaluator = new Evaluator(ASSETS);
  fallen(ride, 10, evaluator);
  const heights = [10, 11, 12, 13].map((t) => at(fallen(ride, t, evaluator).placements)[1]);
  expect(Math.max(...heights) - Math.min(...heights)).toBeGreaterThan(0.05);
  const gone = sceneOf([{ at: [0, 1, 0] }], { then: 'go' });
  expect(fallen(gone, 1, evaluator).placements.state[0]).toBe(STATE.placed);
  expect(fallen(gone, 6, evaluator).placements.state[0]).toBe(STATE.fallen);
  // What is gone is in nobody's way: the second one comes as low as the first.
  const two = sceneOf([{ at: [0, 1, 0] }, { at: [0, 3, 0] }], { then: 'go', who: 'turn', every: 6 });
  expect(at(fallen(two, 7.4).placements, 1)[1]).toBeLessThan(0.25);
});

test('what is wrong is told, and ends well', () => {
  const kinds = (put: Put[], release: Partial<Release>, t = 8, change?: (s: Scene) => void) =>
    fallen(sceneOf(put, release, change), t).findings.map((f) => f.kind);
  const nothing = (s: Scene) => (s.surfaces = []);
  expect(kinds([{ at: [0, 0, 0] }], { floor: -3 }, 8, nothing)).toEqual(['release-lost']);
  const lost = fallen(sceneOf([{ at: [0, 0, 0] }], { floor: -3 }, nothing), 8).placements;
  expect(at(lost)[1]).toBeCloseTo(-3, 6);
  // An earlier moment does not tell of it, whatever was worked out before.
  const evaluator = new Evaluator(ASSETS);
  const down = sceneOf([{ at: [0, 0, 0] }], { floor: -3 }, nothing);
  expect([8, 0.2, 8].map((t) => fallen(down, t, evaluator).findings.length)).toEqual([1, 0, 1]);
  expect(kinds([{ at: [0, 3, 0] }], { onto: ['gone'], against: ['gone too'], floor: 1 })).toContain(
    'release-missing',
  );
  expect(kinds([{ at: [0, 0.3, 0] }, { at: [0.05, 0.35, 0] }], {})).toEqual(['release-inside']);
  const parted = fallen(sceneOf([{ at: [0, 0.3, 0] }, { at: [0.05, 0.35, 0] }], {}), 8).placements;
  for (const row of [0, 1]) expect(Math.hypot(...at(parted, row))).toBeLessThan(1.5);
  expect(kinds([{ at: [0, 3, 0] }], { seconds: 0.2 })).toEqual(['release-restless']);
  expect(kinds([{ at: [0, 3, 0] }], { who: 'region' })).toEqual(['release-region']);
});

test('what follows from it follows its fall', () => {
  const riders = (s: Scene) =>
    s.arrangements.push(
      newArrangement(
        'riders',
        { id: 'riders', name: 'Riders', thread: 'moss' },
        {
          on: 'pegs',
          props: [{ id: 'w1', prop: 'float', weight: 1 }],
        },
      ) as Arrangement,
    );
  const scene = sceneOf([{ at: [0, 4, 0] }], {}, riders);
  const result = new Evaluator(ASSETS).evaluate(scene, undefined, 5);
  const [under, on] = ['pegs', 'riders'].map(
    (id) => result.arrangements.find((a) => a.id === id)!.placements,
  );
  expect(on.count).toBe(1);
  expect(Math.abs(at(on)[1] - at(under)[1])).toBeLessThan(0.5);
});
