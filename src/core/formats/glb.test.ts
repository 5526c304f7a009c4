import { Document, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS, EXTMeshGPUInstancing } from '@gltf-transform/extensions';
import validator from 'gltf-validator';
import { evaluateOver } from '../evaluate/overTime';
import { Evaluator } from '../evaluate/scene';
import { STATE } from '../arrange/result';
import { quatRotate, type Quat } from '../math/quat';
import type { Vec3 } from '../math/vec3';
import { meshBounds, propMatrix } from '../mesh/mesh';
import { exampleScene, exampleMesh, ASSETS } from '../testing/scene';
import { readGlb, readMovingGlb } from './glbRead';
import { deformerSchema } from '../mesh/deform/schema';
import { shapeSchema } from '../mesh/make/schema';
import { groundSchema } from '../arrange/steps/schema';
import { parseSlotName } from '../arrange/slotId';
import { newSurface } from '../scene/defaults';
import { sheetSchema } from '../arrange/sheet/schema';
import { writeAnimatedGlb } from './glbAnimation';
import { writeGlb } from './glbWrite';
import { FileError } from './limits';

const io = () => new WebIO().registerExtensions(ALL_EXTENSIONS);
const written = async (props: 'instanced' | 'nodes', surfaces = true) => {
  const scene = exampleScene();
  const result = new Evaluator(ASSETS).evaluate(scene);
  return { scene, result, bytes: await writeGlb(scene, result, ASSETS, { props, surfaces }) };
};

/** Every instance of a file as [node name, x, y, z], whichever way it was written. */
async function instances(bytes: Uint8Array): Promise<[string, number, number, number][]> {
  const out: [string, number, number, number][] = [];
  for (const node of (await io().readBinary(bytes)).getRoot().listNodes()) {
    const group =
      node.getExtension<import('@gltf-transform/extensions').InstancedMesh>('EXT_mesh_gpu_instancing');
    const moved = group?.getAttribute('TRANSLATION');
    if (moved)
      for (let i = 0; i < moved.getCount(); i++)
        out.push([node.getName(), ...(moved.getElement(i, [0, 0, 0]) as [number, number, number])]);
    else if (node.getMesh() && node.getExtras().slot)
      out.push([node.getName().replace(/ \S+$/, ''), ...node.getTranslation()]);
  }
  return out;
}

describe('writing', () => {
  test.each(['instanced', 'nodes'] as const)(
    '%s: the Khronos validator finds no error, and every placed prop is where it is',
    async (props) => {
      const { scene, result, bytes } = await written(props);
      const report = await validator.validateBytes(bytes, { maxIssues: 100 });
      expect(report.issues.messages.filter((m) => m.severity === 0)).toEqual([]);
      const found = await instances(bytes);
      const { placements: p } = result.arrangements[0];
      const wanted: [string, number, number, number][] = [];
      for (let i = 0; i < p.count; i++) {
        if (p.state[i] !== STATE.placed) continue;
        const name = scene.props.find((x) => x.id === p.props[p.prop[i]])!.name;
        wanted.push([name, p.position[i * 3], p.position[i * 3 + 1], p.position[i * 3 + 2]]);
      }
      const order = (a: [string, number, number, number], b: [string, number, number, number]) =>
        a[0].localeCompare(b[0]) || a[1] - b[1];
      found.sort(order);
      wanted.sort(order);
      expect(found.map((f) => f[0])).toEqual(wanted.map((w) => w[0]));
      found.forEach((f, i) =>
        [1, 2, 3].forEach((a) => expect(Number(f[a])).toBeCloseTo(Number(wanted[i][a]), 5)),
      );
    },
  );

  test('the same scene gives the same bytes; surfaces are left out where asked', async () => {
    const [a, b, bare] = [
      await written('instanced'),
      await written('instanced'),
      await written('instanced', false),
    ];
    expect(Buffer.from(a.bytes).equals(Buffer.from(b.bytes))).toBe(true);
    const names = async (bytes: Uint8Array) =>
      (await io().readBinary(bytes))
        .getRoot()
        .listNodes()
        .map((n) => n.getName());
    expect(await names(a.bytes)).toContain('Floor');
    expect(await names(bare.bytes)).not.toContain('Floor');
  });

  test('a prop’s mesh is written once, with its foot at the origin', async () => {
    const { bytes } = await written('nodes');
    const meshes = (await io().readBinary(bytes))
      .getRoot()
      .listMeshes()
      .filter((m) => m.getName() === 'Box');
    expect(meshes).toHaveLength(1);
    const position = meshes[0].listPrimitives()[0].getAttribute('POSITION')!;
    expect(position.getMin([])[1]).toBeCloseTo(0, 6);
    expect(position.getMin([])[0] + position.getMax([])[0]).toBeCloseTo(0, 6);
  });
});

