import { NodeIO, type Node as GltfNode } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { newArrangement } from '../arrange/registry';
import { posesSchema } from '../arrange/poses/schema';
import { slotName } from '../arrange/slotId';
import { STATE, type Placements } from '../arrange/result';
import { writeAnimatedGlb } from '../formats/glbAnimation';
import { writeGlb } from '../formats/glbWrite';
import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { keptBounds, propMatrix, type Mesh } from '../mesh/mesh';
import { Motion } from '../mesh/motion';
import { bundleSchema } from '../scene/bundleSchema';
import { emptyScene, newPath, newProp } from '../scene/defaults';
import { sceneSchema, type Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { exampleMesh } from '../testing/scene';
import { Evaluator, type Assets } from './scene';

/** Props that play their own animations: against the animation itself, moment by moment. */

/** A box whose upper corners swing from side to side once in two seconds. */
const MESH: Mesh = exampleMesh();
const highest = MESH.positions.reduce((most, v, i) => (i % 3 === 1 ? Math.max(most, v) : most), -Infinity);
const top = Float32Array.from(MESH.positions, (_, i) =>
  i % 3 === 0 && MESH.positions[i + 1] > highest - 1e-6 ? 1 : 0,
);
const MOTION = new Motion({
  nodes: [{ parent: -1, translation: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] }],
  pieces: [{ node: 0, positions: MESH.positions, targets: [top], weights: [0] }],
  clips: [
    {
      name: 'Swing',
      duration: 2,
      channels: [
        {
          node: 0,
          path: 'weights',
          times: Float32Array.of(0, 0.5, 1, 1.5, 2),
          values: Float32Array.of(0, 0.3, 0, -0.3, 0),
          interpolation: 'LINEAR',
        },
      ],
    },
    { name: 'Still', duration: 1, channels: [] },
  ],
});
const ASSETS: Assets = {
  mesh: () => MESH,
  motion: (ref) => (ref.source === 'built' && ref.name === 'swings' ? MOTION : undefined),
};

function crowd(poses: object, more: object = {}, mesh = 'swings'): Scene {
  const scene = emptyScene('crowd');
  scene.props.push({ ...newProp('p', 'Reed', { source: 'built', name: mesh }), unitScale: 0.5, front: '+x' });
  scene.paths.push(
    newPath(
      'row',
      'Row',
      points('corner', [
        [0, 0, 0],
        [60, 0, 0],
      ]),
    ),
  );
  scene.arrangements.push(
    newArrangement(
      'run',
      { id: 'a', name: 'Reeds', thread: 'moss' },
      {
        paths: [{ part: 0, path: 'row' }],
        order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'p' } }] },
        spacing: { mode: 'count', count: 200 },
        poses: posesSchema.parse(poses),
        ...more,
      },
    ),
  );
  return sceneSchema.parse(scene);
}

const evaluated = (scene: Scene, time = 0) => new Evaluator(ASSETS).evaluate(scene, undefined, time);
const placed = (scene: Scene, time = 0): Placements => evaluated(scene, time).arrangements[0].placements;

/** How far through the clip the pose of a row is: the farthest corner tells, against the animation in the prop's space. */
function isAt(p: Placements, row: number, seconds: number, within: number): boolean {
  const raw = new Float64Array(MESH.positions.length);
  MOTION.sample('Swing', seconds, raw);
  const { props } = crowd({});
  const m = propMatrix(props[0], keptBounds(MESH));
  const { positions } = p.posed![p.pose![row]];
  for (let o = 0; o < raw.length; o += 3)
    for (let r = 0; r < 3; r++) {
      const v = m[r] * raw[o] + m[4 + r] * raw[o + 1] + m[8 + r] * raw[o + 2] + m[12 + r];
      if (Math.abs(v - positions[o + r]) > within) return false;
    }
  return true;
}
/** Half a sixteenth of two seconds, at 0.6 a second of a metre, half as large. */
const STEP = 1 / 16;

test('together all stand as the animation is at the time, in as many poses as are asked for', () => {
  for (const time of [0, 0.3, 0.77, 1.5, 1.97, 45.13]) {
    const p = placed(crowd({ begin: 'together' }), time);
    expect(p.posed).toHaveLength(1);
    expect([...p.pose!].every((k) => k === 0)).toBe(true);
    const k = Math.round((((time / 2) % 1) + 1e-12) * 16) % 16;
    expect(isAt(p, 0, (k / 16) * 2, 1e-6)).toBe(true);
    expect(Math.abs((k / 16) * 2 - (time % 2)) % 2).toBeLessThanOrEqual(STEP + 1e-9 + (k === 0 ? 2 : 0));
  }
});

