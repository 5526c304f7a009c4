import fc from 'fast-check';
import { Evaluator } from '../../evaluate/scene';
import { quatMultiply, quatRotate, writeUnitQuat, type Quat } from '../../math/quat';
import { add, type Vec3 } from '../../math/vec3';
import { deformerSchema } from '../../mesh/deform/schema';
import { shapeSchema } from '../../mesh/make/schema';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../../scene/defaults';
import { cases, SEED } from '../../testing/prove';
import { ASSETS } from '../../testing/scene';
import { triMeshOf } from '../../testing/surfaces';
import { makeTriMesh } from '../../mesh/triMesh';
import { lockedNow, lockOn, type Lock } from './lock';
import { Misplaced } from './misplaced';
import { groundSchema } from './schema';

const HILLS = { shape: 'hills', width: 8, depth: 8, height: 1, seed: 4 };
const number = fc.double({ min: -1, max: 1, noNaN: true });
const rotation = fc
  .tuple(number, number, number, number)
  .filter((q) => Math.hypot(...q) > 0.1)
  .map((q): Quat => {
    const out = new Float64Array(4);
    writeUnitQuat(out, 0, q);
    return [out[0], out[1], out[2], out[3]];
  });
const near = (a: readonly number[], b: readonly number[], digits = 9) =>
  a.forEach((v, i) => expect(v).toBeCloseTo(b[i], digits));

test('what is locked goes with a surface that is moved and turned as if it were a part of it', () => {
  const rest = triMeshOf(HILLS);
  fc.assert(
    fc.property(
      fc.tuple(number, number, number),
      rotation,
      rotation,
      fc.tuple(number, number, number),
      (at, lies, turn, by) => {
        const position: Vec3 = [at[0] * 3, at[1] * 0.2 + 0.4, at[2] * 3];
        const on = lockOn(new Map([['hills', rest]]), position, lies);
        if (!on) return;
        const lock: Lock = { prop: 'p', s: 0, position, rotation: lies, scale: [1, 1, 1], on };
        const move = (p: Vec3): Vec3 => add(quatRotate(turn, p), by);
        const moved = triMeshOf(HILLS, move);
        const context = { path: () => undefined, prop: () => undefined, surface: () => moved };
        const now = lockedNow(lock, 1, context, new Misplaced());
        near(now.position, move(position), 6);
        const wanted = quatMultiply(turn, lies);
        const k = Math.sign(wanted.reduce((sum, v, i) => sum + v * now.rotation[i], 0));
        near(
          now.rotation,
          wanted.map((v) => v * k),
          6,
        );
      },
    ),
    { seed: SEED, numRuns: cases(3000) },
  );
});

