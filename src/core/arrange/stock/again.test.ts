import fc from 'fast-check';
import { Evaluator } from '../../evaluate/scene';
import { emptyScene, newPath, newProp } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { cases, SEED } from '../../testing/prove';
import { ASSETS } from '../../testing/scene';
import { newArrangement } from '../registry';
import type { Stock } from './schema';

/** What a hand changes of facings and units: filled again board by board, the same as all of it worked out anew. */

const PROPS = [
  { ...newProp('tin', 'Tin', { source: 'built' as const, name: 'box' }), unitScale: 0.25 },
  { ...newProp('jar', 'Jar', { source: 'built' as const, name: 'box' }), unitScale: 0.4 },
  { ...newProp('chest', 'Chest', { source: 'built' as const, name: 'box' }), unitScale: 20 },
];

function sceneOf(more: object): Scene {
  const stock = newArrangement(
    'stock',
    { id: 'stock', name: 'Stock', thread: 'weld' },
    {
      shelves: [0, 1].map((part) => ({
        from: 'path',
        path: `edge${part}`,
        part,
        depth: 0.4,
        levels: [{ height: 0.5 }, { height: 0.3 }],
      })),
      order: {
        entries: ['tin', 'jar', 'chest'].map((prop) => ({ id: prop, item: { kind: 'prop', prop } })),
      },
      ...more,
    },
  );
  const edge = (part: number, z: number) =>
    newPath(
      `edge${part}`,
      'Edge',
      points('corner', [
        [0, 1, z],
        [1.5, 1, z],
      ]),
    );
  return { ...emptyScene('Shelves'), props: PROPS, paths: [edge(0, 0), edge(1, -2)], arrangements: [stock] };
}

const RECIPES = [
  {},
  {
    variation: { turnDeg: [-20, 20], tint: { colors: ['#b4472f', '#2c5f86'] } },
    sold: { front: [0, 1], top: [0, 0.5], forward: true },
  },
  { gaps: { chance: 0.3 } },
  { filling: { deepBy: 'share', highBy: 'count', leftover: 'centre' } },
];

/** Facings and units on both boards of both shelves, and some that there are not. */
const name = fc
  .tuple(fc.constantFrom('', 'p1.'), fc.constantFrom('', 'k1.'), fc.integer({ min: 1, max: 12 }))
  .map(([part, board, across]) => `${part}${board}${across}`);
const change = fc.oneof(
  fc.record({
    name,
    facing: fc.oneof(
      fc.constant(undefined),
      fc.record({ deep: fc.integer({ min: 1, max: 3 }) }),
      fc.record({ prop: fc.constantFrom('tin', 'jar', 'chest', 'gone') }),
      fc.record({ sold: fc.boolean() }),
    ),
  }),
  fc.record({
    name: fc.tuple(name, fc.integer({ min: 1, max: 3 })).map(([n, up]) => `${n}.1.${up}`),
    unit: fc.oneof(
      fc.constant(undefined),
      fc.constant({ removed: true }),
      fc.constant({ turnDeg: 30, side: 0.02 }),
      fc.constant({ prop: 'jar' }),
    ),
  }),
);

function changed(scene: Scene, { name, ...to }: { name: string; facing?: object; unit?: object }): Scene {
  const stock = scene.arrangements[0] as Stock;
  const field = 'facing' in to ? 'byFacing' : 'hand';
  const { [name]: _, ...left } = stock[field] as Record<string, object>;
  const value = to.facing ?? to.unit;
  return {
    ...scene,
    arrangements: [{ ...stock, [field]: value ? { ...left, [name]: value } : left } as Stock],
  };
}

test('a chain of changes by hand comes to what the last of them comes to by itself, bit for bit', () => {
  fc.assert(
    fc.property(
      fc.constantFrom(...RECIPES),
      fc.array(change, { minLength: 1, maxLength: 8 }),
      (recipe, changes) => {
        const evaluator = new Evaluator(ASSETS);
        let scene = sceneOf(recipe);
        evaluator.evaluate(scene);
        for (const c of changes) {
          scene = changed(scene, c);
          const chained = evaluator.evaluate(scene).arrangements[0];
          const whole = new Evaluator(ASSETS).evaluate(scene).arrangements[0];
          expect(chained.placements).toEqual(whole.placements);
          expect(chained.stock).toEqual(whole.stock);
          expect(chained.findings).toEqual(whole.findings);
        }
      },
    ),
    { numRuns: cases(6000), seed: SEED },
  );
});

test('facings of boards that no hand has changed are the same ones as before', () => {
  const evaluator = new Evaluator(ASSETS);
  const scene = sceneOf({});
  const was = evaluator.evaluate(scene).arrangements[0].stock!.facings;
  const next = changed(scene, { name: 'p1.k1.2', facing: { sold: true } });
  const now = evaluator.evaluate(next).arrangements[0].stock!.facings;
  const same = now.map((f, i) => f === was[i]);
  expect(same).toEqual(now.map((f) => f.shelf !== 3));
  expect(same).toContain(false);
});
