import { OWN } from '../../arrange/base';
import type { Arrangement } from '../../arrange/registry';
import { newArrangement } from '../../arrange/registry';
import { STATE, type Finding } from '../../arrange/result';
import { slotName } from '../../arrange/slotId';
import { groundSchema } from '../../arrange/steps/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newPath, newProp, newRun, newSurface } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { exampleMesh } from '../../testing/scene';
import { Evaluator } from '../scene';
import { SceneChecks } from './sceneChecks';

/** Boxes of 0.4 × 0.6 × 0.5 m, their foot under the middle of their base. */
const ASSETS = { mesh: () => exampleMesh() };

const straight = (id: string, from: [number, number, number], to: [number, number, number]) =>
  newPath(id, id, points('corner', [from, to]));
function run(id: string, path: string, pitch = 1) {
  const made = newRun(id, id, 'madder', path, [newEntry(`${id}-e`, { kind: 'prop', prop: 'crate' })]);
  made.spacing = { ...made.spacing, mode: 'pitch', pitch, leftover: 'end' };
  return made;
}
const kind = (name: 'pegs' | 'riders' | 'spans', id: string, values: object) =>
  newArrangement(name, { id, name: id, thread: 'woad' }, values) as Arrangement;
function sceneOf(paths: Scene['paths'], arrangements: Arrangement[]): Scene {
  const scene = emptyScene('S');
  scene.props.push(newProp('crate', 'Crate', { source: 'built', name: 'crate' }));
  scene.paths.push(...paths);
  scene.arrangements.push(...arrangements);
  return scene;
}

function look(scene: Scene, evaluator = new Evaluator(ASSETS), checks = new SceneChecks()) {
  const work = checks.look(scene, evaluator.evaluate(scene), evaluator.contextAt(0));
  let turns = 0;
  let step = work.next();
  for (; !step.done; step = work.next()) turns++;
  return { found: step.value, turns };
}
const told = (found: Map<string, Finding[]>, id: string) =>
  (found.get(id) ?? []).map((f) => [f.kind, f.slots?.map(slotName).join(' '), f.detail.other ?? null]);

test('two runs in the very same place: all of both are doubled, and well apart nothing is said', () => {
  const line = straight('line', [0, 0, 0], [77, 0, 0]);
  const two = [run('a', 'line'), run('b', 'line')];
  const { found } = look(sceneOf([line], two));
  const all = Array.from({ length: 78 }, (_, i) => String(i + 1)).join(' ');
  expect(told(found, 'a')).toEqual([['doubled', all, 'b']]);
  expect(told(found, 'b')).toEqual([['doubled', all, 'a']]);
  two[1].visible = false;
  expect(look(sceneOf([line], two)).found.size).toBe(0);
});

test('two lanes that cross: just those at the crossing, both ways; meant so, nothing', () => {
  const paths = [straight('east', [-5, 0, 0], [5, 0, 0]), straight('south', [0, 0, -5], [0, 0, 5])];
  const scene = sceneOf(paths, [run('a', 'east'), run('b', 'south')]);
  const { found } = look(scene);
  expect(told(found, 'a')).toEqual([['overlap', '6', 'b']]);
  expect(told(found, 'b')).toEqual([['overlap', '6', 'a']]);
  for (const [who, what] of [
    [0, 'b'],
    [1, 'a'],
  ] as const) {
    const meant = structuredClone(scene);
    meant.arrangements[who].meant.push(what);
    expect(look(meant).found.size).toBe(0);
  }
});