test('each begins where it is drawn to: all poses are there, in as many slots as chance gives', () => {
  const p = placed(crowd({ begin: 'chance' }), 3.21);
  expect(p.posed).toHaveLength(16);
  const counts = new Array<number>(16).fill(0);
  for (const k of p.pose!) counts[k]++;
  // 200 in 16: 12.5 each. Chi-square of 15 degrees of freedom stays below 37.7 in 999 of 1000.
  expect(counts.reduce((sum, n) => sum + (n - 12.5) ** 2 / 12.5, 0)).toBeLessThan(37.7);
  // A slot is as far on as the time: half a round later it stands where another would have half a round before.
  const later = placed(crowd({ begin: 'chance' }), 3.21 + 2 * 7);
  for (let i = 0; i < p.count; i++) expect(later.posed![later.pose![i]].key).toBe(p.posed![p.pose![i]].key);
  // Fewer slots, and others' draws: those that stay keep theirs.
  const tints = placed(crowd({ begin: 'chance' }, { variation: { turnDeg: [-90, 90] } }), 3.21);
  for (let i = 0; i < p.count; i++) expect(tints.posed![tints.pose![i]].key).toBe(p.posed![p.pose![i]].key);
});

test('in turn each is so much later; pace, backwards and held poses are as they say', () => {
  const turn = placed(crowd({ begin: 'turn', every: 0.25, steps: 240 }), 1.5);
  for (let i = 0; i < 40; i++) expect(isAt(turn, i, (((1.5 - i * 0.25) % 2) + 2) % 2, 2e-3)).toBe(true);
  const slow = placed(crowd({ begin: 'together', pace: [0.25, 0.25], steps: 240 }), 1.2);
  expect(isAt(slow, 7, 0.3, 2e-3)).toBe(true);
  const back = placed(crowd({ begin: 'together', pace: [-1, -1], steps: 240 }), 0.4);
  expect(isAt(back, 7, 1.6, 2e-3)).toBe(true);
  const hold = crowd({ plays: 'hold', hold: [0.25, 0.25], steps: 16 });
  for (const time of [0, 9.4]) expect(isAt(placed(hold, time), 3, 0.5, 1e-6)).toBe(true);
  const various = placed(crowd({ plays: 'hold', hold: [0, 0.5] }));
  expect(various.posed!.length).toBeGreaterThan(6);
  expect(various.posed!.length).toBeLessThanOrEqual(9);
});

test('a stride treads by the way that is made, whatever the speed', () => {
  const scene = (speed: number) =>
    crowd(
      { begin: 'together', stride: 0.8, steps: 240 },
      { pulley: { speed, ends: 'clip' }, spacing: { mode: 'count', count: 3 } },
    );
  for (const [speed, time] of [
    [1, 1],
    [2, 0.5],
  ]) {
    const p = placed(scene(speed), time);
    for (let i = 0; i < p.count; i++)
      if (p.state[i] === STATE.placed) expect(isAt(p, i, ((p.s[i] / 0.8) % 1) * 2, 2e-3)).toBe(true);
  }
});

test('what has no animation, no such one, or one that moves nothing is told', () => {
  const kinds = (poses: object, mesh?: string) =>
    evaluated(crowd(poses, {}, mesh)).arrangements[0].findings.map((f) => f.kind);
  expect(kinds({})).toEqual([]);
  expect(kinds({}, 'stone')).toContain('poses-none');
  expect(kinds({ clip: 'Jump' })).toContain('poses-no-clip');
  expect(kinds({ clip: 'Still' })).toContain('poses-still');
  for (const pace of [1e6, -1e6]) expect(placed(crowd({ pace: [pace, pace] }), 3599.99).pose).toBeDefined();
});

test('a time has the same poses forwards, backwards and fresh; places stay as they are', () => {
  const scene = crowd({ pace: [0.8, 1.3] });
  const times = [0, 0.4, 1.1, 5.3];
  const keys = (p: Placements) => [...p.pose!].map((k) => p.posed![k].key);
  const fresh = times.map((t) => keys(placed(scene, t)));
  const one = new Evaluator(ASSETS);
  for (const k of [3, 1, 0, 2, 2, 3])
    expect(keys(one.evaluate(scene, undefined, times[k]).arrangements[0].placements)).toEqual(fresh[k]);
  expect(placed(scene, 2).position).toEqual(placed(scene, 0).position);
});

