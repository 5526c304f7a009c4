import { decode } from 'fast-png';
import { strFromU8, unzipSync } from 'fflate';
import validator from 'gltf-validator';
import { emptyScene } from '@/core/scene/defaults';
import { meshRefSchema } from '@/core/mesh/meshRef';
import { neededFiles, packScene } from '@/core/formats/sceneZip';
import { contentHash } from '@/core/formats/hash';
import type { Scene } from '@/core/scene/schema';
import { applyCommand, type Command } from '@/store/command';
import { setSlotsRemoved, setStep } from '@/store/commands/arrangements';
import { addPegs } from '@/store/commands/pegs';
import { addScatter } from '@/store/commands/scatter';
import { addSheet } from '@/store/commands/sheets';
import { keepBaked, setBaked, wearBaked, dropBaked } from '@/store/commands/baking';
import { addFromMesh } from '@/store/commands/paths';
import { addRun } from '@/store/commands/runs';
import { addProp, replaceProp } from '@/store/commands/scene';
import { addDeformer, makeSurface, setSurface } from '@/store/commands/surfaces';
import { EngineService } from './service';

/** Stamps and baked maps through the service, from the prop to the file. */

function stitched() {
  let scene: Scene = emptyScene('Cloth');
  const run = <A>(command: Command<A>, args: A): string => {
    const made = applyCommand(scene, command, args);
    scene = made.scene;
    return made.made ?? '';
  };
  const service = new EngineService();
  const prop = run(addProp, { name: 'Stitch', mesh: { source: 'built', name: 'stitch' } });
  const cloth = run(makeSurface, { shape: 'plane', name: 'Cloth', values: { width: 4, depth: 2 } as never });
  const seam = run(addFromMesh, {
    surface: cloth,
    take: { what: 'iso', along: 'u', from: 0.5, to: 0.5, count: 1 },
    name: 'Seam',
  });
  const row = run(addRun, { prop, path: seam, name: 'Stitches' });
  run(setStep, { id: row, step: 'facing', values: { posture: 'surface' } });
  const { stamp, pictures } = service.files.stampFrom(scene.props[0])!;
  return { service, run, prop, cloth, row, stamp, pictures, scene: () => scene };
}

test('a stamp of a prop is as wide and long as it, but for a rim, and as high; its pictures are those that are named', () => {
  const { service, scene, stamp, pictures } = stitched();
  service.evaluateAll(scene());
  const { min, max } = service.evaluateAll(scene()).propBounds[scene().props[0].id];
  const pixel = stamp.length / decode(pictures[0].bytes).height;
  expect(Math.abs(stamp.width - (max[0] - min[0]))).toBeLessThan(6 * pixel);
  expect(Math.abs(stamp.length - (max[2] - min[2]))).toBeLessThan(6 * pixel);
  expect(stamp.depth).toBeCloseTo(max[1], 5);
  expect(pictures.map(({ bytes }) => contentHash(bytes))).toEqual([stamp.picture!.hash, stamp.relief!.hash]);
  expect(pictures.map(({ bytes }) => decode(bytes).depth)).toEqual([8, 16]);
});

test('stamps keep their place in the material while it moves: the same u and v, turned and sized as the cloth is', () => {
  const { service, run, scene, prop, cloth, stamp } = stitched();
  const by = run(addProp, { name: 'Stamp', mesh: stamp });
  run(replaceProp, { id: prop, by });
  const laid = (time = 0) => {
    const { arrangements } = service.evaluateAll(scene(), time);
    const { stamps, placements } = arrangements[0];
    return { on: stamps!.on, all: [...stamps!.laid].every((v) => v === 1), count: placements.count };
  };
  const still = laid();
  expect(still.all).toBe(true);
  expect(still.on.map((o) => o.surface)).toEqual([cloth]);
  expect(still.on[0].numbers).toHaveLength(still.count * 12);
  run(setSurface, { id: cloth, values: { tipDeg: 40, position: [3, 2, 1], size: 2 } });
  run(addDeformer, { id: cloth, kind: 'wave', values: { height: 0.2, length: 1.5, speed: 1 } });
  const moved = laid(0.7);
  for (let i = 0; i < still.count; i++) {
    const [a, b] = [still, moved].map((s) => s.on[0].numbers.subarray(i * 12, i * 12 + 12));
    // Along the seam by length: of a cloth that is larger and waves there are as many as fit, from the same end.
    expect(b[0]).toBeCloseTo(0.5, 3);
    expect(a[0]).toBeCloseTo(0.5, 5);
    // Twice as large, a stamp covers half as much of it.
    if (i === 0)
      expect(Math.abs(b[2]) + Math.abs(b[3])).toBeGreaterThan(1.5 * (Math.abs(a[2]) + Math.abs(a[3])));
  }
});