test('what would reach into another arrangement gives way to it, whatever kind it is, unless it is kept by hand', () => {
  const paths = [straight('east', [-5, 0, 0], [5, 0, 0]), straight('south', [0, 0, -5], [0, 0, 5])];
  const into = { id: 'k', kind: 'into' as const, name: 'K', of: 'a' };
  const lower = run('b', 'south');
  lower.gaps.keepOuts.push(into);
  const place = (id: string, x: number) => ({ id, prop: 'crate', position: [x, 0, 0.2] });
  const pegs = kind('pegs', 'pegs', { pegs: [[place('p1', 2.1), place('p2', 2.5)]] });
  Object.assign(pegs.gaps, { keepOuts: [into] });
  const scene = sceneOf(paths, [run('a', 'east'), lower, pegs]);
  const evaluator = new Evaluator(ASSETS);
  const gone = () =>
    evaluator
      .evaluate({ ...scene, arrangements: [...scene.arrangements] })
      .arrangements.map(({ placements: p }) =>
        [...p.slot].filter((_, i) => p.state[i] === STATE.collision).map(slotName),
      );
  expect(gone()).toEqual([[], ['6'], ['1']]);
  expect(look(scene).found.size).toBe(0);
  scene.arrangements[1] = { ...lower, hand: { '6': { removed: false } } };
  expect(gone()).toEqual([[], [], ['1']]);
  // Those that wait for each other are named.
  const upper = run('a', 'east');
  upper.gaps.keepOuts.push({ ...into, of: 'b' });
  scene.arrangements[0] = upper;
  expect(
    evaluator.evaluate({ ...scene, arrangements: [...scene.arrangements] }).arrangements[1].findings[0].kind,
  ).toBe('cycle');
});

test('within one run: too tight neighbours are told once, other meetings too, and what only touches is not', () => {
  // Half a metre deep along the path: at exactly that pitch they touch.
  expect(look(sceneOf([straight('l', [0, 0, 0], [20, 0, 0])], [run('a', 'l', 0.5)])).found.size).toBe(0);
  // A path that comes back over itself.
  const loop = newPath(
    'l',
    'l',
    points('corner', [
      [0, 0, 0],
      [10, 0, 0],
      [10, 0, 10],
      [5, 0, 10],
      [5, 0, -5],
    ]),
  );
  const { found } = look(sceneOf([loop], [run('a', 'l')]));
  expect(told(found, 'a')).toEqual([['overlap', '6 36', null]]);
  const meant = sceneOf([loop], [run('a', 'l')]);
  meant.arrangements[0].meant.push(OWN);
  expect(look(meant).found.size).toBe(0);
});

test('a peg in a crate; its rider and the member between two posts touch what they should', () => {
  const line = straight('l', [0, 0, 0], [4, 0, 0]);
  const weights = [{ prop: 'crate', weight: 1 }];
  const peg = { id: 'p1', prop: 'crate', position: [1, 0.1, 0], scale: [0.2, 0.2, 0.2] };
  const scene = sceneOf(
    [line],
    [
      run('a', 'l'),
      kind('pegs', 'pegs', { pegs: [[peg]] }),
      kind('riders', 'riders', { on: 'a', props: weights, offset: [0, -0.2, 0], size: 0.5 }),
      kind('spans', 'spans', { on: 'a', props: weights, size: 0.3 }),
    ],
  );
  const { found } = look(scene);
  // Small and whole inside: it is found though no faces cross.
  expect(told(found, 'pegs')).toContainEqual(['overlap', '1', 'a']);
  expect(told(found, 'a')).toContainEqual(['overlap', '2', 'pegs']);
  for (const [who, other] of [
    ['riders', 'a'],
    ['a', 'riders'],
    ['spans', 'a'],
    ['a', 'spans'],
    ['spans', null],
  ] as const)
    expect(told(found, who).some((f) => f[2] === other)).toBe(false);
});

test('what was put down by its foot and goes into a slope, or stands in the air beside it; not what touches exactly', () => {
  const on = (
    contact: 'foot' | 'lowest',
    rollDeg = 30,
    sink = 0,
    more = (_: ReturnType<typeof run>): unknown => 0,
  ) => {
    const made = run('a', 'l');
    more(made);
    made.ground = groundSchema.parse({ mode: 'land', above: 9, contact, sink: [sink, sink] });
    const scene = sceneOf([straight('l', [-4, 5, 0], [4, 5, 0])], [made]);
    const slope = newSurface('s', 's', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'plane', width: 20, depth: 20 }),
      color: '#D8CDB6',
    });
    slope.rollDeg = rollDeg;
    scene.surfaces.push(slope);
    return look(scene).found.get('a') ?? [];
  };
  const [finding, ...more] = on('foot');
  expect(more).toEqual([]);
  expect(finding).toMatchObject({ kind: 'buried', detail: { count: 9 } });
  // Its uphill side: half of its depth along the path, on the tangent of 30°.
  expect(finding.detail.by).toBeCloseTo(0.25 * Math.tan(Math.PI / 6), 6);
  // A twentieth of its height is borne, and what was sunk on purpose.
  expect(on('foot', 6)).toEqual([]);
  expect(on('foot', 6, 0.2)).toEqual([]);
  expect(on('lowest')).toEqual([]);
  // Lifted and lowered on purpose, and wavering up and down.
  expect(on('foot', 0, 0, (r) => (r.facing.lift = 0.4))).toEqual([]);
  expect(on('foot', 0, 0, (r) => (r.facing.lift = -0.4))).toEqual([]);
  expect(on('foot', 0, 0, (r) => (r.variation.waverLift = 0.5))).toEqual([]);
  expect(on('foot', 0, 0, (r) => (r.variation.perProp = { crate: { lift: [0.3, 0.5] } }))).toEqual([]);
});

