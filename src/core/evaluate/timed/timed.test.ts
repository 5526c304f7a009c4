import type { Moment } from '../../scene/timedSchema';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { newEntry, newPath, newRun, newSurface } from '../../scene/defaults';
import { clip, pasting } from '../../scene/clipping';
import { applyPatches } from '../../scene/patch';
import { sceneSchema, type Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS, exampleScene } from '../../testing/scene';
import { SceneChecks } from '../checks/sceneChecks';
import { Evaluator } from '../scene';
import { addedUp, inForceAt, inOrder, valueAtTime } from './moments';

/** Numbers that change with time, against sums by hand. */

const MOMENTS: Moment[] = [
  { at: 3, value: -1, way: 'held' },
  { at: 1, value: 2, way: 'eased' },
  { at: 5, value: 4, way: 'straight' },
  { at: 7, value: 0, way: 'eased' },
];

test('it is what it is at its moments, in between as it says, and stays before and after', () => {
  const sorted = inOrder(MOMENTS);
  for (const { at, value } of MOMENTS) expect(valueAtTime(sorted, at)).toBe(value);
  expect([-5, 0, 0.99].map((t) => valueAtTime(sorted, t))).toEqual([2, 2, 2]);
  expect(valueAtTime(sorted, 2)).toBeCloseTo(0.5, 12);
  expect(valueAtTime(sorted, 1.2)).toBeCloseTo(2 - 3 * (3 * 0.01 - 2 * 0.001), 12);
  expect(valueAtTime(sorted, 4.99)).toBe(-1);
  expect(valueAtTime(sorted, 6.5)).toBeCloseTo(1, 12);
  expect(valueAtTime(sorted, 99)).toBe(0);
});

test('what adds up is the sum of thin slices', () => {
  const sorted = inOrder(MOMENTS);
  for (const time of [-2, 0.5, 1.7, 2.9, 4, 6.2, 9]) {
    let sum = 0;
    const n = 200_000;
    for (let i = 0; i < n; i++) sum += (valueAtTime(sorted, ((i + 0.5) / n) * time) * time) / n;
    expect(addedUp(sorted, time)).toBeCloseTo(sum, 3);
    expect(inForceAt(MOMENTS, true, time) * time).toBeCloseTo(sum, 3);
  }
  expect(inForceAt(MOMENTS, true, 0)).toBe(2);
});

/** A run along ten metres, on a pulley, with numbers in time. */
function sceneOf(timed: { field: string; moments: Partial<Moment>[]; node?: string }[]): Scene {
  const scene = exampleScene();
  const run = newRun('row', 'Row', 'woad', 'line', [newEntry('e', { kind: 'prop', prop: 'prop1' })]);
  run.spacing = { ...run.spacing, mode: 'pitch', pitch: 1, leftover: 'end' };
  scene.paths.push(
    newPath(
      'line',
      'Line',
      points('corner', [
        [0, 0, 0],
        [10, 0, 0],
      ]),
    ),
  );
  scene.arrangements = [run];
  return sceneSchema.parse({
    ...scene,
    timed: timed.map((t, i) => ({
      id: `timed${i}`,
      node: t.node ?? 'row',
      field: t.field.split('.'),
      moments: t.moments,
    })),
  });
}
const firstX = (scene: Scene, time: number, evaluator = new Evaluator(ASSETS)) =>
  evaluator.evaluate(scene, undefined, time).arrangements[0].placements.position[0];

test('a pulley that speeds up and stops is where its speed has brought it', () => {
  const scene = sceneOf([
    {
      field: 'pulley.speed',
      moments: [
        { at: 0, value: 0, way: 'straight' },
        { at: 1, value: 1, way: 'held' },
        { at: 2, value: 0 },
      ],
    },
  ]);
  const evaluator = new Evaluator(ASSETS);
  const at = (t: number) => firstX(scene, t, evaluator) - firstX(sceneOf([]), 0);
  // Half a metre on the way up, a metre at full speed, none after.
  for (const [t, x] of [
    [0.5, 0.125],
    [1, 0.5],
    [1.4, 0.9],
    [2, 0.5],
    [0, 0],
  ] as const)
    expect((((at(t) - x) % 1) + 1.5) % 1).toBeCloseTo(0.5, 9);
  expect(at(5)).toBeCloseTo(at(2.0001), 3);
  // As if it were asked for the first time.
  expect(firstX(scene, 1.4)).toBe(firstX(scene, 1.4, evaluator));
});

test('a pitch in time is held to its bounds; what has no such field is passed by; the document stays', () => {
  const scene = sceneOf([
    {
      field: 'spacing.pitch',
      moments: [
        { at: 0, value: 1, way: 'straight' },
        { at: 2, value: 2 },
      ],
    },
    { field: 'spacing.count', moments: [{ at: 0, value: 2.6 }] },
    { field: 'spacing.nothing', moments: [{ at: 0, value: 1 }] },
    { field: 'spacing.pitch', moments: [{ at: 0, value: 1 }], node: 'gone' },
  ]);
  const count = (t: number) =>
    new Evaluator(ASSETS).evaluate(scene, undefined, t).arrangements[0].placements.count;
  expect([0, 1, 2, 9].map(count)).toEqual([11, 7, 6, 6]);
  expect(sceneSchema.parse(scene)).toEqual(scene);
});

test('a cloth goes by what its numbers are at the beginning, and on what moves in time', () => {
  const shape = shapeSchema.parse({ shape: 'plane', width: 1, depth: 1, columns: 4, rows: 4 });
  const cloth = {
    ...newSurface('cloth', 'Cloth', { source: 'made', shape, color: '#888888' }),
    deformers: [deformerSchema.parse({ id: 'd', kind: 'cloth', on: true, sides: ['v1'], gravity: 9.81 })],
  };
  const scene: Scene = {
    ...sceneOf([
      {
        node: 'cloth',
        field: 'deformers.0.gravity',
        moments: [
          { at: 0, value: 9.81, way: 'straight' },
          { at: 1, value: 0 },
        ],
      },
    ]),
  };
  scene.surfaces = [cloth];
  const bare = { ...scene, timed: [] };
  const at = (s: Scene) => [...new Evaluator(ASSETS).evaluate(s, undefined, 1).surfaces[0].mesh!.positions];
  expect(at(scene)).toEqual(at(bare));
});

test('copies change with time too', () => {
  const scene = sceneOf([{ field: 'pulley.speed', moments: [{ at: 0, value: 1 }] }]);
  const { patches, made } = pasting(scene, clip(scene, ['row'], 'x'), 'x');
  const pasted = applyPatches(scene, patches).value;
  expect(sceneSchema.safeParse(pasted).success).toBe(true);
  expect(pasted.timed.map((t) => t.node)).toEqual(['row', made[0]]);
  expect(pasted.timed[1].id).not.toBe(pasted.timed[0].id);
});

test('what has lost its field is told', () => {
  const scene = sceneOf([{ field: 'spacing.nothing', moments: [{ at: 0, value: 1 }] }]);
  const evaluator = new Evaluator(ASSETS);
  const work = new SceneChecks().look(scene, evaluator.evaluate(scene), evaluator.contextAt(0));
  let step = work.next();
  while (!step.done) step = work.next();
  expect(step.value.get('row')?.map((f) => f.kind)).toContain('timed-no-field');
});
