import { WebIO, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS, type Light } from '@gltf-transform/extensions';
import validator from 'gltf-validator';
import { Evaluator } from '../evaluate/scene';
import { lampSchema } from '../light/lampSchema';
import { quatRotate } from '../math/quat';
import { viewpointSchema } from '../scene/viewpointSchema';
import { ASSETS, exampleScene } from '../testing/scene';
import { writeGlb } from './glbWrite';

/** Lights put in and viewpoints, read back out of a file by what its standard says of them. */

const scene = exampleScene();
scene.lamps = [
  lampSchema.parse({ id: 'l1', name: 'Bulb', at: [1, 2, 3], strength: 0.5 }),
  lampSchema.parse({ id: 'l2', name: 'Cone', kind: 'spot', at: [0, 4, 0], aim: [0, 0, 0], spreadDeg: 60 }),
  lampSchema.parse({ id: 'l3', name: 'Panel', kind: 'area', at: [5, 1, 0], aim: [1, 1, 0] }),
  lampSchema.parse({ id: 'l4', name: 'Off', at: [0, 0, 0], on: false }),
  lampSchema.parse({
    id: 'l5',
    name: 'Follower',
    kind: 'spot',
    at: [0, 9, 0],
    aimedAt: scene.arrangements[0].id,
  }),
];
scene.viewpoints = [
  viewpointSchema.parse({
    id: 'v1',
    name: 'From the pier',
    eye: [0, 2, 10],
    aim: [0, 2, 0],
    focal: 12,
    aspect: 2,
  }),
];
const options = { props: 'instanced', surfaces: false } as const;
const result = new Evaluator(ASSETS).evaluate(scene);
const read = async (lights: boolean) => {
  const bytes = await writeGlb(scene, result, ASSETS, { ...options, lights });
  const { issues } = await validator.validateBytes(bytes);
  expect(issues.numErrors).toBe(0);
  return (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes)).getRoot().listNodes();
};
const lightOf = (node: Node) => node.getExtension<Light>('KHR_lights_punctual');
const ahead = (node: Node) => quatRotate(node.getRotation() as never, [0, 0, -1]);

test('lights in candela where they are, looking to where they are turned; what is off stays behind', async () => {
  const nodes = await read(true);
  const of = (name: string) => nodes.find((n) => n.getName() === name)!;
  expect(of('Off')).toBeUndefined();
  expect(lightOf(of('Bulb'))!.getType()).toBe('point');
  expect(lightOf(of('Bulb'))!.getIntensity()).toBe(50_000);
  expect(of('Bulb').getTranslation()).toEqual([1, 2, 3]);
  const cone = lightOf(of('Cone'))!;
  expect([cone.getType(), cone.getOuterConeAngle()]).toEqual(['spot', expect.closeTo(Math.PI / 6, 6)]);
  for (const [name, way] of [
    ['Cone', [0, -1, 0]],
    ['Panel', [-1, 0, 0]],
  ] as const)
    ahead(of(name)).forEach((v, k) => expect(v).toBeCloseTo(way[k], 6));
  expect(of('Panel').getExtras()).toMatchObject({ kind: 'area' });
  // Towards the middle of what stands there.
  const { position, count, state } = result.arrangements[0].placements;
  const rows = [...Array(count).keys()].filter((i) => state[i] === 0);
  const middle = [0, 1, 2].map((k) => {
    const all = rows.map((i) => position[i * 3 + k]);
    return (Math.min(...all) + Math.max(...all)) / 2;
  });
  const away = Math.hypot(middle[0], middle[1] - 9, middle[2]);
  ahead(of('Follower')).forEach((v, k) => expect(v).toBeCloseTo((middle[k] - (k === 1 ? 9 : 0)) / away, 5));
});

test('a viewpoint is a camera: 12 mm over a frame of 24 sees a right angle', async () => {
  const node = (await read(true)).find((n) => n.getName() === 'From the pier')!;
  const camera = node.getCamera()!;
  expect(camera.getYFov()).toBeCloseTo(Math.PI / 2, 6);
  expect(camera.getAspectRatio()).toBe(2);
  expect(node.getTranslation()).toEqual([0, 2, 10]);
  ahead(node).forEach((v, k) => expect(v).toBeCloseTo([0, 0, -1][k], 6));
  expect((await read(false)).some((n) => n.getCamera() || lightOf(n))).toBe(false);
});
