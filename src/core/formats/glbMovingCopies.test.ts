import { WebIO, type Node as GltfNode } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import validator from 'gltf-validator';
import { newArrangement } from '../arrange/registry';
import { evaluateOver } from '../evaluate/overTime';
import { Evaluator } from '../evaluate/scene';
import { bundleSchema } from '../scene/bundleSchema';
import { emptyScene, newEntry, newPath, newProp, newRun } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { points } from '../testing/paths';
import { ASSETS } from '../testing/scene';
import { writeAnimatedGlb } from './glbAnimation';

/** Copies of bundles that move, as another reader finds them: each with what it drew for itself. */

const peg = (n: number, x: number) => ({ id: `peg${n}`, prop: 'box', position: [x, 0, 0] });

test('copies that ride on a pulley hold what each has drawn, at every frame', async () => {
  const run = newRun('train', 'Train', 'weld', 'line', [newEntry('e', { kind: 'prop', prop: 'cart' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 3, insetEnd: 6 };
  run.pulley = { ...run.pulley, speed: 1 };
  const scene: Scene = {
    ...emptyScene('Train'),
    props: [
      newProp('box', 'Box', { source: 'built', name: 'box' }),
      { ...newProp('cart', 'Cart', { source: 'bundle', bundle: 'of cart' }), foot: { at: 'origin' } },
    ],
    paths: [
      newPath(
        'line',
        'Line',
        points('corner', [
          [0, 0, 0],
          [12, 0, 0],
        ]),
      ),
    ],
    arrangements: [
      newArrangement('pegs', { id: 'load', name: 'Load', thread: 'moss' }, {
        pegs: [[peg(1, -0.4), peg(2, 0.4)]],
        variation: { turnDeg: [-60, 60], size: [0.5, 1] },
      } as never),
      run,
    ],
    bundles: [bundleSchema.parse({ id: 'of cart', members: [{ id: 'load' }] })],
  };
  const results = evaluateOver(new Evaluator(ASSETS), scene, [0, 1, 2]);
  const frames = { times: Float32Array.of(0, 1, 2), results };
  const bytes = await writeAnimatedGlb(scene, frames, ASSETS, { surfaces: false });
  expect((await validator.validateBytes(bytes, { maxIssues: 20 })).issues.numErrors).toBe(0);
  const root = (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes)).getRoot();
  const carts = root.listNodes().filter((n) => n.getExtras().prop === 'Cart');
  expect(carts).toHaveLength(3);
  const { inside, placements } = results[0].arrangements[1];
  const turns = carts.map((cart) => {
    const held = cart.listChildren();
    expect(held).toHaveLength(2);
    const row = [...placements.slot].findIndex((s) => String(s) === cart.getExtras().slot);
    const own = [...inside!.copy.keys()].filter((i) => inside!.copy[i] === row);
    held.forEach((node: GltfNode, k) => {
      node.getTranslation().forEach((v, c) => expect(v).toBeCloseTo(inside!.position[own[k] * 3 + c], 5));
      node.getScale().forEach((v, c) => expect(v).toBeCloseTo(inside!.scale[own[k] * 3 + c], 5));
    });
    return held[0].getRotation().join();
  });
  // Each has drawn its own.
  expect(new Set(turns).size).toBe(3);
  const [animation] = root.listAnimations();
  for (const channel of animation.listChannels()) {
    if (channel.getTargetPath() !== 'translation') continue;
    const out = channel.getSampler()!.getOutput()!;
    expect(out.getElement(2, [0, 0, 0])[0] - out.getElement(0, [0, 0, 0])[0]).toBeCloseTo(2, 5);
  }
  // The last one leaves the path at once, and waits where it was.
  expect(animation.listChannels().filter((c) => c.getTargetPath() === 'translation')).toHaveLength(2);
});
