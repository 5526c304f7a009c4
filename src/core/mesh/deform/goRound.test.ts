import { emptyScene, newPath, newProp, newSurface } from '../../scene/defaults';
import { sceneSchema, type Scene } from '../../scene/schema';
import { newArrangement } from '../../arrange/registry';
import { Evaluator } from '../../evaluate/scene';
import { distance, rotateAbout, type Vec3 } from '../../math/vec3';
import { exampleMesh } from '../../testing/scene';
import { circlePoints, points } from '../../testing/paths';
import { triMeshOf } from '../../testing/surfaces';
import { shapeSchema } from '../make/schema';
import { deformerSchema } from './schema';
import { goRound, roundLength } from './goRound';

/** Belts that go round: against a turn of the whole, and against the way along the path. */

const pulley = (values: object) => [deformerSchema.parse({ id: 'd', kind: 'pulley', ...values })];
const RING = { shape: 'torus', radius: 2, thickness: 0.5, columns: 60, rows: 20 };

test('a ring that goes round by u is turned; by v it turns inside out, back to itself', () => {
  const ring = triMeshOf(RING);
  const length = roundLength(ring, 'u')!;
  expect(length).toBeCloseTo(2 * Math.PI * 2, 1);
  // A sixth of the way: ten of its sixty columns.
  const moved = ring.positions.slice();
  expect(goRound(moved, ring, pulley({ way: 'u', offset: length / 6, speed: 0 }), 9)).toEqual([]);
  const at = (p: Float64Array, i: number): Vec3 => [p[i * 3], p[i * 3 + 1], p[i * 3 + 2]];
  const far = (deg: number) =>
    Math.max(
      ...Array.from({ length: moved.length / 3 }, (_, i) =>
        distance(at(moved, i), rotateAbout(at(ring.positions, i), [0, 1, 0], (deg * Math.PI) / 180)),
      ),
    );
  expect(Math.min(far(60), far(-60))).toBeLessThan(1e-5);
  const across = roundLength(ring, 'v')!;
  for (const [time, isBack] of [
    [across / 0.25, true],
    [across / 0.5, false],
  ] as const) {
    const now = ring.positions.slice();
    goRound(now, ring, pulley({ way: 'v', speed: 0.25 }), time);
    const off = Math.max(...now.map((v, i) => Math.abs(v - ring.positions[i])));
    if (isBack) expect(off).toBeLessThan(1e-5);
    else expect(off).toBeGreaterThan(0.9);
  }
});

test('what does not close stays as it is, and is told', () => {
  const flat = triMeshOf({ shape: 'plane' });
  const now = flat.positions.slice();
  expect(goRound(now, flat, pulley({ way: 'v', speed: 1 }), 3)).toHaveLength(1);
  expect(now).toEqual(flat.positions);
});

test('material goes round over the shape that it finds, and cloth hangs from where a pulley is at the beginning', () => {
  const ring = triMeshOf(RING);
  const lifted = ring.positions.map((v, i) => (i % 3 === 1 ? v + 3 : v));
  const [plain, up] = [ring.positions.slice(), lifted.slice()];
  goRound(plain, ring, pulley({ way: 'u', speed: 0.7 }), 2.2);
  goRound(up, ring, pulley({ way: 'u', speed: 0.7 }), 2.2);
  up.forEach((v, i) => expect(v).toBeCloseTo(plain[i] + (i % 3 === 1 ? 3 : 0), 9));
  const scene = belt();
  scene.surfaces[0].deformers.push(
    deformerSchema.parse({ id: 'c', kind: 'cloth', sides: ['u0'], seconds: 2, wind: 0 }),
  );
  const at = (evaluator: Evaluator, time: number) =>
    evaluator.evaluate(scene, undefined, time).surfaces[0].mesh!.positions;
  const one = new Evaluator({ mesh: () => exampleMesh() });
  const kept = [0.3, 1.2, 0.7].map((time) => at(one, time));
  [0.3, 1.2, 0.7].forEach((time, k) =>
    expect(at(new Evaluator({ mesh: () => exampleMesh() }), time)).toEqual(kept[k]),
  );
});

/** A belt of half a metre round two rollers, with a row of pegs on it and a run along its middle. */
function belt(): Scene {
  const scene = emptyScene('belt');
  scene.props.push(newProp('p', 'Basket', { source: 'built', name: 'any' }));
  scene.paths.push(newPath('ring', 'Ring', circlePoints(2, 48), true));
  scene.surfaces.push({
    ...newSurface('belt', 'Belt', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'strip', path: 'ring', width: 0.5, columns: 2, rows: 240 }),
      color: '#777777',
    }),
    deformers: pulley({ speed: 0.8 }),
  });
  scene.paths.push({
    ...newPath(
      'middle',
      'Middle',
      points('corner', [
        [2, 0, 0],
        [0, 0, 2],
        [-2, 0, 0],
      ]),
    ),
    source: {
      kind: 'points',
      points: points('corner', [
        [2, 0, 0],
        [1.8478, 0, 0.7654],
        [1.4142, 0, 1.4142],
      ]),
      on: 'belt',
    } as never,
  });
  scene.arrangements.push(
    newArrangement(
      'pegs',
      { id: 'pegs', name: 'Pegs', thread: 'moss' },
      {
        pegs: [
          [7, 60, 301, 450].map((face, i) => ({
            id: `peg${i + 1}`,
            prop: 'p',
            position: [0, 0, 0],
            rotation: [0, 0, 0, 1],
            scale: [1, 1, 1],
            pin: { surface: 'belt', face, u: 0.3, v: 0.3, faces: 960, lift: 0, turnDeg: 0, lean: 1 },
          })),
        ],
      },
    ),
    newArrangement(
      'run',
      { id: 'run', name: 'Run', thread: 'weld' },
      {
        paths: [{ part: 0, path: 'middle' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
        spacing: { mode: 'count', count: 4 },
        facing: { posture: 'surface' },
      },
    ),
  );
  return sceneSchema.parse(scene);
}

test('pegs and runs on a belt go round with its material, in the same frame', () => {
  const scene = belt();
  const at = (time: number) =>
    new Evaluator({ mesh: () => exampleMesh() })
      .evaluate(scene, undefined, time)
      .arrangements.map((a) => a.placements);
  const was = at(0);
  // The whole belt is a band round the upright axis: its material turns by the way over the radius.
  for (const time of [0.5, 2.3, 11]) {
    const is = at(time);
    is.forEach((p, k) => {
      expect(p.count).toBe(4);
      const turns = [1, -1].map((sign) => {
        const angle = (sign * 0.8 * time) / 2;
        return Math.max(
          ...Array.from({ length: p.count }, (_, i) => {
            const row = (a: Float64Array): Vec3 => [a[i * 3], a[i * 3 + 1], a[i * 3 + 2]];
            return distance(row(p.position), rotateAbout(row(was[k].position), [0, 1, 0], angle));
          }),
        );
      });
      // The rows of the belt are chords of the ring: as long together to a ten-thousandth.
      expect(Math.min(...turns)).toBeLessThan(3e-3);
    });
  }
});
