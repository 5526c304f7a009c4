import { newArrangement, type Arrangement } from '../arrange/registry';
import { GAP_REASONS } from '../arrange/result';
import { slotName } from '../arrange/slotId';
import type { KeepOut } from '../arrange/steps/schema';
import { shapeSchema } from '../mesh/make/schema';
import { maskSchema } from '../mesh/mask/schema';
import { newEntry, newPath, newRun, newSurface } from '../scene/defaults';
import { sceneSchema, type Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { ASSETS, exampleScene } from '../testing/scene';
import { askPlace, askSlot } from './ask';
import { Evaluator } from './scene';

/** What made places what they are, against where they lie. */

const SQUARE: [number, number, number][] = [
  [2, 0, -3],
  [5, 0, -3],
  [5, 0, 3],
  [2, 0, 3],
];

/** A run of ten metres with keep-outs, a scatter by a mask that rises with height along x, on a tilted plane. */
function sceneOf(): Scene {
  const scene = exampleScene();
  const run = newRun('run', 'Run', 'woad', 'line', [newEntry('e', { kind: 'prop', prop: 'prop1' })]);
  run.spacing = { ...run.spacing, mode: 'pitch', pitch: 1, leftover: 'end' };
  run.gaps.keepOuts = [
    { id: 'k1', name: 'Steps', kind: 'range', part: 0, stroke: 0, from: 0.5, to: 2.5 },
    { id: 'k2', name: 'Square', kind: 'region', path: 'square', where: 'inside' },
  ] as KeepOut[];
  run.hand = { '10': { removed: true }, '9': { turnDeg: 30 } };
  scene.paths = [
    newPath(
      'line',
      'Line',
      points('corner', [
        [0, 0, 0],
        [10, 0, 0],
      ]),
    ),
    { ...newPath('square', 'Square', points('corner', SQUARE)), closed: true },
  ];
  scene.surfaces = [
    {
      ...newSurface('hill', 'Hill', {
        source: 'made',
        shape: shapeSchema.parse({ shape: 'plane', width: 20, depth: 20, columns: 20, rows: 20 }),
        color: '#708050',
      }),
      rollDeg: 30,
    },
  ];
  scene.masks = [
    maskSchema.parse({
      id: 'm',
      name: 'By height',
      layers: [
        { id: 'l1', kind: 'noise', from: 0, to: 0 },
        { id: 'l2', kind: 'height', from: -4, to: 4 },
      ],
    }),
  ];
  scene.arrangements = [
    run,
    newArrangement(
      'scatter',
      { id: 'grass', name: 'Grass', thread: 'moss' },
      {
        over: { kind: 'surfaces', surfaces: ['hill'] },
        props: [{ id: 'w', prop: 'prop2', weight: 1 }],
        spread: { mask: 'm', how: 'even', amount: 'distance', distance: 2 },
      },
    ) as Arrangement,
  ];
  return sceneSchema.parse(scene);
}

test('each slot of a run names all that keeps it out, and the hand', () => {
  const scene = sceneOf();
  const evaluator = new Evaluator(ASSETS);
  const { placements: p } = evaluator.evaluate(scene).arrangements[0];
  for (let i = 0; i < p.count; i++) {
    const [x, z] = [p.position[i * 3], p.position[i * 3 + 2]];
    const causes = askSlot(scene.arrangements[0], p, p.slot[i], evaluator.contextAt(0));
    const [first] = causes;
    const reason = GAP_REASONS[p.state[i]];
    expect(first).toMatchObject(
      reason === 'placed' ? { why: 'placed', prop: 'prop1' } : { why: 'gap', reason },
    );
    const wanted = [
      ...(p.s[i] >= 0.5 && p.s[i] <= 2.5 ? ['Steps'] : []),
      ...(x > 2 && x < 5 && Math.abs(z) < 3 ? ['Square'] : []),
    ];
    // Just on the border either may be said.
    if (x === 2 || x === 5) continue;
    expect(causes.flatMap((c) => (c.why === 'keep-out' ? [c.name] : []))).toEqual(wanted);
    const hand = (scene.arrangements[0] as { hand: Record<string, object> }).hand[slotName(p.slot[i])];
    expect(causes.filter((c) => c.why === 'hand')).toHaveLength(hand ? 1 : 0);
  }
  expect(askSlot(scene.arrangements[0], p, 999, evaluator.contextAt(0))).toEqual([]);
});

test('a place of bare ground names the mask, and of its layers first the one that gives least', () => {
  const scene = sceneOf();
  const evaluator = new Evaluator(ASSETS);
  evaluator.evaluate(scene);
  for (const along of [-6, -2, 1.5, 5]) {
    // Along the slope: rolled by 30°, a metre along it is half a metre up.
    const at: [number, number, number] = [along * Math.cos(Math.PI / 6), along * Math.sin(Math.PI / 6), 1];
    const told = askPlace('hill', at, scene.arrangements, evaluator.contextAt(0));
    const flipped = askPlace('hill', [at[0], -at[1], 1], scene.arrangements, evaluator.contextAt(0));
    const here = [told, flipped].map((t) => t.find((c) => c.why === 'layer' && c.kind === 'height'));
    const height = Math.min(...here.map((c) => (c?.why === 'layer' ? c.value : 1)));
    const low = Math.abs(at[1]) * -1;
    expect(height).toBeCloseTo(Math.min(1, Math.max(0, (low + 4) / 8)), 1);
    expect(told.map((c) => c.why)).toEqual(['mask', 'layer', 'layer']);
    const [whole, least, most] = told as { value: number }[];
    expect(whole.value).toBeCloseTo(least.value * most.value, 12);
    expect(least.value).toBeLessThanOrEqual(most.value);
  }
});
