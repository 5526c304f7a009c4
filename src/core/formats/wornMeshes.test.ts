import { WebIO, type Node } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { encode } from 'fast-png';
import validator from 'gltf-validator';
import { newArrangement } from '../arrange/registry';
import { inBlocks } from '../arrange/pegs/blocks';
import { Evaluator, type Assets } from '../evaluate/scene';
import { linearColor } from '../math/color';
import { materialSchema } from '../mesh/materialSchema';
import { bundleSchema } from '../scene/bundleSchema';
import { newProp } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { ASSETS, exampleMesh, exampleScene } from '../testing/scene';
import { contentHash } from './hash';
import { neededFiles, openScene, packScene } from './sceneZip';
import { writeGlb } from './glbWrite';

/** Materials made by hand, read back out of files. */

const picture = encode({ width: 2, height: 2, data: new Uint8Array(16).fill(200), channels: 4 });
const hash = contentHash(picture);
const MATERIALS = [
  materialSchema.parse({ id: 'red', name: 'Red', color: '#aa2211', roughness: 0.3 }),
  materialSchema.parse({ id: 'brass', name: 'Brass', color: '#d9ae5b', metal: 1 }),
  materialSchema.parse({ id: 'paper', name: 'Paper', picture: { hash, format: 'png', fileName: 'p.png' } }),
  materialSchema.parse({ id: 'lit', name: 'Lit', color: '#ffffff', glow: { color: '#ffb765' } }),
];
const mesh = exampleMesh();
const count = mesh.positions.length / 3;
const coloured = {
  ...mesh,
  colors: new Float32Array(count * 3).fill(0.5),
  uvs: new Float32Array(count * 2),
};
const assets: Assets = {
  mesh: (ref) => (ref.source === 'built' && ref.name === 'box' ? coloured : ASSETS.mesh(ref)),
  bytes: (h) => (h === hash ? picture : undefined),
};
const dressedScene = (change: (scene: Scene) => void): Scene => {
  const scene = { ...exampleScene(), materials: MATERIALS };
  change(scene);
  return scene;
};

/** What each node of a file wears: its material's name, and whether it goes by the colours of its vertices. */
async function worn(scene: Scene, props: 'instanced' | 'nodes' = 'instanced') {
  const result = new Evaluator(assets).evaluate(scene);
  const bytes = await writeGlb(scene, result, assets, { props, surfaces: true });
  const { issues } = await validator.validateBytes(bytes);
  expect(issues.numErrors).toBe(0);
  const root = (await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(bytes)).getRoot();
  const of = (node: Node) => {
    const [primitive] = node.getMesh()!.listPrimitives();
    return { material: primitive.getMaterial()!, colours: primitive.getAttribute('COLOR_0') !== null };
  };
  const nodes = root.listNodes().filter((n) => n.getMesh());
  return { nodes, of, names: nodes.map((n) => [n.getName(), of(n).material.getName()]) };
}

test('a prop wears its own, a surface its own; what wears nothing is as it was', async () => {
  const { nodes, of, names } = await worn(
    dressedScene((s) => {
      s.props[0].material = 'red';
      s.surfaces[0].material = 'brass';
    }),
  );
  expect(names).toEqual([
    ['Box', 'Red'],
    ['Other box', 'm'],
    ['Floor', 'Brass'],
  ]);
  const [red, other, brass] = nodes.map(of);
  expect(red.material.getBaseColorFactor().slice(0, 3)).toEqual(
    linearColor('#aa2211').map((v) => expect.closeTo(v, 6)),
  );
  expect(red.material.getRoughnessFactor()).toBeCloseTo(0.3, 6);
  expect(brass.material.getMetallicFactor()).toBe(1);
  expect([red.colours, other.colours]).toEqual([false, true]);
});

test('an arrangement dresses all that it places; a picture goes along, and glow as light of its own', async () => {
  const scene = dressedScene((s) => {
    s.props[0].material = 'red';
    s.arrangements[0].material = 'paper';
  });
  const { nodes, of, names } = await worn(scene);
  expect(names.slice(0, 2)).toEqual([
    ['Box', 'Paper'],
    ['Other box', 'Paper'],
  ]);
  expect(of(nodes[0]).material.getBaseColorTexture()!.getImage()).toEqual(picture);
  // One material for both, and one picture.
  expect(of(nodes[0]).material).toBe(of(nodes[1]).material);
  const lit = await worn(dressedScene((s) => (s.arrangements[0].material = 'lit')));
  expect(lit.of(lit.nodes[0]).material.getEmissiveFactor()).toEqual(
    linearColor('#ffb765').map((v) => expect.closeTo(v, 6)),
  );
});

test('within bundles the outermost arrangement that has a material decides; else the inner one, else the prop', async () => {
  const bundled = (outer?: string, inner?: string, prop: string | null = 'red') =>
    dressedScene((s) => {
      const pegs = (id: string, of: string, more: object) =>
        newArrangement(
          'pegs',
          { id, name: id, thread: 'moss' },
          { pegs: inBlocks([{ id: 'peg1', prop: of, position: [0, 0, 0] }] as never), ...more },
        );
      const given = (material?: string) => (material === undefined ? {} : { material });
      s.props = [
        { ...newProp('b', 'Box', { source: 'built', name: 'box' }), material: prop },
        newProp('c', 'Crate', { source: 'bundle', bundle: 'bundle' }),
      ];
      s.bundles = [bundleSchema.parse({ id: 'bundle', members: [{ id: 'in' }], origin: [0, 0, 0] })];
      s.arrangements = [pegs('in', 'b', { visible: false, ...given(inner) }), pegs('out', 'c', given(outer))];
      s.surfaces = [];
    });
  const wears = async (...given: Parameters<typeof bundled>) => (await worn(bundled(...given))).names[0][1];
  expect(await wears(undefined, undefined, null)).toBe('m');
  expect(await wears()).toBe('Red');
  expect(await wears(undefined, 'brass')).toBe('Brass');
  expect(await wears('paper', 'brass')).toBe('Paper');
  // The bundle's own mesh, which its picture shows and which is bent, goes by the same.
  const evaluator = new Evaluator(assets);
  const lookOf = (scene: Scene) => {
    evaluator.evaluate(scene);
    return evaluator.bundles.meshOf('bundle')!.materials[0].wears;
  };
  expect(lookOf(bundled())).toBe('red');
  expect(lookOf(bundled(undefined, 'brass'))).toBe('brass');
  expect(lookOf(bundled(undefined, undefined, null))).toBeUndefined();
});

test('a scene file brings the pictures of materials and the panorama along, and back', () => {
  const panorama = Uint8Array.of(0x23, 0x3f, 1, 2);
  const around = contentHash(panorama);
  const scene = dressedScene((s) => {
    s.light = {
      ...s.light,
      surround: { by: 'panorama', panorama: { hash: around, format: 'hdr', fileName: 'sky.hdr' } },
    } as never;
  });
  expect(neededFiles(scene).map((f) => f.hash)).toEqual([hash, around]);
  const opened = openScene(
    packScene(scene, (h) => (h === hash ? picture : h === around ? panorama : undefined)),
    'a',
  );
  expect(opened.missing).toEqual([]);
  expect(opened.files.get(around)).toEqual(panorama);
  expect(opened.scene.materials).toEqual(MATERIALS);
});
