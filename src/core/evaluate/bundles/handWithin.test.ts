import { newArrangement } from '../../arrange/registry';
import { rowAtWay, wayWithin } from '../../arrange/inside';
import { inBlocks } from '../../arrange/pegs/blocks';
import type { Within } from '../../arrange/steps/withinSchema';
import { wayTo } from '../../formats/wayTo';
import { quatMultiply, type Quat } from '../../math/quat';
import { bundleSchema } from '../../scene/bundleSchema';
import { emptyScene, newPath, newProp } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { points } from '../../testing/paths';
import { ASSETS } from '../../testing/scene';
import { Evaluator } from '../scene';

/** Single props corrected within copies of bundles, crates of boxes on pallets: only they are others than before. */

const box = (id: string) => newProp(id, id, { source: 'built', name: 'box' });
const bundled = (id: string) => ({
  ...newProp(id, id, { source: 'bundle', bundle: `of ${id}` }),
  foot: { at: 'origin' as const },
});
const pegs = (id: string, prop: string, places: [number, number, number][]) =>
  newArrangement(
    'pegs',
    { id, name: id, thread: 'moss' },
    { pegs: inBlocks(places.map((position, i) => ({ id: `peg${i + 1}`, prop, position })) as never) },
  );

function sceneOf(within: Within, alike = false): Scene {
  const row = newArrangement(
    'run',
    { id: 'row', name: 'Row', thread: 'madder' },
    {
      paths: [{ path: 'line', part: 0 }],
      order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'box' } }] },
      spacing: { mode: 'count', count: 4 },
      variation: { turnDeg: [-90, 90] },
      hand: { '3': { side: 0.5 } },
    },
  );
  const line = points('corner', [
    [0, 0, 0],
    [3, 0, 0],
  ]);
  return {
    ...emptyScene('Pallets'),
    props: [box('box'), box('other'), bundled('crate'), bundled('pallet')],
    paths: [newPath('line', 'Line', line)],
    arrangements: [
      row,
      pegs('crates', 'crate', [
        [0, 0, 0],
        [0, 1, 0],
        [0, 2, 0],
      ]),
      {
        ...pegs('pallets', 'pallet', [
          [0, 0, 0],
          [9, 0, 0],
        ]),
        within,
      },
    ],
    bundles: [
      bundleSchema.parse({ id: 'of crate', members: [{ id: 'row' }], alike }),
      bundleSchema.parse({ id: 'of pallet', members: [{ id: 'crates' }], alike }),
    ],
  };
}

const way = (...slots: string[]) =>
  slots.map((slot, i) => ({ arrangement: ['pallets', 'crates', 'row'][i], slot }));

/** What stands where, by the way to it. */
function rowsOf(scene: Scene) {
  const { placements, inside } = new Evaluator(ASSETS)
    .evaluate(scene)
    .arrangements.find((a) => a.id === 'pallets')!;
  const rows = Array.from({ length: inside!.count }, (_, i) => i);
  const all = new Map(
    rows.map((i) => [
      wayTo(placements, inside!, i),
      {
        prop: inside!.props[inside!.prop[i]],
        matrix: [...inside!.matrix.subarray(i * 16, i * 16 + 16)],
        position: [...inside!.position.subarray(i * 3, i * 3 + 3)],
        rotation: [...inside!.rotation.subarray(i * 4, i * 4 + 4)] as Quat,
      },
    ]),
  );
  return { all, inside: inside!, placements };
}

test.each([false, true])('what is corrected in one copy is so there alone (copies alike: %s)', (alike) => {
  const before = rowsOf(sceneOf([], alike)).all;
  const after = rowsOf(
    sceneOf(
      [
        { way: way('2', '3', '4'), hand: { turnDeg: 30, lift: 0.25 } },
        { way: way('2', '3', '1'), hand: { removed: true } },
        { way: way('1', '1', '2'), hand: { prop: 'other' } },
        { way: way('1', '1', '3'), hand: { lift: 0.1 } },
        { way: way('1', '2'), hand: { removed: true } },
        { way: way('2', '9', '1'), hand: { removed: true } },
      ],
      alike,
    ),
  ).all;
  const gone = [...before.keys()].filter((name) => !after.has(name));
  expect(gone.sort()).toEqual(['1/2', '1/2/1', '1/2/2', '1/2/3', '1/2/4', '2/3/1']);
  const half = Math.PI / 12;
  for (const [name, now] of after) {
    const was = before.get(name)!;
    if (name === '2/3/4') {
      expect(now.position[1]).toBeCloseTo(was.position[1] + 0.25, 12);
      const turned = quatMultiply(was.rotation, [0, Math.sin(half), 0, Math.cos(half)]);
      turned.forEach((v, k) => expect(now.rotation[k]).toBeCloseTo(v, 12));
    } else if (name === '1/1/2') {
      expect([was.prop, now.prop]).toEqual(['box', 'other']);
      expect(now.matrix).toEqual(was.matrix);
    } else if (name === '1/1/3') {
      // What is corrected in all copies holds here too.
      expect(now.position[2]).toBeCloseTo(was.position[2], 12);
      expect(now.position[1]).toBeCloseTo(was.position[1] + 0.1, 12);
      expect(Math.abs(now.position[2])).toBeCloseTo(0.5, 12);
    } else expect(now).toEqual(was);
  }
});

test('every row is found again by its way', () => {
  const { inside, placements } = rowsOf(sceneOf([]));
  for (let i = 0; i < inside.count; i++) {
    const found = wayWithin(inside, i);
    expect([placements.slot[inside.copy[i]], ...found.map((s) => s.slot)].join('/')).toBe(
      wayTo(placements, inside, i),
    );
    expect(rowAtWay(inside, inside.copy[i], found)).toBe(i);
  }
  expect(rowAtWay(inside, 0, way('1', '9').slice(1))).toBe(-1);
});

test('a prop that is only swapped in within a copy is stood on: as it changes, so does the copy', () => {
  const scene = sceneOf([{ way: way('1', '1', '2'), hand: { prop: 'crate2' } }]);
  scene.props.push(bundled('crate2'));
  scene.bundles.push(bundleSchema.parse({ id: 'of crate2', members: [{ id: 'more' }] }));
  scene.arrangements.splice(1, 0, pegs('more', 'other', [[0, 0, 0]]));
  const evaluator = new Evaluator(ASSETS);
  const count = (s: Scene) =>
    evaluator.evaluate(s).arrangements.find((a) => a.id === 'pallets')!.inside!.count;
  const one = count(scene);
  const more = pegs('more', 'other', [
    [0, 0, 0],
    [1, 0, 0],
  ]);
  expect(count({ ...scene, arrangements: scene.arrangements.map((a) => (a.id === 'more' ? more : a)) })).toBe(
    one + 1,
  );
});
