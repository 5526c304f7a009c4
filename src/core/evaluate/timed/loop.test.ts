import { travelSchema } from '../../arrange/travel/schema';
import { applyPatches } from '../../scene/patch';
import type { Run } from '../../arrange/run/schema';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { pathSchema } from '../../curve/schema';
import { newEntry, newRun, newSurface } from '../../scene/defaults';
import { sceneSchema, type Scene } from '../../scene/schema';
import { ASSETS, exampleScene } from '../../testing/scene';
import { placeOf } from '../links/linked';
import { Evaluator } from '../scene';
import { loopOver } from './loop';

/** A loop: at its end everything is where it was at its beginning. */

const ring = (run: (r: Run) => void, deformers: object[] = []): Scene => {
  const scene = exampleScene();
  const made = newRun('row', 'Row', 'woad', 'ring', [newEntry('e', { kind: 'prop', prop: 'prop1' })]);
  made.spacing = { ...made.spacing, mode: 'count', count: 7 };
  run(made);
  scene.arrangements = [made];
  scene.paths = [
    pathSchema.parse({
      id: 'ring',
      name: 'Ring',
      source: { kind: 'generator', generator: { shape: 'circle', radius: 3 } },
      closed: true,
    }),
  ];
  scene.surfaces = [
    {
      ...newSurface('cloth', 'Sheet', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'plane', width: 6, depth: 6, columns: 12, rows: 12 }),
        color: '#888888',
      }),
      deformers: deformers.map((d, i) => deformerSchema.parse({ id: `d${i}`, ...d })),
    },
  ];
  return sceneSchema.parse(scene);
};

function looped(scene: Scene, span: number) {
  const result = new Evaluator(ASSETS).evaluate(scene);
  const { changes, seams } = loopOver(
    scene,
    span,
    () => result.arrangements[0].facts,
    (path) => result.paths.find((p) => p.id === path && p.closed)?.length ?? null,
    () => null,
  );
  const patches = changes.map(({ value, ...at }) => ({
    op: 'replace' as const,
    path: placeOf(scene, at)!,
    value,
  }));
  return { scene: applyPatches(scene, patches).value, seams };
}

/** Places and vertices at a time; props that are alike in any order. */
function at(scene: Scene, time: number): number[] {
  const { arrangements, surfaces } = new Evaluator(ASSETS).evaluate(scene, undefined, time);
  const { position, count } = arrangements[0].placements;
  const places = Array.from({ length: count }, (_, i) =>
    [...position.subarray(i * 3, i * 3 + 3)].map((v) => Math.round(v * 1e6) / 1e6 + 0),
  );
  return [
    ...places
      .map((p) => p.join())
      .sort()
      .flatMap((p) => p.split(',').map(Number)),
    ...surfaces[0].mesh!.positions,
  ];
}

const WAVES = [
  { kind: 'wave', on: true, length: 2.3, speed: 0.71, height: 0.2 },
  { kind: 'bend', on: true, angleDeg: 20, sway: 0.3, period: 1.7 },
];

test.each([
  ['alike props by their pitch', (r: Run) => void (r.pulley.speed = 0.37)],
  [
    'others once round',
    (r: Run) => ((r.pulley.speed = -3), (r.variation.turnDeg = [-30, 30]), (r.variation.size = [0.5, 1])),
  ],
  ['by a duration', (r: Run) => void (r.pulley.duration = 2.9)],
  [
    'turned whole turns',
    (r: Run) => void (r.travel = travelSchema.parse({ way: 'turn', turn: { speed: 23 } })),
  ],
  [
    'once round another path',
    (r: Run) => void (r.travel = travelSchema.parse({ way: 'along', path: 'ring', along: { speed: -2.3 } })),
  ],
])('%s: the last frame is the first', (_, change) => {
  const { scene, seams } = looped(ring(change, WAVES), 6);
  expect(seams).toEqual([]);
  const [first, last, middle] = [0, 6, 2.5].map((t) => at(scene, t));
  last.forEach((v, i) => expect(v).toBeCloseTo(first[i], 4));
  expect(middle.some((v, i) => Math.abs(v - first[i]) > 0.01)).toBe(true);
});

test('what is alike goes on by no more than it has to', () => {
  const { scene } = looped(
    ring((r) => void (r.pulley.speed = 0.37)),
    6,
  );
  const way = (scene.arrangements[0] as Run).pulley.speed * 6;
  // The pitch of seven on the ring that is nearest to what it was.
  expect(way / ((2 * Math.PI * 3) / 7)).toBeCloseTo(1, 3);
});

test('what is no loop is told', () => {
  const scene = ring((r) => void (r.release = undefined), [{ kind: 'noise', on: true, speed: 1 }]);
  const timed = {
    ...scene,
    timed: [
      {
        id: 't',
        node: 'row',
        field: ['pulley', 'offset'],
        moments: [
          { at: 0, value: 0, way: 'eased' as const },
          { at: 2, value: 1, way: 'eased' as const },
        ],
      },
    ],
  };
  expect(looped(timed, 4).seams).toEqual([
    { node: 'cloth', why: 'noise' },
    { node: 'row', why: 'moments' },
  ]);
});
