import { quatMultiply, quatRotate, type Quat } from '../../math/quat';
import { distance, type Vec3 } from '../../math/vec3';
import { propShape } from '../../mesh/contact/support';
import { STATE, type Placements } from '../result';
import { Evaluator } from '../../evaluate/scene';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../../scene/defaults';
import { shapeSchema } from '../../mesh/make/schema';
import { sceneSchema, type Scene } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import { groundSchema } from '../steps/schema';
import { topAt } from './evaluate';
import { ridersSchema, type Riders } from './schema';

const riders = (more: object = {}): Riders =>
  ridersSchema.parse({
    id: 'cargo',
    kind: 'riders',
    name: 'Cargo',
    thread: 'moss',
    on: 'cars',
    props: [{ prop: 'p' }],
    ...more,
  });

/** Cars that land on a plane tilted by 20°, with cargo. */
function scene(cargo: Riders, land = true): Scene {
  const plane = newSurface('slope', 'Slope', {
    source: 'made',
    shape: shapeSchema.parse({ shape: 'plane', width: 40, depth: 40 }),
    color: '#D8CDB6',
  });
  plane.rollDeg = 20;
  const cars = newRun('cars', 'Cars', 'madder', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  cars.spacing = { ...cars.spacing, mode: 'count', count: 12 };
  cars.variation = { ...cars.variation, size: [0.8, 1.3], mirror: 0.5 };
  if (land) cars.ground = groundSchema.parse({ mode: 'land', lean: 1, above: 50 });
  return {
    ...emptyScene('Riders'),
    props: [
      newProp('p', 'P', { source: 'built', name: 'box' }),
      newProp('q', 'Q', { source: 'built', name: 'box' }),
    ],
    surfaces: [plane],
    paths: [
      newPath('line', 'Line', [newPoint('a', 'corner', [-8, 4, 1]), newPoint('b', 'corner', [8, 4, -3])]),
    ],
    arrangements: [cargo, cars],
  };
}
function worked(cargo: Riders, land = true): { cars: Placements; cargo: Placements; findings: string[] } {
  const result = new Evaluator(ASSETS).evaluate(scene(cargo, land));
  const by = (id: string) => result.arrangements.find((a) => a.id === id)!;
  return {
    cars: by('cars').placements,
    cargo: by('cargo').placements,
    findings: by('cargo').findings.map((f) => f.kind),
  };
}
const place = (p: Placements, i: number): Vec3 => [
  p.position[i * 3],
  p.position[i * 3 + 1],
  p.position[i * 3 + 2],
];
const turn = (p: Placements, i: number): Quat => [...p.rotation.subarray(i * 4, i * 4 + 4)] as Quat;

test('as one: every rider keeps its place on its leader, grown with it, mirrored with it', () => {
  const offset: Vec3 = [0.3, 0.2, -0.5];
  const { cars, cargo } = worked(riders({ seat: 'foot', offset, turnDeg: 30 }));
  expect(cargo.count).toBe(12);
  expect([...cargo.slot]).toEqual([...cars.slot]);
  for (let i = 0; i < 12; i++) {
    const own = offset.map((v, k) => v * cars.scale[i * 3 + k]) as Vec3;
    const at = quatRotate(turn(cars, i), own).map((v, k) => v + place(cars, i)[k]) as Vec3;
    expect(distance(at, place(cargo, i))).toBeLessThan(1e-12);
    const half = (cars.scale[i * 3] < 0 ? -15 : 15) * (Math.PI / 180);
    const q = quatMultiply(turn(cars, i), [0, Math.sin(half), 0, Math.cos(half)]);
    turn(cargo, i).forEach((v, k) => expect(v).toBeCloseTo(q[k], 12));
    expect(Math.sign(cargo.scale[i * 3])).toBe(Math.sign(cars.scale[i * 3]));
  }
});

test('landing is a clear choice: as one, each on its own, or the leader alone', () => {
  const air = worked(riders(), false);
  const one = worked(riders());
  const leader = worked(riders({ landing: 'leader' }));
  const own = worked(riders({ landing: 'each', ground: { mode: 'land', lean: 0, above: 50 } }));
  for (let i = 0; i < 12; i++) {
    // The leaders land alike, whatever their riders do.
    expect(place(leader.cars, i)).toEqual(place(one.cars, i));
    // The leader alone: the riders are where they were over leaders that never landed.
    expect(distance(place(leader.cargo, i), place(air.cargo, i))).toBeLessThan(1e-12);
    expect(place(one.cargo, i)[1]).toBeLessThan(place(air.cargo, i)[1]);
    // On its own: on the slope, upright, straight below or above where it sat.
    const [x, y] = place(own.cargo, i);
    expect(Math.abs(y - x * Math.tan((20 * Math.PI) / 180))).toBeLessThan(1e-9);
    expect(quatRotate(turn(own.cargo, i), [0, 1, 0])[1]).toBeLessThan(1);
    expect(x).toBeCloseTo(place(one.cargo, i)[0], 9);
  }
});

test('the seat is on what of the leader is highest there', () => {
  // A step: 1 m high for x < 0, 2 m for x > 0.
  const flat = (x0: number, x1: number, y: number) => [x0, y, -1, x1, y, -1, x1, y, 1, x0, y, 1];
  const shape = propShape(
    [...flat(-1, 0, 1), ...flat(0, 1, 2)],
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
    [0, 1, 2, 0, 2, 3, 4, 5, 6, 4, 6, 7],
  );
  expect(topAt(shape, -0.5, 0.2)).toBeCloseTo(1, 12);
  expect(topAt(shape, 0.5, -0.9)).toBeCloseTo(2, 12);
  expect(topAt(shape, 4, 0)).toBe(2);
  const { cars, cargo } = worked(riders(), false);
  for (let i = 0; i < 12; i++)
    expect(place(cargo, i)[1] - place(cars, i)[1]).toBeCloseTo(topOf() * cars.scale[i * 3 + 1], 9);
});
/** Height of the test box. */
const topOf = () => {
  const mesh = ASSETS.mesh({ source: 'built', name: 'box' })!;
  let [low, high] = [Infinity, -Infinity];
  for (let o = 1; o < mesh.positions.length; o += 3) {
    low = Math.min(low, mesh.positions[o]);
    high = Math.max(high, mesh.positions[o]);
  }
  return high - low;
};

test('each draws for itself: weights, shares and seeds; some slots only; nothing else moves', () => {
  const mixed = (more: object) =>
    worked(
      riders({
        props: [
          { prop: 'p', weight: 1 },
          { prop: 'q', weight: 1 },
        ],
        ...more,
      }),
    ).cargo;
  const [a, b] = [mixed({}), mixed({ seed: 2 })];
  expect(new Set(a.prop).size).toBe(2);
  expect([...a.prop]).not.toEqual([...b.prop]);
  const some = worked(riders({ share: 0.5 })).cargo;
  const kept = [...some.state].filter((s) => s === STATE.placed).length;
  expect(kept).toBeGreaterThan(1);
  expect(kept).toBeLessThan(11);
  const more = worked(riders({ share: 0.7 })).cargo;
  // Who carries one at half still does at more.
  some.state.forEach((s, i) => s === STATE.placed && expect(more.state[i]).toBe(STATE.placed));
  const one = worked(riders({ only: ['3', '5'] })).cargo;
  expect([...one.slot]).toEqual([3, 5]);
});

test('riders on riders, riders of what is gone, and rings of riders', () => {
  const base = scene(riders());
  const second = riders({ id: 'top', on: 'cargo' });
  const result = new Evaluator(ASSETS).evaluate({ ...base, arrangements: [second, ...base.arrangements] });
  const [top, cargo] = result.arrangements;
  for (let i = 0; i < 12; i++)
    expect(top.placements.position[i * 3 + 1]).toBeGreaterThan(cargo.placements.position[i * 3 + 1]);
  expect(worked(riders({ on: 'gone' })).findings).toEqual(['leader-missing']);
  expect(worked(riders({ props: [] })).findings).toEqual(['no-props']);
  const ring = [riders({ id: 'cargo', on: 'top' }), second];
  const rung = new Evaluator(ASSETS).evaluate({ ...base, arrangements: [...ring, base.arrangements[1]] });
  expect(rung.arrangements.map((a) => a.findings[0]?.kind)).toEqual(['cycle', 'cycle', undefined]);
  expect(sceneSchema.safeParse({ ...base, arrangements: ring }).success).toBe(true);
});