describe('snap points', () => {
  /** Where the nodes without a mesh of a file are, and where they point to: read as a prop's own. */
  const pointsOf = async (bytes: Uint8Array) =>
    (await readGlb(bytes, 'out.glb')).snapPoints!.map((p) => [...p.position, ...p.direction!]);
  const scene = exampleScene();
  const prop = scene.props[0];
  prop.snapPoints = [
    { name: 'eye', position: [0.1, 0.2, 0.3], direction: [0, 1, 0] },
    { name: 'plain', position: [0, 0.5, 0] },
  ];
  scene.props = scene.props.map((p) => (p === prop ? p : { ...p, snapPoints: [] }));
  const evaluator = new Evaluator(ASSETS);
  const result = evaluator.evaluate(scene);
  const { placements: p } = result.arrangements[0];
  const wanted = [...p.slot.keys()].flatMap((row) => {
    if (p.state[row] !== STATE.placed || p.props[p.prop[row]] !== prop.id) return [];
    const q = [...p.rotation.subarray(row * 4, row * 4 + 4)] as Quat;
    const size = p.scale[row * 3];
    const at = (v: Vec3) =>
      quatRotate(q, v.map((x) => x * size) as Vec3).map((x, a) => x + p.position[row * 3 + a]);
    return [
      [...at([0.1, 0.2, 0.3]), ...quatRotate(q, [0, 1, 0])],
      [...at([0, 0.5, 0]), ...quatRotate(q, [0, 0, 1])],
    ];
  });
  const same = (found: number[][]) => {
    expect(found).toHaveLength(wanted.length);
    const key = (r: number[]) => r[0] * 1e3 + r[1];
    const [a, b] = [found, wanted].map((list) => list.toSorted((x, y) => key(x) - key(y)));
    a.forEach((r, i) => r.slice(0, 3).forEach((v, k) => expect(v).toBeCloseTo(b[i][k], 5)));
    // Without a direction of its own, along the prop's front or the scene's: it says nothing.
    const eyes = (list: number[][]) => list.filter((r) => Math.abs(r[4] - 1) < 1e-6).length;
    expect(eyes(a)).toBe(eyes(b));
  };

  test.each(['instanced', 'nodes'] as const)(
    '%s: they are where they are in the scene, and valid',
    async (props) => {
      expect(wanted.length).toBeGreaterThan(4);
      const bytes = await writeGlb(scene, result, ASSETS, { props, surfaces: false, snaps: true });
      const report = await validator.validateBytes(bytes, { maxIssues: 100 });
      expect(report.issues.messages.filter((m) => m.severity === 0)).toEqual([]);
      same(await pointsOf(bytes));
      const without = await writeGlb(scene, result, ASSETS, { props, surfaces: false });
      expect((await readGlb(without, 'out.glb')).snapPoints).toBeUndefined();
    },
  );

  test('in an animation they go with their props', async () => {
    const times = Float32Array.from([0, 1]);
    const results = [0, 1].map(() => evaluator.evaluate(scene));
    same(
      await pointsOf(
        await writeAnimatedGlb(scene, { times, results }, ASSETS, { surfaces: false, snaps: true }),
      ),
    );
  });

  test('more of them than a file should hold are refused, with what to do', async () => {
    const many = Array.from({ length: 100_000 }, (_, i) => ({ name: `n${i}`, position: [0, 0, 0] as Vec3 }));
    const crowded = { ...scene, props: [{ ...prop, snapPoints: many }, ...scene.props.slice(1)] };
    const sent = writeGlb(crowded, result, ASSETS, { props: 'nodes', surfaces: false, snaps: true });
    await expect(sent).rejects.toThrow(/snap points would be .* leave snap points out/);
  });
});

/** A file with one triangle under a moved and scaled node. */
async function triangleFile(change: (d: Document) => void = () => {}): Promise<Uint8Array> {
  const d = new Document();
  const buffer = d.createBuffer();
  const position = d
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 0, 1]))
    .setBuffer(buffer);
  const mesh = d.createMesh('tri').addPrimitive(d.createPrimitive().setAttribute('POSITION', position));
  d.createScene().addChild(
    d
      .createNode('up')
      .setTranslation([0, 5, 0])
      .addChild(d.createNode('big').setScale([2, 2, 2]).setMesh(mesh)),
  );
  change(d);
  return io().writeBinary(d);
}

