import { newArrangement } from '../../arrange/registry';
import { inBlocks } from '../../arrange/pegs/blocks';
import { snapInRow } from '../../arrange/snapPlace';
import type { Quat } from '../../math/quat';
import { quatRotate, quatTurnTipRoll } from '../../math/quat';
import type { Vec3 } from '../../math/vec3';
import { bundleSchema } from '../../scene/bundleSchema';
import { emptyScene, newProp } from '../../scene/defaults';
import type { Scene } from '../../scene/schema';
import { ASSETS } from '../../testing/scene';
import { Evaluator } from '../scene';

/** What copies of bundles carry beside props: bare lines, and the snap points of what is in them. */

const ORIGIN: Vec3 = [1, 0, 2];
const pegs = (id: string, prop: string, list: object[]) =>
  newArrangement(
    'pegs',
    { id, name: id, thread: 'moss' },
    { pegs: inBlocks(list.map((peg, i) => ({ id: `peg${i + 1}`, prop, ...peg })) as never) },
  );
const turned = quatTurnTipRoll(0.7, 0.2, -0.1);

/** Two posts with an eye each and a sagging line between them, as a bundle; two copies of it. */
function sceneOf(change: (s: Scene) => void = () => {}): Scene {
  const scene: Scene = {
    ...emptyScene('Posts'),
    props: [
      {
        ...newProp('post', 'Post', { source: 'built', name: 'box' }),
        snapPoints: [{ name: 'eye', position: [0.1, 1.2, 0], direction: [0, 0, 1] }],
      },
      {
        ...newProp('gate', 'Gate', { source: 'bundle', bundle: 'of gate' }),
        foot: { at: 'origin' },
        front: '+x',
      },
    ],
    arrangements: [
      pegs('posts', 'post', [{ position: [0, 0, 2] }, { position: [3, 0, 2] }]),
      newArrangement(
        'strands',
        { id: 'line', name: 'Line', thread: 'weld' },
        { from: { on: 'posts', snap: 'eye' }, to: { snap: 'eye' } },
      ),
      pegs('gates', 'gate', [
        { position: [0, 0, 0] },
        { position: [9, 1, -4], rotation: turned, scale: [2, 2, 2] },
      ]),
    ],
    bundles: [
      bundleSchema.parse({ id: 'of gate', members: [{ id: 'posts' }, { id: 'line' }], origin: ORIGIN }),
    ],
  };
  change(scene);
  return scene;
}

/** Where something of the bundle is in a copy: turned from X to the front first. */
function inCopy(at: Vec3, position: Vec3, rotation: Quat, size: number): Vec3 {
  const [x, y, z] = at.map((v, a) => v - ORIGIN[a]);
  return quatRotate(rotation, [-z * size, y * size, x * size]).map((v, a) => v + position[a]) as Vec3;
}

test('bare lines hang in every copy, from the eyes of that copy', () => {
  const evaluator = new Evaluator(ASSETS);
  const result = evaluator.evaluate(sceneOf());
  const of = (id: string) => result.arrangements.find((a) => a.id === id)!;
  const own = of('line').lines!;
  const { lines } = of('gates').inside!;
  expect([own.slot.length, [...lines!.slot], lines!.each]).toEqual([1, [1, 2], own.each]);
  for (let i = 0; i < own.each; i++) {
    const at = [...own.position.subarray(i * 3, i * 3 + 3)] as Vec3;
    const second = inCopy(at, [9, 1, -4], turned, 2);
    const there = lines!.position.subarray((own.each + i) * 3, (own.each + i) * 3 + 3);
    second.forEach((v, a) => expect(there[a]).toBeCloseTo(v, 5));
  }
});

test('a bundle offers the snap points of what is in it, told apart by their slots', () => {
  const evaluator = new Evaluator(ASSETS);
  const result = evaluator.evaluate(sceneOf());
  const placed = evaluator.bundles.snapPointsOf(['posts']);
  expect(placed.map((p) => p.name)).toEqual(['eye 1', 'eye 2']);
  expect(evaluator.bundles.snapPointsOf(['posts'], [2]).map((p) => [p.name, ...p.position])).toEqual([
    ['eye', 3.1, 1.2, 2],
  ]);
  const own = evaluator.bundles.snapPointsIn('gate');
  // Given to the bundle, they are where its eyes are in the second copy.
  const gates = result.arrangements.find((a) => a.id === 'gates')!.placements;
  const facts = { state: 'ready', snapPoints: own } as never;
  placed.forEach(({ name, position, direction }, i) => {
    const there = snapInRow(gates, 1, own[i].name, () => facts)!;
    expect(own[i].name).toBe(name);
    inCopy(position, [9, 1, -4], turned, 2).forEach((v, a) => expect(there.position[a]).toBeCloseTo(v, 9));
    const [x, y, z] = direction!;
    quatRotate(turned, [-z, y, x]).forEach((v, a) => expect(there.direction![a]).toBeCloseTo(v, 9));
  });
});
