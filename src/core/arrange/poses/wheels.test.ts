import { builtMesh, builtSettings } from '@/demo/library';
import { newArrangement } from '../registry';
import { posesSchema } from './schema';
import { travelSchema } from '../travel/schema';
import { keptBounds, propMatrix } from '../../mesh/mesh';
import { ownSpace } from '../../mesh/slice';
import { emptyScene, newPath, newProp, newSurface } from '../../scene/defaults';
import { sceneSchema, type Scene } from '../../scene/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { Evaluator } from '../../evaluate/scene';
import { points } from '../../testing/paths';
import { rolled, strideOf, wheelsOf } from './wheels';

/** Wheels that turn by the way: what touches the ground stands still on it while it touches. */

const prop = { ...newProp('p', 'Wagon', { source: 'built', name: 'wagon' }), ...builtSettings('wagon') };
const mesh = builtMesh('wagon')!;
const own = ownSpace(mesh, propMatrix(prop, keptBounds(mesh)));
const wheels = wheelsOf(own, prop.snapPoints);

test('four wheels are found by their names, the body is none of them', () => {
  expect(wheels).toHaveLength(4);
  for (const { radius, vertices } of wheels) {
    expect(radius).toBeCloseTo(0.17, 6);
    expect(vertices.length).toBe(wheels[0].vertices.length);
  }
  const all = new Set(wheels.flatMap((w) => [...w.vertices]));
  expect(all.size).toBe(wheels.length * wheels[0].vertices.length);
  for (let v = 0; v < own.positions.length / 3; v++)
    if (!all.has(v)) expect(own.positions[v * 3 + 1]).toBeGreaterThan(0.17);
});

test('rolled by a little way, what is lowest goes back as far as the wagon goes on', () => {
  const steps = 100_000;
  const way = strideOf(wheels) / steps;
  const pose = rolled('k', own, wheels, 1, steps);
  let seen = 0;
  for (const { vertices } of wheels)
    for (const v of vertices) {
      if (own.positions[v * 3 + 1] > 1e-6) continue;
      seen++;
      const back = pose.positions[v * 3 + 2] - own.positions[v * 3 + 2];
      expect(back + way).toBeLessThan(1e-6 + 1e-3 * way);
      expect(Math.abs(back + way)).toBeLessThan(2e-7);
    }
  expect(seen).toBeGreaterThanOrEqual(4);
  // Once round it is as it was.
  const round = rolled('k', own, wheels, 16, 16);
  for (let o = 0; o < own.positions.length; o++) expect(round.positions[o]).toBeCloseTo(own.positions[o], 6);
});

const ASSETS = { mesh: (ref: { name?: string }) => builtMesh(ref.name ?? '') };

function drive(more: object): Scene {
  const scene = emptyScene('drive');
  scene.props.push(prop);
  scene.surfaces.push(
    newSurface('floor', 'Floor', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'plane', width: 60, depth: 60 }),
      color: '#888888',
    }),
  );
  scene.paths.push(
    newPath(
      'way',
      'Way',
      points('corner', [
        [-20, 0, 0],
        [20, 0, 0],
      ]),
    ),
  );
  scene.arrangements.push(
    newArrangement(
      'run',
      { id: 'a', name: 'Wagons', thread: 'moss' },
      {
        paths: [{ part: 0, path: 'way' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
        spacing: { mode: 'count', count: 3, insetStart: 15, insetEnd: 15 },
        poses: posesSchema.parse({ begin: 'together', steps: 64 }),
        ...more,
      },
    ),
  );
  return sceneSchema.parse(scene);
}

test('they roll by the way of a pulley and of a travel, on and back, and not by the time', () => {
  const k = (scene: Scene, time: number) => {
    const p = new Evaluator(ASSETS as never).evaluate(scene, undefined, time).arrangements[0].placements;
    return { k: p.posed![p.pose![1]].k, x: p.position[3], z: p.position[5] };
  };
  const stride = 2 * Math.PI * 0.17;
  for (const more of [
    { pulley: { speed: 0.7 } },
    { pulley: { speed: -0.4 } },
    { travel: travelSchema.parse({ surface: 'floor', u: { speed: 0.5 }, v: { speed: 0.3 } }) },
    { travel: travelSchema.parse({ way: 'along', path: 'way', along: { speed: -0.6 } }) },
  ]) {
    const scene = drive(more);
    const [a, b] = [k(scene, 0), k(scene, 3.3)];
    const far = Math.hypot(b.x - a.x, b.z - a.z);
    expect(far).toBeGreaterThan(0.5);
    const back = JSON.stringify(more).includes(':-');
    const meant = ((back ? -far : far) / stride) * 64;
    const off = (((b.k - a.k - meant) % 64) + 64) % 64;
    expect(Math.min(off, 64 - off)).toBeLessThanOrEqual(1 + 1e-6);
  }
  const parked = drive({});
  expect(k(parked, 5).k).toBe(k(parked, 0).k);
});