describe('reading', () => {
  test('nodes are applied, normals made where there are none', async () => {
    const mesh = await readGlb(await triangleFile(), 'tri.glb');
    expect(meshBounds(mesh)).toEqual({ min: [0, 5, 0], max: [2, 5, 2] });
    expect([...mesh.normals.slice(0, 3)].map(Math.abs)).toEqual([0, 1, 0]);
    const m = propMatrix({ unitScale: 0.5, foot: { at: 'base' }, front: '+z', up: '+y' }, meshBounds(mesh));
    expect([m[12], m[13], m[14]]).toEqual([-0.5, -2.5, -0.5]);
  });

  test('what was written is read back as it was', async () => {
    const mesh = exampleMesh();
    const scene = exampleScene();
    scene.arrangements = [];
    const bytes = await writeGlb(scene, new Evaluator(ASSETS).evaluate(scene), ASSETS, {
      props: 'nodes',
      surfaces: true,
    });
    const back = await readGlb(bytes, 'floor.glb');
    expect(back.indices.length).toBeGreaterThan(0);
    expect(meshBounds(back).min[0]).toBeLessThan(meshBounds(mesh).min[0]);
  });

  test('instances come in as the same nodes would, wherever their node stands and moves', async () => {
    const points = async (props: 'instanced' | 'nodes') => {
      const { positions } = await readGlb((await written(props)).bytes, 'run.glb');
      return Array.from({ length: positions.length / 3 }, (_, i) => positions.subarray(i * 3, i * 3 + 3));
    };
    const [nodes, instanced] = [await points('nodes'), await points('instanced')];
    expect(instanced).toHaveLength(nodes.length);
    const off = (p: Float32Array, all: Float32Array[]) =>
      Math.min(...all.map((q) => Math.hypot(p[0] - q[0], p[1] - q[1], p[2] - q[2])));
    expect(Math.max(...nodes.map((p) => off(p, instanced)))).toBeLessThan(1e-5);
    expect(Math.max(...instanced.map((p) => off(p, nodes)))).toBeLessThan(1e-5);

    const bytes = await triangleFile((d) => {
      const big = d.getRoot().listNodes()[1];
      const list = (type: 'VEC3' | 'VEC4' | 'SCALAR', values: number[]) =>
        d
          .createAccessor()
          .setType(type)
          .setArray(new Float32Array(values))
          .setBuffer(d.getRoot().listBuffers()[0]);
      const half = Math.SQRT1_2;
      big.setExtension(
        'EXT_mesh_gpu_instancing',
        d
          .createExtension(EXTMeshGPUInstancing)
          .createInstancedMesh()
          .setAttribute('TRANSLATION', list('VEC3', [0, 0, 0, 10, 0, 0]))
          .setAttribute('ROTATION', list('VEC4', [0, 0, 0, 1, 0, half, 0, half])),
      );
      const sampler = d
        .createAnimationSampler()
        .setInput(list('SCALAR', [0, 1]))
        .setOutput(list('VEC3', [0, 0, 0, 0, 1, 0]));
      const channel = d
        .createAnimationChannel()
        .setTargetNode(big)
        .setTargetPath('translation')
        .setSampler(sampler);
      d.createAnimation('rise').addSampler(sampler).addChannel(channel);
    });
    const { mesh, motion } = await readMovingGlb(bytes, 'two.glb');
    // The second is 10 along, turned a quarter about the vertical, all of it twice as large and 5 up.
    const want = [0, 5, 0, 2, 5, 0, 0, 5, 2, 20, 5, 0, 20, 5, -2, 22, 5, 0];
    want.forEach((v, i) => expect(mesh.positions[i]).toBeCloseTo(v, 5));
    const moved = new Float32Array(18);
    motion!.sample('rise', 0.5, moved);
    want.forEach((v, i) => expect(moved[i]).toBeCloseTo(i % 3 === 1 ? v + 0.5 : v, 5));
  });

  test('bad files get one sentence: what, where, what to do', async () => {
    const good = await triangleFile();
    const lines = await triangleFile((d) => d.getRoot().listMeshes()[0].listPrimitives()[0].setMode(1));
    const said = async (bytes: Uint8Array) => {
      const error = await readGlb(bytes, 'x.glb').then(
        () => null,
        (e: Error) => e,
      );
      expect(error).toBeInstanceOf(FileError);
      expect(error!.message).toMatch(/^“x\.glb” .*\. .*\.$/);
      return error!.message;
    };
    expect(await said(new Uint8Array(0))).toContain('empty');
    expect(await said(new TextEncoder().encode('solid not a glb at all, really'))).toContain(
      'not a binary glTF',
    );
    expect(await said(good.slice(0, good.length - 10))).toContain('cut short');
    expect(await said(lines)).toContain('no faces');
    const broken = good.slice();
    broken.fill(0x7b, 30, 60);
    expect(await said(broken)).toContain('is damaged');
    const old = good.slice();
    old[4] = 1;
    expect(await said(old)).toContain('version 1');
    // A length alone is enough to refuse; nothing of that size is made for the test.
    const huge = new Proxy(good, { get: (t, k) => (k === 'length' ? 300 * 1048576 : Reflect.get(t, k)) });
    expect(await said(huge)).toContain('limit is 256 MB');
  });
});

