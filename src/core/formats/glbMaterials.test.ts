import { Document, WebIO, type Material } from '@gltf-transform/core';
import {
  ALL_EXTENSIONS,
  KHRLightsPunctual,
  KHRMaterialsClearcoat,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsUnlit,
  KHRTextureTransform,
  type EmissiveStrength,
  type IOR,
  type Transform,
} from '@gltf-transform/extensions';
import fc from 'fast-check';
import { encode } from 'fast-png';
import validator from 'gltf-validator';
import { Evaluator } from '../evaluate/scene';
import type { Mesh } from '../mesh/mesh';
import { emptyScene, newEntry, newPath, newPoint, newProp, newRun, newSurface } from '../scene/defaults';
import type { Scene } from '../scene/schema';
import { cases, SEED } from '../testing/prove';
import { readGlb, readMovingGlb } from './glbRead';
import { writeGlb } from './glbWrite';

/** Materials come in from one file and go out in another as they were. */

const io = () => new WebIO().registerExtensions(ALL_EXTENSIONS);
const picture = (shade: number) =>
  encode({ width: 2, height: 2, channels: 3, depth: 8, data: new Uint8Array(12).fill(shade) });

const SLOTS = ['BaseColor', 'Normal', 'MetallicRoughness', 'Occlusion', 'Emissive'] as const;
const share = fc.double({ min: 0, max: 1, noNaN: true });
const look = fc.record({
  alpha: fc.constantFrom('OPAQUE' as const, 'MASK' as const, 'BLEND' as const),
  cutoff: share,
  color: fc.tuple(share, share, share, share),
  metal: share,
  rough: share,
  emissive: fc.tuple(share, share, share),
  sides: fc.boolean(),
  normalScale: fc.double({ min: 0, max: 4, noNaN: true }),
  occlusion: share,
  strength: fc.option(fc.double({ min: 1, max: 40, noNaN: true })),
  ior: fc.option(fc.double({ min: 1, max: 2.5, noNaN: true })),
  unlit: fc.boolean(),
  maps: fc.array(
    fc.option(
      fc.record({
        picture: fc.integer({ min: 0, max: 2 }),
        wrapS: fc.constantFrom(10497, 33648, 33071),
        wrapT: fc.constantFrom(10497, 33648, 33071),
        mag: fc.constantFrom(null, 9728, 9729),
        min: fc.constantFrom(null, 9728, 9729, 9984, 9985, 9986, 9987),
        transform: fc.option(
          fc.record({ offset: fc.tuple(share, share), rotation: share, scale: fc.tuple(share, share) }),
        ),
      }),
    ),
    { minLength: 5, maxLength: 5 },
  ),
});
type Look = typeof look extends fc.Arbitrary<infer T> ? T : never;

/** A file of a box with a material to each of its faces. */
async function fileOf(looks: Look[], more: (d: Document) => void = () => undefined): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const accessor = (type: 'VEC2' | 'VEC3', list: number[]) =>
    d.createAccessor().setType(type).setArray(new Float32Array(list)).setBuffer(buffer);
  const textures = [0, 1, 2].map((k) =>
    d
      .createTexture(`p${k}`)
      .setImage(picture(k * 90))
      .setMimeType('image/png'),
  );
  const mesh = d.createMesh('m');
  looks.forEach((l, i) => {
    const m = d
      .createMaterial(`look ${i}`)
      .setAlphaMode(l.alpha)
      .setAlphaCutoff(l.cutoff)
      .setBaseColorFactor(l.color)
      .setMetallicFactor(l.metal)
      .setRoughnessFactor(l.rough)
      .setEmissiveFactor(l.emissive)
      .setDoubleSided(l.sides)
      .setNormalScale(l.normalScale)
      .setOcclusionStrength(l.occlusion);
    if (l.strength !== null)
      m.setExtension(
        'KHR_materials_emissive_strength',
        d
          .createExtension(KHRMaterialsEmissiveStrength)
          .createEmissiveStrength()
          .setEmissiveStrength(l.strength),
      );
    if (l.ior !== null)
      m.setExtension('KHR_materials_ior', d.createExtension(KHRMaterialsIOR).createIOR().setIOR(l.ior));
    if (l.unlit) m.setExtension('KHR_materials_unlit', d.createExtension(KHRMaterialsUnlit).createUnlit());
    l.maps.forEach((map, k) => {
      if (!map) return;
      const slot = SLOTS[k];
      m[`set${slot}Texture`](textures[map.picture]);
      const info = m[`get${slot}TextureInfo`]()!;
      info.setWrapS(map.wrapS as never).setWrapT(map.wrapT as never);
      info.setMagFilter(map.mag as never).setMinFilter(map.min as never);
      if (map.transform)
        info.setExtension(
          'KHR_texture_transform',
          d
            .createExtension(KHRTextureTransform)
            .createTransform()
            .setOffset(map.transform.offset)
            .setRotation(map.transform.rotation)
            .setScale(map.transform.scale),
        );
    });
    mesh.addPrimitive(
      d
        .createPrimitive()
        .setAttribute('POSITION', accessor('VEC3', [0, i, 0, 1, i, 0, 1, i, 1]))
        .setAttribute('NORMAL', accessor('VEC3', [0, -1, 0, 0, -1, 0, 0, -1, 0]))
        .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 0, 1, 0, 1, 1]))
        .setMaterial(m),
    );
  });
  d.createScene().addChild(d.createNode().setMesh(mesh));
  more(d);
  return io().writeBinary(d);
}

