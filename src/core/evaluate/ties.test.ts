import type { Tie } from '../curve/hang/schema';
import { pathSchema, type Path } from '../curve/schema';
import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import { newArrangement } from '../arrange/registry';
import { emptyScene, newPath, newProp, newSurface } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { ASSETS } from '../testing/scene';
import { Evaluator } from './scene';

/** Points of paths that are connected to snap points and to other paths. */

const EYE: Vec3 = [0, 0.6, 0.2];
const slot = (name: string, snap: string | null = 'eye'): Tie => ({
  to: 'slot',
  arrangement: 'boats',
  slot: name,
  snap,
});

const line = (ties: (Tie | undefined)[], more: object = {}): Path =>
  pathSchema.parse({
    id: 'line',
    name: 'Line',
    source: {
      kind: 'points',
      points: ties.map((tie, i) => ({ id: `pt${i + 1}`, kind: 'corner', position: [i * 3, 2, 0], tie })),
      ...more,
    },
  });

/** A waving plane with boats pegged to it, and a line from boat to boat. */
function sceneOf(path: Path, change: (scene: Scene) => void = () => {}): Scene {
  const scene: Scene = {
    ...emptyScene('Ties'),
    props: [
      {
        ...newProp('boat', 'Boat', { source: 'built', name: 'box' }),
        snapPoints: [{ name: 'eye', position: EYE, direction: [0, 0, 1] }],
      },
    ],
    surfaces: [
      newSurface('water', 'Water', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'plane', width: 20, depth: 20, columns: 20, rows: 20 }),
        color: '#406070',
      }),
    ],
    paths: [
      newPath(
        'edge',
        'Edge',
        points('corner', [
          [-8, 1, 6],
          [0, 1, 6],
          [8, 1, 6],
        ]),
      ),
      path,
    ],
    arrangements: [
      newArrangement(
        'run',
        { id: 'boats', name: 'Boats', thread: 'moss' },
        {
          paths: [{ path: 'way', part: 0 }],
          order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'boat' } }] },
          spacing: { mode: 'count', count: 4 },
          ground: { mode: 'land', above: 5 },
        },
      ),
    ],
  };
  scene.paths.push(
    newPath(
      'way',
      'Way',
      points('corner', [
        [-7, 0, 0],
        [7, 0, 0],
      ]),
    ),
  );
  scene.surfaces[0].deformers = [
    deformerSchema.parse({ id: 'd', kind: 'wave', height: 0.5, length: 4, speed: 1 }),
  ];
  change(scene);
  return scene;
}