test('a locked slot of a run stands on the same place of a waving surface at every time; off it, in the scene', () => {
  const flag = {
    ...newSurface('flag', 'Flag', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'plane', width: 8, depth: 4, columns: 32, rows: 8 }),
      color: '#D8CDB6',
    }),
    deformers: [deformerSchema.parse({ id: 'w', kind: 'wave', length: 3, height: 0.4, speed: 1 })],
  };
  const run = newRun('run', 'Run', 'woad', 'line', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 6 };
  run.ground = groundSchema.parse({ mode: 'land', above: 9, lean: 1 });
  const line = newPath('line', 'Line', [
    newPoint('a', 'corner', [-3, 2, 0.3]),
    newPoint('b', 'corner', [3, 2, 0.3]),
  ]);
  const scene = {
    ...emptyScene('Waving'),
    props: [newProp('p', 'P', { source: 'built', name: 'box' })],
    surfaces: [flag],
    paths: [line],
    arrangements: [run],
  };
  const evaluator = new Evaluator(ASSETS);
  const rowsAt = (s: typeof scene, time: number) => {
    const p = evaluator.evaluate(s, undefined, time).arrangements[0].placements;
    return { at: [...p.position.subarray(6, 9)], turn: [...p.rotation.subarray(8, 12)] };
  };
  const free = rowsAt(scene, 0.3);
  const triMesh = evaluator.contextAt(0.3).surface!('flag')!;
  const lies = free.turn as Quat;
  const on = lockOn(new Map([['flag', triMesh]]), free.at as Vec3, lies)!;
  const lock: Lock = { prop: 'p', s: 0, position: free.at as Vec3, rotation: lies, scale: [1, 1, 1], on };
  // The path goes away; the locked one stays on its place of the flag, which the wave moves up and down.
  const locked = { ...scene, arrangements: [{ ...run, hand: { '3': { lock } } }] };
  locked.paths = [
    {
      ...line,
      name: 'Else',
      source: {
        ...line.source,
        points: [newPoint('a', 'corner', [-3, 2, 1.5]), newPoint('b', 'corner', [3, 2, 1.5])],
      },
    } as typeof line,
  ];
  near(rowsAt(locked, 0.3).at, free.at);
  for (const time of [0, 0.55, 1.7]) {
    const want = rowsAt(scene, time);
    const have = rowsAt(locked, time);
    near(have.at, want.at, 6);
  }
  const loose = {
    ...locked,
    arrangements: [{ ...run, hand: { '3': { lock: { ...lock, on: undefined } } } }],
  };
  near(rowsAt(loose, 1.7).at, free.at);
  const gone = { ...locked, surfaces: [] };
  near(rowsAt(gone as typeof scene, 1.7).at, free.at);
  const said = evaluator.evaluate(gone, undefined, 1.7).arrangements[0].findings;
  expect(said.find((f) => f.kind === 'pin-surface-missing')).toMatchObject({
    slots: [3],
    detail: { count: 1 },
  });
  // Hidden it is no ground any more, but what is locked to it goes on with it, whatever was worked out before.
  const hidden = { ...locked, surfaces: [{ ...flag, visible: false }] };
  hidden.arrangements = [
    { ...locked.arrangements[0], ground: groundSchema.parse({ mode: 'land', above: 9 }) },
  ];
  rowsAt(hidden, 0.3);
  near(
    rowsAt(hidden, 1.7).at,
    new Evaluator(ASSETS)
      .evaluate(hidden, undefined, 1.7)
      .arrangements[0].placements.position.subarray(6, 9) as never,
    12,
  );
  near(rowsAt(hidden, 1.7).at, rowsAt(locked, 1.7).at, 9);
});

test('on a mesh with its faces in another order it is found again, lies as it lay, and that is told', () => {
  const rest = triMeshOf(HILLS);
  const faces = rest.indices.length / 3;
  // From the last face on, each beginning with its second corner.
  const order = Array.from({ length: faces }, (_, f) =>
    [1, 2, 0].map((k) => rest.indices[(faces - 1 - f) * 3 + k]),
  );
  const other = makeTriMesh({ ...rest, indices: Uint32Array.from(order.flat()) });
  fc.assert(
    fc.property(number, number, rotation, (x, z, lies) => {
      const at: Vec3 = [x * 3, 0.3, z * 3];
      const on = lockOn(new Map([['hills', rest]]), at, lies);
      if (!on) return;
      const lock: Lock = { prop: 'p', s: 0, position: at, rotation: lies, scale: [1, 1, 1], on };
      const misplaced = new Misplaced();
      const context = { path: () => undefined, prop: () => undefined, surface: () => other };
      const now = lockedNow(lock, 7, context, misplaced);
      near(now.position, at, 5);
      const k = Math.sign(lies.reduce((sum, v, i) => sum + v * now.rotation[i], 0));
      near(
        now.rotation,
        lies.map((v) => v * k),
        5,
      );
      const told: unknown[] = [];
      misplaced.tell((kind, _, __, slots) => told.push([kind, slots]), context);
      expect(told).toEqual([['pin-found', [7]]]);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});