/** All that a material says, to be compared. */
function saysOf(m: Material) {
  const maps = SLOTS.map((slot) => {
    const texture = m[`get${slot}Texture`]();
    const info = m[`get${slot}TextureInfo`]();
    if (!texture || !info) return null;
    const t = info.getExtension<Transform>('KHR_texture_transform');
    return {
      image: [...texture.getImage()!],
      mime: texture.getMimeType(),
      wrap: [info.getWrapS(), info.getWrapT()],
      filter: [info.getMagFilter(), info.getMinFilter()],
      transform: t && [t.getOffset(), t.getRotation(), t.getScale()],
    };
  });
  return {
    name: m.getName(),
    alpha: m.getAlphaMode(),
    cutoff: m.getAlphaMode() === 'MASK' && m.getAlphaCutoff(),
    color: m.getBaseColorFactor(),
    metal: [m.getMetallicFactor(), m.getRoughnessFactor()],
    emissive: m.getEmissiveFactor(),
    sides: m.getDoubleSided(),
    normal: maps[1] && m.getNormalScale(),
    occlusion: maps[3] && m.getOcclusionStrength(),
    strength: m.getExtension<EmissiveStrength>('KHR_materials_emissive_strength')?.getEmissiveStrength(),
    ior: m.getExtension<IOR>('KHR_materials_ior')?.getIOR(),
    unlit: m.getExtension('KHR_materials_unlit') !== null,
    maps,
  };
}

const ref = { source: 'file' as const, hash: 'a'.repeat(64), format: 'glb' as const, fileName: 'own.glb' };

/** A run of it, and it as a surface too. */
function sceneOf(change: (run: ReturnType<typeof newRun>) => void = () => undefined): Scene {
  const run = newRun('run', 'Run', 'madder', 'path', [newEntry('e', { kind: 'prop', prop: 'p' })]);
  run.spacing = { ...run.spacing, mode: 'count', count: 5 };
  change(run);
  return {
    ...emptyScene('Looks'),
    props: [newProp('p', 'P', ref)],
    surfaces: [newSurface('s', 'S', ref)],
    paths: [
      newPath('path', 'Path', [
        newPoint('a', 'smooth', [0, 0, 0]),
        newPoint('b', 'smooth', [4, 0, 3]),
        newPoint('c', 'smooth', [9, 0, 0]),
      ]),
    ],
    arrangements: [run],
  };
}
const sentOut = async (mesh: Mesh, scene: Scene) => {
  const assets = { mesh: () => mesh };
  const bytes = await writeGlb(scene, new Evaluator(assets).evaluate(scene), assets, {
    props: 'instanced',
    surfaces: true,
  });
  return { bytes, root: (await io().readBinary(bytes)).getRoot() };
};