const evaluator = new Evaluator(ASSETS);
function evaluated(scene: Scene, time = 0) {
  const { arrangements, paths } = evaluator.evaluate(scene, undefined, time);
  const { placements: p } = arrangements[0];
  const eye = (i: number): Vec3 => {
    const at = quatRotate([...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat, EYE);
    return [0, 1, 2].map((a) => p.position[i * 3 + a] + at[a]) as Vec3;
  };
  const drawn = paths.find((x) => x.id === 'line')!;
  const end = (k: number): Vec3 => [...drawn.strokes[0].carried!.subarray(k * 3, k * 3 + 3)] as Vec3;
  return { eye, end, drawn };
}
const near = (a: Vec3, b: Vec3) => expect(Math.hypot(...a.map((v, k) => v - b[k]))).toBeLessThan(1e-9);

test('a connected end is on its snap point at every time, whatever moves that; the line between is as long as asked', () => {
  const scene = sceneOf(line([slot('1'), slot('2'), undefined], { hang: { slack: 0.2 } }));
  for (const time of [0, 0.4, 1.3, 7]) {
    const { eye, end, drawn } = evaluated(scene, time);
    near(end(0), eye(0));
    near(end(1), eye(1));
    expect(end(2)).toEqual([6, 2, 0]);
    const straight = (a: Vec3, b: Vec3) => Math.hypot(...a.map((v, k) => v - b[k]));
    const sum = straight(eye(0), eye(1)) + straight(eye(1), [6, 2, 0]);
    expect(Math.abs(drawn.length / (sum * 1.2) - 1)).toBeLessThan(1e-9);
    expect(drawn.findings).toEqual([]);
    // Its own points alone are told, not those that the hanging line is made of.
    expect(drawn.strokes[0].pointS.length).toBe(3);
  }
});

test('what is taken away lets its line hang on the nearest of that name, and says so; what is gone leaves it where it was', () => {
  const other = evaluated(
    sceneOf(line([slot('1'), slot('4')]), (scene) => {
      Object.assign(scene.arrangements[0], { hand: { 1: { removed: true } } });
    }),
  );
  // It was at x = 0 last: that of the second boat is at −2.3.
  near(other.end(0), other.eye(1));
  near(other.end(1), other.eye(3));
  expect(other.drawn.findings.map((f) => f.kind)).toEqual(['tie-other']);
  const hook = evaluated(sceneOf(line([slot('1', 'hook'), slot('2')])));
  expect(hook.end(0)).toEqual([0, 2, 0]);
  expect(hook.drawn.findings.map((f) => f.kind)).toEqual(['tie-missing']);
  const foot = evaluated(sceneOf(line([slot('1', null), slot('2')])));
  expect(foot.drawn.findings).toEqual([]);
});

test('an end on a point of a path goes with that, and through it to what is connected there; a ring is named', () => {
  const on = (point: string): Tie => ({ to: 'point', path: 'edge', point });
  const { end, drawn } = evaluated(sceneOf(line([on('pt2'), slot('3')])));
  expect(end(0)).toEqual([0, 1, 6]);
  expect(drawn.findings).toEqual([]);
  const through = evaluated(
    sceneOf(line([on('pt2'), undefined]), (scene) => {
      const edge = scene.paths[0];
      if (edge.source.kind === 'points') edge.source.points[1].tie = slot('3');
    }),
    0.9,
  );
  near(through.end(0), through.eye(2));
  const ring = evaluated(
    sceneOf(line([slot('1'), undefined]), (scene) => {
      Object.assign(scene.arrangements[0], { paths: [{ path: 'line', part: 0 }] });
    }),
  );
  expect(ring.drawn.findings.map((f) => f.kind)).toEqual(['path-cycle']);
});

test('wind sways what sags with time alone, its ends held; a closed one hangs all round', () => {
  const hang = { slack: 0.3, wind: { strength: 1, gusts: 1 } };
  const free = sceneOf(line([undefined, undefined], { hang }));
  const middle = (time: number) => {
    const { drawn } = evaluated(free, time);
    const { position } = drawn.strokes[0];
    const o = Math.floor(position.length / 6) * 3;
    return [...position.subarray(o, o + 3)] as Vec3;
  };
  const [a, b, again] = [middle(0), middle(2), middle(0)];
  expect(Math.hypot(...a.map((v, k) => v - b[k]))).toBeGreaterThan(0.01);
  expect(again).toEqual(a);
  const closed = pathSchema.parse({
    ...line([undefined, undefined, undefined], { hang: { slack: 0.1 } }),
    closed: true,
  });
  const at: Vec3[] = [
    [0, 2, 0],
    [4, 2, 0],
    [0, 2, 3],
  ];
  if (closed.source.kind === 'points') closed.source.points.forEach((p, i) => (p.position = at[i]));
  const { drawn } = evaluated(sceneOf(closed));
  expect(drawn.strokes[0].closed).toBe(true);
  expect(Math.abs(drawn.length / (12 * 1.1) - 1)).toBeLessThan(1e-9);
  expect(drawn.strokes[0].pointS.length).toBe(3);
});

test('a change of what an end is connected to takes the line along at once, and what hangs on it', () => {
  const own = new Evaluator(ASSETS);
  const scene = sceneOf(line([slot('1'), slot('2')], { hang: { slack: 0.2 } }));
  scene.arrangements.push(
    newArrangement(
      'run',
      { id: 'flags', name: 'Flags', thread: 'weld' },
      {
        paths: [{ path: 'line', part: 0 }],
        order: { entries: [{ id: 'f', item: { kind: 'prop', prop: 'boat' } }] },
        spacing: { mode: 'count', count: 3 },
      },
    ),
  );
  const flag = (s: Scene) => [...own.evaluate(s).arrangements[1].placements.position.subarray(0, 3)];
  const before = flag(scene);
  const [boats, flags] = scene.arrangements;
  const moved = { ...scene, arrangements: [{ ...boats, hand: { 1: { side: 1 } } } as typeof boats, flags] };
  const after = flag(moved);
  expect(Math.hypot(...after.map((v, k) => v - before[k]))).toBeGreaterThan(0.9);
  expect(flag(scene)).toEqual(before);
});