test('sheets, scatters and pegs of stamps lie in their surface as runs do; a gap is none; each has its strength', () => {
  const { service, run, scene, prop, cloth, stamp } = stitched();
  const by = run(addProp, { name: 'Stamp', mesh: { ...stamp, strength: 0.5 } });
  run(replaceProp, { id: prop, by });
  run(addDeformer, { id: cloth, kind: 'wave', values: { height: 0.2, length: 1.5, speed: 1 } });
  const sheet = run(addSheet, { surface: cloth, prop: by });
  const scatter = run(addScatter, { over: { kind: 'surfaces', surfaces: [cloth] } as never, props: [by] });
  service.evaluateAll(scene(), 0.4);
  const [pin] = service.pinPlaces([{ at: [0.4, 0, 0.3], front: [1, 0, 0], lift: 0 }], 'nearest');
  const peg = { prop: by, pin, position: [0, 0, 0], rotation: [0, 0, 0, 1], scale: [1, 1, 1] };
  const [pegs] = run(addPegs, { id: null, pegs: [peg] as never }).split(' ');
  const of = (id: string) => service.evaluateAll(scene(), 0.4).arrangements.find((a) => a.id === id)!;
  for (const id of [sheet, scatter, pegs]) {
    const { placements, stamps } = of(id);
    const placed = placements.state.filter((v) => v === 0).length;
    expect(placed).toBeGreaterThan(0);
    expect(stamps!.cards).toBe(0);
    const [{ surface, numbers, rows }] = stamps!.on;
    expect([surface, new Set(rows).size]).toEqual([cloth, placed]);
    expect(numbers[11]).toBe(0.5);
    expect(numbers[7]).toBeCloseTo(0.5 * stamp.depth * placements.scale[1], 5);
  }
  const { slot, state } = of(sheet).placements;
  const before = of(sheet).stamps!.on[0].rows.length;
  run(setSlotsRemoved, { id: sheet, slots: [slot[state.indexOf(0)]], removed: true });
  expect(of(sheet).stamps!.on[0].rows).toHaveLength(before - 1);
});

test('what lies on no surface with uv is a card, and told; a stamp without a ground of its own lies on what is shown', () => {
  const { service, run, scene, prop, stamp, cloth } = stitched();
  const by = run(addProp, { name: 'Stamp', mesh: stamp });
  run(replaceProp, { id: prop, by });
  run(setSurface, { id: cloth, values: { visible: false } });
  const findings = () => service.evaluateAll(scene()).arrangements[0].findings.map((f) => f.kind);
  expect(findings()).toEqual([]);
  const free = run(addProp, {
    name: 'Far',
    mesh: meshRefSchema.parse({ source: 'stamp', width: 0.01, length: 0.01 }),
  });
  run(replaceProp, { id: by, by: free });
  run(setStep, { id: scene().arrangements[0].id, step: 'facing', values: { lift: 1 } as never });
  expect(findings()).toContain('stamps-cards');
});

test('baked maps go out in the material alone, through the validator, in the scene’s own file, and as a zip', async () => {
  const { service, run, scene, cloth, row } = stitched();
  run(setBaked, {
    id: cloth,
    values: { of: [row], size: 128, reach: 0.1, maps: ['normal', 'occlusion', 'color', 'props'], rays: 4 },
  });
  const settings = scene().surfaces[0].baked!;
  const files = (await service.bakes.bake(scene(), cloth, settings, 0))!;
  expect(files.maps.map((m) => m.map).sort()).toEqual(['color', 'normal', 'occlusion', 'props']);
  expect([files.covered, files.twice, files.heights]).toEqual([1, 0, null]);
  expect(files.names).toEqual(['Stitch']);
  const made = { normal: null, height: null, occlusion: null, color: null, props: null } as Record<
    string,
    unknown
  >;
  for (const { map, bytes, fileName } of files.maps)
    made[map] = { hash: contentHash(bytes), format: 'png', fileName };
  run(keepBaked, { id: cloth, made: made as never, heights: null });
  run(wearBaked, { id: cloth, shown: true });
  expect(scene().arrangements[0].visible).toBe(false);
  const options = { props: 'instanced' as const, surfaces: true };
  const glb = await service.sendOut(scene(), { kind: 'glb', options: options as never });
  const report = await validator.validateBytes(glb);
  expect(report.issues.numErrors).toBe(0);
  const json = JSON.parse(
    strFromU8(glb.slice(20, 20 + new DataView(glb.buffer, glb.byteOffset).getUint32(12, true))),
  );
  expect(json.meshes).toHaveLength(1);
  expect(Object.keys(json.materials[0])).toEqual(
    expect.arrayContaining(['normalTexture', 'occlusionTexture']),
  );
  expect(json.materials[0].pbrMetallicRoughness.baseColorTexture).toBeDefined();
  // All that the scene needs goes along, and comes back.
  expect(neededFiles(scene())).toHaveLength(4);
  const packed = packScene(scene(), (hash) => files.maps.find((m) => contentHash(m.bytes) === hash)?.bytes);
  const again = new EngineService();
  expect((await again.open(packed, 'cloth')).missing).toEqual([]);
  const zip = unzipSync(await again.sendOut(scene(), { kind: 'maps', surface: cloth }));
  expect(Object.keys(zip).sort()).toEqual([
    'Cloth colour.png',
    'Cloth normal.png',
    'Cloth occlusion.png',
    'Cloth props.png',
  ]);
  run(dropBaked, { id: cloth });
  expect([scene().arrangements[0].visible, scene().surfaces[0].baked]).toEqual([true, null]);
  // Without kept ones they are baked for the file, which then says whose each colour is.
  run(setBaked, { id: cloth, values: { of: [row], size: 64, maps: ['props'] } });
  const fresh = unzipSync(await service.sendOut(scene(), { kind: 'maps', surface: cloth }));
  expect(strFromU8(fresh['props.csv'])).toMatch(/^prop,red,green,blue\n"Stitch",\d+,\d+,\d+\n$/);
});

test('a surface without uv, and a map larger than memory, are told before anything is done', async () => {
  const { service, run, scene, cloth, row } = stitched();
  run(setBaked, {
    id: cloth,
    values: { of: [row], size: 8192, maps: ['normal', 'height', 'occlusion', 'color', 'props'] },
  });
  await expect(service.bakes.bake(scene(), cloth, scene().surfaces[0].baked!, 0)).rejects.toThrow(
    /8192 × 8192 pixels would take 1\.\d GB/,
  );
  await expect(service.bakes.bake(scene(), 'nobody', scene().surfaces[0].baked!, 0)).rejects.toThrow(
    /no texture coordinates/,
  );
});