test('what has not changed is not held against each other again', () => {
  const paths = [
    straight('east', [-5, 0, 0], [5, 0, 0]),
    straight('south', [0, 0, -5], [0, 0, 5]),
    straight('far', [50, 0, 0], [90, 0, 0]),
  ];
  const scene = sceneOf(paths, [run('a', 'east'), run('b', 'south'), run('c', 'far', 0.51)]);
  const [evaluator, checks] = [new Evaluator(ASSETS), new SceneChecks()];
  const first = look(scene, evaluator, checks);
  expect(look(scene, evaluator, checks).turns).toBe(0);
  const changed = { ...scene, arrangements: [...scene.arrangements] };
  changed.arrangements[2] = run('c', 'far', 2);
  const again = look(changed, evaluator, checks);
  expect(again.turns).toBeLessThan(first.turns);
  expect(again.found).toEqual(look(changed).found);
});

test('what is given up before its end keeps what it had found', () => {
  const paths = [0, 1, 2, 3].map((k) => straight(`p${k}`, [k * 50, 0, 0], [k * 50 + 20, 0, 0]));
  const scene = sceneOf(
    paths,
    paths.map(({ id }, k) => run(`r${k}`, id, 0.3)),
  );
  const [evaluator, checks] = [new Evaluator(ASSETS), new SceneChecks()];
  const all = look(scene, evaluator).turns;
  const work = checks.look(scene, evaluator.evaluate(scene), evaluator.contextAt(0));
  for (let k = 0; k < all - 1; k++) work.next();
  const rest = look(scene, evaluator, checks);
  expect(rest.turns).toBeLessThan(all / 2);
  expect(rest.found).toEqual(look(scene).found);
});

describe('surfaces that nothing stands on', () => {
  /** A wall 4 m wide and 4 m high across the way, at x = 0.1. */
  const wall = {
    ...newSurface('wall', 'Wall', {
      source: 'made' as const,
      shape: shapeSchema.parse({ shape: 'plane', width: 4, depth: 4 }),
      color: '#D8CDB6',
    }),
    position: [0.1, 0, 0] as [number, number, number],
    rollDeg: 90,
  };
  const scene = (more: Partial<Scene> = {}) => ({
    ...sceneOf([straight('line', [-3, 0, 0], [3, 0, 0])], [run('a', 'line', 0.75)]),
    surfaces: [wall],
    ...more,
  });
  const through = (given: Scene) => told(look(given).found, 'a').map(([kind, slots]) => `${kind} ${slots}`);

  test('just what goes through it is told, by how far it does and not by its box alone', () => {
    // Feet 0.75 m apart, crates half a metre long: those within 0.25 m of the wall go through, but for a hair.
    const { found } = look(scene());
    const { placements } = new Evaluator(ASSETS).evaluate(scene()).arrangements[0];
    const near = [...placements.slot].filter((_, i) => {
      const away = 0.25 - Math.abs(placements.position[i * 3] - 0.1);
      return away > 1e-3 + 0.05 * 0.4;
    });
    expect(near.length).toBe(1);
    expect(found.get('a')!.map((f) => [f.kind, f.slots, f.detail.surface])).toEqual([
      ['through', near, 'wall'],
    ]);
    // A wall that just touches the front of one.
    expect(through(scene({ surfaces: [{ ...wall, position: [0.25, 0, 0] }] }))).toEqual([]);
    expect(through(scene({ surfaces: [{ ...wall, position: [0.1, 0, 9] }] }))).toEqual([]);
  });

  test('what is hidden, meant so, or stood on is not looked at', () => {
    expect(through(scene({ surfaces: [{ ...wall, visible: false }] }))).toEqual([]);
    expect(through(scene({ arrangements: [{ ...run('a', 'line', 0.75), meant: ['wall'] }] }))).toEqual([]);
    const landed = { ...run('a', 'line', 0.75), ground: groundSchema.parse({ mode: 'land' }) };
    // Landed by its foot, it is the ground's own check that tells of it.
    expect(through(scene({ arrangements: [landed] }))).toEqual(['buried 5']);
  });

  test('what moved is looked at again, and what did not is not', () => {
    const [evaluator, checks] = [new Evaluator(ASSETS), new SceneChecks()];
    expect(told(look(scene(), evaluator, checks).found, 'a')).toHaveLength(1);
    const away = scene({ surfaces: [{ ...wall, position: [0.1, 9, 0] }] });
    expect(look(away, evaluator, checks).found.size).toBe(0);
    expect(told(look(scene(), evaluator, checks).found, 'a')).toHaveLength(1);
  });
});