describe('animation', () => {
  test('valid for the Khronos validator; baked places and morphed faces are those of their times', async () => {
    const scene = exampleScene();
    const sheet = newSurface('sheet', 'Sheet', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'plane', columns: 6, rows: 6 }),
      color: '#D8CDB6',
    });
    sheet.deformers = [deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.5 })];
    scene.surfaces.push(sheet);
    const run = scene.arrangements.find((a) => a.kind === 'run');
    if (run?.kind !== 'run') throw new Error('no run');
    run.pulley.speed = 0.5;
    run.ground = groundSchema.parse({ mode: 'land', surfaces: ['sheet'] });
    const evaluator = new Evaluator(ASSETS);
    const times = Float32Array.from([0, 0.5, 1, 1.5]);
    const results = [...times].map((t) => evaluator.evaluate(scene, undefined, t));
    const bytes = await writeAnimatedGlb(scene, { times, results }, ASSETS, { surfaces: true });
    const report = await validator.validateBytes(bytes, { maxIssues: 100 });
    expect(report.issues.messages.filter((m) => m.severity === 0)).toEqual([]);
    const root = (await io().readBinary(bytes)).getRoot();
    const channels = root.listAnimations()[0].listChannels();
    const at = scene.arrangements.indexOf(run);
    let moved = 0;
    for (const channel of channels) {
      const node = channel.getTargetNode()!;
      const output = channel.getSampler()!.getOutput()!;
      if (channel.getTargetPath() !== 'translation' || node.getParentNode()!.getName() !== run.name) continue;
      moved++;
      results.forEach((r, f) => {
        const p = r.arrangements[at].placements;
        const i = p.slot.indexOf(parseSlotName(node.getExtras().slot as string));
        if (p.state[i] !== STATE.placed) return;
        output.getElement(f, [0, 0, 0]).forEach((v, k) => expect(v).toBeCloseTo(p.position[i * 3 + k], 5));
      });
    }
    expect(moved).toBeGreaterThan(3);
    const cloth = root.listNodes().find((n) => n.getName() === 'Sheet')!;
    const [primitive] = cloth.getMesh()!.listPrimitives();
    expect(primitive.listTargets()).toHaveLength(3);
    const weights = channels
      .find((c) => c.getTargetNode() === cloth)!
      .getSampler()!
      .getOutput()!;
    expect([...weights.getArray()!]).toEqual([0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0, 1]);
    const rest = primitive.getAttribute('POSITION')!;
    const away = primitive.listTargets()[1].getAttribute('POSITION')!;
    const now = results[2].surfaces.at(-1)!.mesh!.positions;
    for (let i = 0; i < rest.getCount(); i++) {
      const [a, b] = [rest.getElement(i, [0, 0, 0]), away.getElement(i, [0, 0, 0])];
      a.forEach((v, k) => expect(v + b[k]).toBeCloseTo(now[i * 3 + k], 5));
    }
  });

  test('bent props that change their shape with what they lie on are morphed; what stays is one mesh', async () => {
    const scene = exampleScene();
    const sheet = newSurface('sheet', 'Sheet', {
      source: 'made',
      shape: shapeSchema.parse({ shape: 'plane', columns: 24, rows: 24 }),
      color: '#D8CDB6',
    });
    sheet.deformers = [deformerSchema.parse({ id: 'w', kind: 'wave', height: 0.5 })];
    scene.surfaces.push(sheet);
    const tiles = sheetSchema.parse({
      id: 'tiles',
      kind: 'sheet',
      name: 'Tiles',
      thread: 'moss',
      surface: 'sheet',
      order: { entries: [{ id: 'e', item: { kind: 'prop', prop: 'prop1' } }] },
      grid: { columns: 4, rows: 2 },
      facing: { bend: true },
    });
    scene.arrangements = [tiles];
    const evaluator = new Evaluator(ASSETS);
    const times = Float32Array.from([0, 0.5, 1]);
    const results = evaluateOver(evaluator, scene, [...times]);
    // By itself each time is sliced as finely as it asks for, and they could not be morphed into each other.
    const sizes = [...times].map((t) => {
      const { bent } = evaluator.evaluate(scene, undefined, t).arrangements[0].placements;
      return bent!.map((b) => b.positions.length);
    });
    expect(new Set(sizes.flat()).size).toBeGreaterThan(1);
    const bytes = await writeAnimatedGlb(scene, { times, results }, ASSETS, { surfaces: false });
    const report = await validator.validateBytes(bytes, { maxIssues: 100 });
    expect(report.issues.messages.filter((m) => m.severity === 0)).toEqual([]);
    const root = (await io().readBinary(bytes)).getRoot();
    const nodes = root.listNodes().filter((n) => n.getMesh());
    expect(nodes).toHaveLength(8);
    for (const node of nodes) {
      expect(node.getScale()).toEqual([1, 1, 1]);
      const [primitive] = node.getMesh()!.listPrimitives();
      const p = results[2].arrangements[0].placements;
      const row = p.slot.indexOf(parseSlotName(node.getExtras().slot as string));
      const want = p.bent![p.shape![row]].positions;
      const rest = primitive.getAttribute('POSITION')!;
      const away = primitive.listTargets()[1].getAttribute('POSITION')!;
      for (let i = 0; i < rest.getCount(); i++) {
        const [a, b] = [rest.getElement(i, [0, 0, 0]), away.getElement(i, [0, 0, 0])];
        a.forEach((v, k) => expect(v + b[k]).toBeCloseTo(want[i * 3 + k], 5));
      }
    }
    // Nothing moves: the eight of each row that are alike share what they are.
    sheet.deformers = [];
    sheet.mesh = { source: 'made', shape: shapeSchema.parse({ shape: 'sphere' }), color: '#D8CDB6' };
    const still = new Evaluator(ASSETS);
    const same = [...times].map((t) => still.evaluate(scene, undefined, t));
    const quiet = await writeAnimatedGlb(scene, { times, results: same }, ASSETS, { surfaces: false });
    const meshes = (await io().readBinary(quiet)).getRoot().listMeshes();
    expect(meshes.length).toBe(same[0].arrangements[0].placements.bent!.length);
    expect(meshes.every((m) => m.listPrimitives()[0].listTargets().length === 0)).toBe(true);
  });
});