test('whatever a material says goes out as it came in, valid, each look and each picture once', async () => {
  await fc.assert(
    fc.asyncProperty(fc.array(look, { minLength: 1, maxLength: 4 }), async (looks) => {
      const given = await fileOf(looks);
      const wanted = (await io().readBinary(given)).getRoot().listMaterials().map(saysOf);
      const { bytes, root } = await sentOut(await readGlb(given, 'own.glb'), sceneOf());
      expect(root.listMaterials().map(saysOf)).toEqual(wanted);
      const used = new Set(looks.flatMap((l) => l.maps.flatMap((m) => (m ? [m.picture] : []))));
      expect(root.listTextures()).toHaveLength(used.size);
      const { issues } = await validator.validateBytes(bytes, { maxIssues: 100 });
      expect(issues.messages.filter((m) => m.severity === 0)).toEqual([]);
    }),
    { seed: SEED, numRuns: cases(2000) },
  );
});

const plainLook: Look = {
  alpha: 'OPAQUE',
  cutoff: 0.5,
  color: [1, 1, 1, 1],
  metal: 0,
  rough: 1,
  emissive: [0, 0, 0],
  sides: false,
  normalScale: 1,
  occlusion: 1,
  strength: null,
  ior: null,
  unlit: false,
  maps: [
    { picture: 1, wrapS: 10497, wrapT: 10497, mag: null, min: null, transform: null },
    null,
    null,
    null,
    null,
  ],
};

test('bent places share one material and one picture; tinted ones have a material a tint, and still one picture', async () => {
  const mesh = await readGlb(await fileOf([plainLook]), 'own.glb');
  const bent = await sentOut(
    mesh,
    sceneOf((run) => {
      run.spacing = { ...run.spacing, count: 23 };
      run.facing = { ...run.facing, bend: true };
    }),
  );
  expect(bent.root.listMeshes().length).toBeGreaterThan(10);
  expect([bent.root.listMaterials().length, bent.root.listTextures().length]).toEqual([1, 1]);
  const tinted = await sentOut(
    mesh,
    sceneOf((run) => {
      run.facing = { ...run.facing, bend: true };
      run.variation.tint = { colors: ['#ff0000', '#00ff00'], strength: [1, 1] };
    }),
  );
  const names = new Set(tinted.root.listMaterials().map((m) => m.getBaseColorFactor().join()));
  expect(tinted.root.listMaterials()).toHaveLength(names.size);
  expect(names.size).toBeLessThanOrEqual(3);
  expect(tinted.root.listTextures()).toHaveLength(1);
});

test('what a file has that does not come in is told, and only that', async () => {
  const plain = await readMovingGlb(await fileOf([plainLook]), 'own.glb');
  expect(plain.notKept).toEqual([]);
  const given = await fileOf([plainLook, plainLook], (d) => {
    const root = d.getRoot();
    const [first, second] = root.listMaterials();
    first.setExtension(
      'KHR_materials_clearcoat',
      d.createExtension(KHRMaterialsClearcoat).createClearcoat().setClearcoatFactor(1),
    );
    second.getBaseColorTextureInfo()!.setTexCoord(1);
    const [a, b] = root.listMeshes()[0].listPrimitives();
    b.setAttribute('TEXCOORD_1', a.getAttribute('TEXCOORD_0'));
    const sheer = d
      .createAccessor()
      .setType('VEC4')
      .setArray(new Float32Array([1, 1, 1, 1, 1, 1, 1, 0.5, 1, 1, 1, 1]))
      .setBuffer(root.listBuffers()[0]);
    a.setAttribute('COLOR_0', sheer);
    const light = d.createExtension(KHRLightsPunctual).createLight().setType('point');
    const [scene] = root.listScenes();
    scene.addChild(d.createNode().setExtension('KHR_lights_punctual', light));
    scene.addChild(
      d.createNode().setCamera(d.createCamera().setType('perspective').setYFov(1).setZNear(0.1)),
    );
  });
  const { mesh, notKept } = await readMovingGlb(given, 'own.glb');
  expect(notKept.toSorted()).toEqual([
    'cameras',
    'clear coat',
    'lights',
    'pictures on further texture coordinates',
    'transparency of vertices',
  ]);
  expect(mesh.materials[1].maps).toBeUndefined();
});
