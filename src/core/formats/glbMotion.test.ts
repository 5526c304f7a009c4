import { Document, WebIO } from '@gltf-transform/core';
import { newSurface } from '../scene/defaults';
import { emptyScene } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { Evaluator } from '../evaluate/scene';
import { readGlb, readMovingGlb } from './glbRead';

/** A strip of four vertices: its lower two on joint A, its upper two on joint B, which stands 1 m higher. */
async function moving(
  kind: 'morph' | 'skin' | 'node',
  interpolation: 'LINEAR' | 'STEP' | 'CUBICSPLINE' = 'LINEAR',
) {
  const d = new Document();
  const buffer = d.createBuffer();
  const floats = (type: 'VEC3' | 'VEC4' | 'SCALAR' | 'MAT4', list: number[]) =>
    d.createAccessor().setType(type).setArray(new Float32Array(list)).setBuffer(buffer);
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', floats('VEC3', [0, 0, 0, 1, 0, 0, 1, 2, 0, 0, 2, 0]))
    .setIndices(
      d
        .createAccessor()
        .setType('SCALAR')
        .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
        .setBuffer(buffer),
    );
  const mesh = d.createMesh('strip').addPrimitive(primitive);
  const node = d.createNode('strip').setMesh(mesh).setTranslation([5, 0, 0]);
  const scene = d.createScene().addChild(node);
  const animation = d.createAnimation('Go');
  const play = (
    target: typeof node,
    path: 'weights' | 'rotation' | 'translation',
    times: number[],
    values: number[],
    type: 'SCALAR' | 'VEC3' | 'VEC4',
  ) => {
    const sampler = d
      .createAnimationSampler()
      .setInput(floats('SCALAR', times))
      .setOutput(floats(type, values))
      .setInterpolation(interpolation);
    animation.addSampler(sampler);
    animation.addChannel(
      d.createAnimationChannel().setTargetNode(target).setTargetPath(path).setSampler(sampler),
    );
  };
  if (kind === 'morph') {
    primitive.addTarget(
      d
        .createPrimitiveTarget()
        .setAttribute('POSITION', floats('VEC3', [0, 0, 0, 0, 0, 0, 0, 0, 3, 0, 0, 3])),
    );
    mesh.setWeights([0]);
    const values = interpolation === 'CUBICSPLINE' ? [0, 0, 0, 0, 1, 0] : [0, 1];
    play(node, 'weights', [0, 2], values, 'SCALAR');
  } else if (kind === 'node') {
    play(node, 'translation', [1, 3], [5, 0, 0, 5, 4, 0], 'VEC3');
  } else {
    const [a, b] = [d.createNode('A'), d.createNode('B').setTranslation([0, 1, 0])];
    a.addChild(b);
    scene.addChild(a);
    const skin = d.createSkin().addJoint(a).addJoint(b);
    skin.setInverseBindMatrices(
      floats(
        'MAT4',
        [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, -1, 0, 1],
      ),
    );
    node.setSkin(skin);
    primitive
      .setAttribute(
        'JOINTS_0',
        d
          .createAccessor()
          .setType('VEC4')
          .setArray(new Uint8Array([0, 0, 0, 0, 0, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]))
          .setBuffer(buffer),
      )
      .setAttribute('WEIGHTS_0', floats('VEC4', [1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0]));
    // B turns by 90° about Z in two seconds.
    play(b, 'rotation', [0, 2], [0, 0, 0, 1, 0, 0, Math.SQRT1_2, Math.SQRT1_2], 'VEC4');
  }
  return new WebIO().writeBinary(d);
}
const at = async (bytes: Uint8Array, time: number, clip = 'Go'): Promise<number[][]> => {
  const { mesh, motion } = await readMovingGlb(bytes, 'm.glb');
  const out = new Float64Array(mesh.positions.length);
  motion!.sample(clip, time, out);
  return Array.from({ length: out.length / 3 }, (_, i) => [...out.subarray(i * 3, i * 3 + 3)]);
};
const near = (list: number[][]) => list.map((p) => p.map((v) => expect.closeTo(v, 5)));