test('the file sent out stands as the scene does: a mesh a pose, and in an animation morph targets that all share', async () => {
  const scene = crowd({ begin: 'chance', steps: 8 }, { spacing: { mode: 'count', count: 12 } });
  const now = evaluated(scene, 0.6);
  const still = await read(
    await writeGlb(scene, now, ASSETS, { props: 'nodes', surfaces: false, snaps: false }),
  );
  const p = now.arrangements[0].placements;
  const nodes = still.listNodes().filter((n) => n.getMesh());
  expect(nodes).toHaveLength(12);
  expect(new Set(nodes.map((n) => n.getMesh())).size).toBe(p.posed!.length);
  const rowOf = (node: GltfNode) => [...p.slot].findIndex((s) => slotName(s) === node.getExtras().slot);
  nodes.forEach((node) => {
    const i = rowOf(node);
    const vertices = node.getMesh()!.listPrimitives()[0].getAttribute('POSITION')!.getArray()!;
    expect([...vertices]).toEqual([...p.posed![p.pose![i]].positions]);
  });
  const times = Float32Array.of(0, 0.5, 1);
  const frames = [...times].map((t) => evaluated(scene, t));
  const moving = await read(
    await writeAnimatedGlb(scene, { times, results: frames }, ASSETS, { surfaces: false }),
  );
  const [animation] = moving.listAnimations();
  expect(new Set(moving.listNodes().flatMap((n) => n.getMesh() ?? [])).size).toBe(1);
  for (const channel of animation.listChannels()) {
    expect(channel.getTargetPath()).toBe('weights');
    const node = channel.getTargetNode()!;
    const primitive = node.getMesh()!.listPrimitives()[0];
    const rest = primitive.getAttribute('POSITION')!.getArray()!;
    const targets = primitive.listTargets().map((t) => t.getAttribute('POSITION')!.getArray()!);
    const weights = channel.getSampler()!.getOutput()!.getArray()!;
    const row = rowOf(node);
    frames.forEach(({ arrangements: [{ placements }] }, f) => {
      const meant = placements.posed![placements.pose![row]].positions;
      for (let v = 0; v < rest.length; v++) {
        const is = targets.reduce((sum, t, k) => sum + t[v] * weights[f * targets.length + k], rest[v]);
        expect(is).toBeCloseTo(meant[v], 5);
      }
    });
  }
});

const read = async (bytes: Uint8Array) =>
  (await new NodeIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes)).getRoot();

test('mirrored and turned props carry their poses along', () => {
  const p = placed(crowd({ begin: 'together' }, { facing: { alternate: 'mirror' } }), 0.5);
  expect([...p.pose!].every((k) => k === 0)).toBe(true);
  expect(p.scale[3]).toBeLessThan(0);
  const up = quatRotate([...p.rotation.subarray(0, 4)] as Quat, [0, 1, 0] as Vec3);
  expect(up[1]).toBeCloseTo(1, 9);
});

test('in copies of a bundle each plays from its own beginning, and goes on with the time', () => {
  const scene = crowd(
    {},
    { order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'cart' } }] }, poses: undefined },
  );
  scene.arrangements[0] = { ...scene.arrangements[0], spacing: { mode: 'count', count: 9 } } as never;
  scene.props.push({
    ...newProp('cart', 'Cart', { source: 'bundle', bundle: 'of cart' }),
    foot: { at: 'origin' },
  });
  const reed = {
    id: 'peg1',
    prop: 'p',
    pin: null,
    position: [0, 0, 0],
    rotation: [0, 0, 0, 1],
    scale: [1, 1, 1],
  };
  scene.arrangements.unshift(
    newArrangement(
      'pegs',
      { id: 'load', name: 'Load', thread: 'moss' },
      {
        pegs: [[reed]],
        poses: posesSchema.parse({}),
      },
    ),
  );
  scene.bundles.push(bundleSchema.parse({ id: 'of cart', members: [{ id: 'load' }] }));
  const whole = sceneSchema.parse(scene);
  const one = new Evaluator(ASSETS);
  const ks = (time: number) => {
    const { inside } = one.evaluate(whole, undefined, time).arrangements[1];
    return [...inside!.pose!].map((k) => inside!.posed![k].k);
  };
  const [now, later] = [ks(0), ks(0.5)];
  expect(now).toHaveLength(9);
  expect(new Set(now).size).toBeGreaterThan(3);
  // Half a second is a quarter of the round: four of sixteen.
  later.forEach((k, i) => expect((k - now[i] + 16) % 16).toBe(4));
});
