import { Evaluator } from '../../evaluate/scene';
import type { Quat } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { posed, roomByPairs, rowsOf, together, trianglesBy, type Triangles } from '../../testing/plumb';
import { ASSETS } from '../../testing/scene';
import type { Placements } from '../result';
import { groundSchema } from '../steps/schema';
import { ridersSchema } from './schema';

/** What goes with its leader as one lands with it as one: the lowest of all of them touches, and nothing enters. */

const FROM = { position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] };

/** Boxes on hills, with a box that hangs low to their left, and one more on that. */
function scene(contact: 'foot' | 'lowest' | 'footprint', low: object = {}, top: object = {}): Scene {
  const hills = newSurface('hills', 'Hills', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'hills', width: 24, depth: 24, columns: 20, rows: 20, height: 2 }),
    color: '#D8CDB6',
  });
  const cars = newRun('cars', 'Cars', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  cars.spacing = { ...cars.spacing, mode: 'count', count: 6 };
  cars.variation = { ...cars.variation, size: [0.8, 1.3], mirror: 0.5, turnDeg: [-40, 40] };
  cars.ground = groundSchema.parse({
    mode: 'land',
    contact,
    lean: contact === 'footprint' ? 1 : 0.3,
    above: 50,
  });
  const riders = (id: string, on: string, settings: object) =>
    ridersSchema.parse({
      id,
      kind: 'riders',
      name: id,
      thread: 'moss',
      on,
      props: [{ prop: 'p' }],
      ...settings,
    });
  return {
    ...emptyScene('As one'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [hills],
    paths: [
      newPath('line', 'Line', [newPoint('a', 'corner', [-8, 9, 1]), newPoint('b', 'corner', [8, 9, -3])]),
      newPath(
        'field',
        'Field',
        [
          newPoint('c', 'corner', [-12, 0, -12]),
          newPoint('d', 'corner', [0, 0, -12]),
          newPoint('e', 'corner', [0, 0, 12]),
          newPoint('f', 'corner', [-12, 0, 12]),
        ],
        true,
      ),
    ],
    arrangements: [
      riders('top', 'low', { offset: [1.1, -0.6, 0.2], turnDeg: 20, ...top }),
      riders('low', 'cars', {
        seat: 'foot',
        offset: [1.2, -0.35, 0.4],
        variation: { turnDeg: [-30, 30] },
        ...low,
      }),
      cars,
    ],
  };
}

const boxTriangles = (() => {
  const mesh = ASSETS.mesh({ source: 'built', name: 'box' })!;
  // From the mesh to its own space: its foot is the middle of its base.
  const [x, y, z] = [0, 1, 2].map((a) => {
    const all = [...mesh.positions].filter((_, i) => i % 3 === a);
    return a === 1 ? Math.min(...all) : (Math.min(...all) + Math.max(...all)) / 2;
  });
  const own = Float64Array.from(mesh.positions, (v, i) => v - [x, y, z][i % 3]);
  return trianglesBy(own, mesh.indices);
})();

function standing(p: Placements, i: number): Triangles {
  const list = (a: Float64Array, n: number) => [...a.subarray(i * n, i * n + n)];
  return posed(
    boxTriangles,
    rowsOf(list(p.rotation, 4) as Quat, list(p.scale, 3) as Vec3),
    list(p.position, 3) as Vec3,
  );
}

function worked(given: Scene, evaluator = new Evaluator(ASSETS)) {
  const result = evaluator.evaluate(given);
  const by = (id: string) => result.arrangements.find((a) => a.id === id)!.placements;
  const { mesh, matrix } = result.surfaces[0];
  expect([...matrix]).toEqual([1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1]);
  const ground = trianglesBy(mesh!.positions, mesh!.indices);
  return { cars: by('cars'), low: by('low'), top: by('top'), ground };
}

test.each(['lowest', 'footprint'] as const)(
  'by its %s: nothing of all that is one enters, and it touches',
  (contact) => {
    const { cars, low, top, ground } = worked(scene(contact));
    const alone = worked(scene(contact, { landing: 'leader' })).cars;
    let held = 0;
    for (let i = 0; i < cars.count; i++) {
      const all = [cars, low, top].map((p) => standing(p, i));
      expect(roomByPairs(together(...all), ground)).toBeCloseTo(0, 6);
      if (Math.abs(cars.position[i * 3 + 1] - alone.position[i * 3 + 1]) > 0.01) held++;
    }
    // Without what hangs low they would lie otherwise.
    expect(held).toBeGreaterThan(2);
  },
);

test('by its foot, or where the leader alone lands, what rides does not hold it', () => {
  for (const given of [scene('lowest', { landing: 'leader' }), scene('lowest', { landing: 'each' })]) {
    const { cars, ground } = worked(given);
    for (let i = 0; i < cars.count; i++) expect(roomByPairs(standing(cars, i), ground)).toBeCloseTo(0, 6);
  }
  const bare = scene('foot');
  const alone = { ...bare, arrangements: bare.arrangements.slice(2) };
  const one = new Evaluator(ASSETS).evaluate(alone).arrangements[0].placements;
  expect(worked(bare).cars.position).toEqual(one.position);
});

test('what is left out, held where it is or kept away does not hold it', () => {
  const { ground, cars } = worked(scene('lowest', { share: 0 }));
  for (let i = 0; i < cars.count; i++) expect(roomByPairs(standing(cars, i), ground)).toBeCloseTo(0, 6);
  const lock = { ...FROM, prop: 'p', position: [0, -20, 0], s: 0 };
  const locked = worked(scene('lowest', { hand: { 2: { lock } } }, { share: 0 }));
  expect(roomByPairs(standing(locked.cars, 1), ground)).toBeCloseTo(0, 6);
  const keepOuts = [{ id: 'k', name: 'K', kind: 'region', path: 'field', where: 'inside' }];
  const kept = worked(scene('lowest', { gaps: { keepOuts } }, { share: 0 }));
  expect(roomByPairs(standing(kept.cars, 0), ground)).toBeCloseTo(0, 6);
});

test('a change of what rides lands its leader anew, as if all were worked out from nothing', () => {
  const evaluator = new Evaluator(ASSETS);
  const keepOuts = [{ id: 'k', name: 'K', kind: 'region', path: 'field', where: 'inside' }];
  const scenes = [
    scene('lowest'),
    scene('lowest', { offset: [0.8, -0.2, 0] }),
    scene('lowest', { offset: [0.8, -0.2, 0] }, { offset: [2, -1, 0] }),
    scene('lowest', { landing: 'leader' }),
    scene('lowest', { gaps: { keepOuts } }),
    scene('lowest'),
  ];
  let before: Float64Array | null = null;
  for (const given of scenes) {
    // What did not change is the same object, as it is in a document.
    const { cars } = worked(given, evaluator);
    expect(cars.position).toEqual(worked(given).cars.position);
    if (before) expect(cars.position).not.toEqual(before);
    before = cars.position.slice();
  }
});