test('what is edited in an open bundle is not told of its own copy; what else stands in it is', () => {
  const paths = [straight('east', [-5, 0, 0], [5, 0, 0]), straight('south', [0, 0, -5], [0, 0, 5])];
  const peg = { id: 'peg1', prop: 'laden', position: [0, 0, 0] };
  const scene = sceneOf(paths, [
    run('a', 'east'),
    run('b', 'south'),
    kind('pegs', 'copies', { pegs: [[peg]] }),
  ]);
  scene.props.push({
    ...newProp('laden', 'Laden', { source: 'bundle', bundle: 'bundle1' }),
    foot: { at: 'origin' },
  });
  const bundle = { id: 'bundle1', name: 'Laden', members: [{ id: 'a', shown: true }], alike: true };
  const looked = (open: boolean) => {
    const arrangements = scene.arrangements.map((a) => (a.id === 'a' ? { ...a, visible: open } : a));
    return look({ ...scene, arrangements, bundles: [{ ...bundle, origin: [0, 0, 0], open }] }).found;
  };
  expect(told(looked(false), 'copies')).toEqual([['overlap', '1', 'b']]);
  expect(told(looked(true), 'a')).toEqual([['overlap', '6', 'b']]);
  expect(told(looked(true), 'copies')).toEqual([['overlap', '1', 'b']]);
});

test('a copy is what it holds by its own draw and hand: looked at prop by prop, told by the slot of the copy', () => {
  const lines = [straight('east', [-5, 0, 0], [5, 0, 0]), straight('south', [0, 0, -5], [0, 0, 5])];
  const pegs = [0, 40].map((x, i) => ({ id: `peg${i + 1}`, prop: 'laden', position: [x, 0, 0] }));
  const looked = (way: string[] | null, more: object = {}) => {
    const scene = sceneOf(lines, [
      { ...run('a', 'east'), visible: false, ...more },
      run('b', 'south'),
      kind('pegs', 'copies', { pegs: [pegs] }),
    ]);
    scene.props.push({
      ...newProp('laden', 'Laden', { source: 'bundle', bundle: 'bundle1' }),
      foot: { at: 'origin' },
    });
    const bundle = { id: 'bundle1', name: 'Laden', members: [{ id: 'a', shown: true }], alike: false };
    if (way)
      scene.arrangements[2].within = way.map((slot) => ({
        way: [
          { arrangement: 'copies', slot: '1' },
          { arrangement: 'a', slot },
        ],
        hand: { removed: true },
      }));
    return look({ ...scene, bundles: [{ ...bundle, origin: [0, 0, 0], open: false }] }).found;
  };
  expect(told(looked(null), 'copies')).toEqual([['overlap', '1', 'b']]);
  // Taken out of that copy alone, it is in nobody's way; nor is a copy out of which all was taken.
  expect(looked(['6']).size).toBe(0);
  expect(looked(Array.from({ length: 11 }, (_, i) => String(i + 1))).size).toBe(0);
  // What is too tight in the bundle is so where it was made, and not told of every copy.
  const tight = { spacing: { ...run('a', 'east').spacing, pitch: 0.3 } };
  expect(told(looked(['6'], tight), 'copies')).toEqual([['overlap', '1', 'b']]);
});