test('morph targets: blended by their weight, in every way of going between keys', async () => {
  const at1 = (z: number) =>
    near([
      [5, 0, 0],
      [6, 0, 0],
      [6, 2, z],
      [5, 2, z],
    ]);
  expect(await at(await moving('morph'), 0.5)).toEqual(at1(0.75));
  expect(await at(await moving('morph'), 9)).toEqual(at1(3));
  expect(await at(await moving('morph', 'STEP'), 1.9)).toEqual(at1(0));
  // With level tangents the cubic is the smooth step.
  expect(await at(await moving('morph', 'CUBICSPLINE'), 0.5)).toEqual(at1(3 * (3 / 16 - 2 / 64)));
});

test('skins: bent by their joints, wherever their node is', async () => {
  const bytes = await moving('skin');
  expect(await at(bytes, 0)).toEqual(
    near([
      [0, 0, 0],
      [1, 0, 0],
      [1, 2, 0],
      [0, 2, 0],
    ]),
  );
  const [c, s] = [Math.cos(Math.PI / 4), Math.sin(Math.PI / 4)];
  expect(await at(bytes, 1)).toEqual(
    near([
      [0, 0, 0],
      [1, 0, 0],
      [c - s, 1 + c + s, 0],
      [-s, 1 + c, 0],
    ]),
  );
  // Placed at rest by its joints too.
  const mesh = await readGlb(bytes, 'm.glb');
  expect([...mesh.positions]).toEqual([0, 0, 0, 1, 0, 0, 1, 2, 0, 0, 2, 0]);
  expect([...mesh.normals.subarray(0, 3)]).toEqual([0, 0, 1]);
});

test('moved nodes hold before their first key and after their last; no clip, no motion', async () => {
  const bytes = await moving('node');
  for (const [time, y] of [
    [0, 0],
    [2, 2],
    [7, 4],
  ])
    expect((await at(bytes, time))[0]).toEqual(near([[5, y, 0]])[0]);
  expect((await at(bytes, 2, 'None'))[0]).toEqual(near([[5, 0, 0]])[0]);
});

test('a surface plays its clip at its speed, again and again, flat-shaded and turned in its place too', async () => {
  const { mesh, motion } = await readMovingGlb(await moving('morph'), 'm.glb');
  const ref = { source: 'file' as const, hash: 'a'.repeat(64), format: 'glb' as const, fileName: 'm.glb' };
  const surface = newSurface('s', 'S', ref);
  const scene = (more: object): Scene => ({ ...emptyScene('Plays'), surfaces: [{ ...surface, ...more }] });
  const evaluator = new Evaluator({ mesh: () => mesh, motion: () => motion! });
  const highest = (more: object, time: number) => {
    const result = evaluator.evaluate(scene(more), undefined, time).surfaces[0];
    const triMesh = evaluator.contextAt(time).surface!('s')!;
    return {
      z: Math.max(...triMesh.positions.filter((_, i) => i % 3 === 2)),
      findings: result.findings.map((f) => f.kind),
    };
  };
  const plays = { clip: 'Go', speed: 2, loop: true };
  expect(highest({ plays }, 0.25).z).toBeCloseTo(0.75, 5);
  expect(highest({ plays }, 1.25).z).toBeCloseTo(0.75, 5);
  expect(highest({ plays: { ...plays, loop: false } }, 5).z).toBeCloseTo(3, 5);
  expect(highest({ plays, normals: 'flat', flipped: true }, 0.25).z).toBeCloseTo(0.75, 5);
  expect(highest({ plays, unitScale: 0.5, position: [0, 0, 1] }, 0.25).z).toBeCloseTo(1.375, 5);
  expect(highest({ plays: { ...plays, clip: 'Gone' } }, 1).findings).toEqual(['clip-missing']);
  expect(highest({}, 1)).toEqual({ z: 0, findings: [] });
});