test('nodes without a mesh come in as snap points; bones, cameras and nodes with children do not', async () => {
  const d = new Document();
  const buffer = d.createBuffer();
  const position = d
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]))
    .setBuffer(buffer);
  const mesh = d.createMesh().addPrimitive(d.createPrimitive().setAttribute('POSITION', position));
  // A quarter turn about Y: its own Z points along X.
  const eye = d.createNode('eye').setTranslation([0, 2, 0]).setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]);
  const arm = d.createNode('arm').setTranslation([1, 0, 0]).setScale([2, 2, 2]).addChild(eye);
  const camera = d.createNode('camera').setCamera(d.createCamera());
  const bone = d.createNode('bone');
  d.createSkin().addJoint(bone);
  d.createScene()
    .addChild(d.createNode('body').setMesh(mesh))
    .addChild(arm)
    .addChild(camera)
    .addChild(bone)
    .addChild(d.createNode('eye'));
  const read = await readGlb(await io().writeBinary(d), 'eyes.glb');
  expect(read.snapPoints!.map((p) => p.name)).toEqual(['eye', 'eye 2']);
  const [{ position: at, direction }] = read.snapPoints!;
  expect(at).toEqual([1, 4, 0]);
  expect(direction![0]).toBeCloseTo(1, 6);
  expect(direction![2]).toBeCloseTo(0, 6);
});
