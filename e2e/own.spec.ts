import { Document, WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect, type Page } from '@playwright/test';
import { encode } from 'fast-png';
import {
  alerts,
  axes,
  choose,
  clickAt,
  hang,
  newScene,
  onScreen,
  openStep,
  pathByNumbers,
  rows,
  sendOut,
  setTime,
  settled,
  takeProps,
  type,
} from './support/app';
import { boxBetween, field, posed, roomByPairs, rowsOf, together } from '@/core/testing/plumb';
import { glbOf } from './support/glb';
import { ownTest as test } from './support/test';

/** Surfaces of one's own: a grey picture as ground, and a mesh that moves by itself. */

test.beforeEach(({ page }) => newScene(page));

const give = async (page: Page, name: string, mimeType: string, bytes: Uint8Array) => {
  await page.getByLabel('File to bring in').setInputFiles({ name, mimeType, buffer: Buffer.from(bytes) });
};

test('a grey picture becomes a height field that props land on; another picture takes its place', async ({
  page,
}) => {
  // A ramp from west to east: 25 pixels, 24 m wide, so that each pixel is a metre.
  const ramp = (k: number) => Uint8Array.from({ length: 25 * 25 }, (_, i) => Math.round((i % 25) * k));
  const png = (k: number) => encode({ width: 25, height: 25, data: ramp(k), channels: 1 });
  await choose(page, 'New path or surface', 'Heights from a picture');
  await give(page, 'dunes.png', 'image/png', png(10));
  await settled(page);
  await expect(page.getByRole('button', { name: 'dunes.png' })).toBeVisible();
  await type(page.getByLabel('Black to white', { exact: true }), '5.1');
  await settled(page);
  await pathByNumbers(page, [
    [-10, 0],
    [10, 0],
  ]);
  for (const n of [1, 2]) await type(page.getByLabel(`Point ${n} Y in the list`), '0');
  await takeProps(page, 'Bollard');
  await hang(page, 'Bollard');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await type(ground.getByLabel('From above'), '20');
  await settled(page);
  const height = (x: number, k: number) => (5.1 * (x + 12) * k) / 255;
  const list = await rows(page);
  expect(list.length).toBeGreaterThan(8);
  list.forEach((r) => expect(r.y).toBeCloseTo(height(r.x, 10), 4));
  // Another picture: half as steep.
  await page.getByRole('button', { name: /^dunes Surface/ }).click();
  await page.getByRole('button', { name: 'dunes.png' }).click();
  await give(page, 'flatter.png', 'image/png', png(5));
  await settled(page);
  (await rows(page)).forEach((r) => expect(r.y).toBeCloseTo(height(r.x, 5), 4));
  // What is no picture says so.
  await page.getByRole('button', { name: 'flatter.png' }).click();
  await give(page, 'broken.png', 'image/png', png(5).subarray(0, 90));
  await expect(alerts(page)).toContainText('damaged or cut short');
});

test('a mesh with an animation plays, and what is pegged onto it goes along', async ({ page }) => {
  const d = new Document();
  const buffer = d.createBuffer();
  const floats = (kind: 'VEC3' | 'SCALAR', list: number[]) =>
    d.createAccessor().setType(kind).setArray(new Float32Array(list)).setBuffer(buffer);
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', floats('VEC3', [-3, 0, 3, 3, 0, 3, 3, 0, -3, -3, 0, -3]))
    .setIndices(
      d
        .createAccessor()
        .setType('SCALAR')
        .setArray(new Uint16Array([0, 1, 2, 0, 2, 3]))
        .setBuffer(buffer),
    )
    .addTarget(
      d
        .createPrimitiveTarget()
        .setAttribute('POSITION', floats('VEC3', [0, 0, 0, 0, 6, 0, 0, 6, 0, 0, 0, 0])),
    );
  const node = d.createNode('raft').setMesh(d.createMesh('raft').addPrimitive(primitive).setWeights([0]));
  d.createScene().addChild(node);
  const sampler = d
    .createAnimationSampler()
    .setInput(floats('SCALAR', [0, 2]))
    .setOutput(floats('SCALAR', [0, 1]));
  d.createAnimation('Heel')
    .addSampler(sampler)
    .addChannel(d.createAnimationChannel().setTargetNode(node).setTargetPath('weights').setSampler(sampler));
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await give(page, 'raft.glb', 'model/gltf-binary', await new WebIO().writeBinary(d));
  await page.getByRole('radio', { name: 'A surface' }).click();
  await expect(page.getByText('1 animation')).toBeVisible();
  await page.getByRole('button', { name: 'Put in the scene' }).click();
  await settled(page);
  await expect(page.getByRole('button', { name: 'Plays', exact: true })).toHaveText('Heel, 2 s');
  await takeProps(page, 'Crate');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await page.keyboard.press('3');
  await clickAt(page, 0.58, 0.45);
  await settled(page);
  await page.keyboard.press('Escape');
  const [before] = await rows(page);
  expect(before.y).toBeCloseTo(0, 5);
  await page.getByRole('button', { name: 'Speed and loop' }).click();
  await type(page.getByLabel('Time', { exact: true }), '1');
  await page.keyboard.press('Escape');
  await settled(page);
  const [after] = await rows(page);
  // Half way its eastern side has risen by 3 m over 6 m of width.
  expect(after.x).toBeCloseTo(before.x, 5);
  expect(after.y).toBeCloseTo((before.x + 3) * 0.5, 4);
  // Played at twice the speed it is all the way there, and begins again.
  await page.getByRole('button', { name: /^raft Surface/ }).click();
  await type(page.getByRole('region', { name: 'Animation' }).getByLabel('Speed'), '150');
  await settled(page);
  expect((await rows(page))[0].y).toBeCloseTo((before.x + 3) * 0.75, 4);
});

test('a sheet of one’s own cloth lies down on the other, and goes through it where it may', async ({
  page,
}) => {
  const cells = 8;
  const grid = (half: number, y: number, share: number, first: number) => {
    const at = Array.from({ length: (cells + 1) ** 2 }, (_, k) => [
      k % (cells + 1),
      Math.floor(k / (cells + 1)),
    ]);
    return {
      places: at.flatMap(([i, j]) => [((2 * i) / cells - 1) * half, y, ((2 * j) / cells - 1) * half]),
      uvs: at.flatMap(([i, j]) => [i, j].map((k) => 0.5 + (k / cells - 0.5) * share)),
      faces: at.flatMap(([i, j], k) =>
        i < cells && j < cells
          ? [k, k + cells + 1, k + 1, k + 1, k + cells + 1, k + cells + 2].map((v) => v + first)
          : [],
      ),
    };
  };
  // The lower one has the borders of the texture, by which it is held; the upper lies over its middle.
  const [low, high] = [grid(1, 0, 1, 0), grid(0.45, 0.4, 0.4, (cells + 1) ** 2)];
  const d = new Document();
  const buffer = d.createBuffer();
  const floats = (kind: 'VEC2' | 'VEC3', list: number[]) =>
    d.createAccessor().setType(kind).setArray(new Float32Array(list)).setBuffer(buffer);
  const faces = d
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Uint16Array([...low.faces, ...high.faces]))
    .setBuffer(buffer);
  const primitive = d
    .createPrimitive()
    .setAttribute('POSITION', floats('VEC3', [...low.places, ...high.places]))
    .setAttribute('TEXCOORD_0', floats('VEC2', [...low.uvs, ...high.uvs]))
    .setIndices(faces);
  d.createScene().addChild(d.createNode('cloths').setMesh(d.createMesh('cloths').addPrimitive(primitive)));
  await page.getByRole('button', { name: 'Bring in', exact: true }).click();
  await give(page, 'cloths.glb', 'model/gltf-binary', await new WebIO().writeBinary(d));
  await page.getByRole('radio', { name: 'A surface' }).click();
  await page.getByRole('button', { name: 'Put in the scene' }).click();
  await settled(page);
  await choose(page, 'Add a deformer', 'Cloth');
  const cloth = page.getByRole('group', { name: 'Cloth', exact: true });
  for (const side of ['v 1', 'u 0', 'u 1']) await cloth.getByRole('button', { name: `Side ${side}` }).click();
  await type(cloth.getByLabel('Wind, metres a second', { exact: true }), '0');
  await takeProps(page, 'Net float');
  await page.getByRole('button', { name: 'Top', exact: true }).click();
  await page.getByRole('button', { name: 'Fit', exact: true }).click();
  await settled(page);
  await page.keyboard.press('3');
  const on = await onScreen(page, [0.1, 0.4, 0.1]);
  await page.mouse.click(on.x, on.y);
  await settled(page);
  await page.keyboard.press('Escape');
  expect((await rows(page))[0].y).toBeCloseTo(0.4, 2);
  await setTime(page, '1.2');
  const [lies] = await rows(page);
  expect(lies.y).toBeLessThan(0.2);
  expect(lies.y).toBeGreaterThan(-0.6);
  await page.getByRole('button', { name: /^cloths Surface/ }).click();
  await cloth.getByRole('switch', { name: 'Not through itself' }).click();
  await settled(page);
  // Nothing holds it then: it has fallen by half of 9.81 times the square of the time, but for what the air takes.
  expect((await rows(page))[0].y).toBeLessThan(-2);
});

test('an own cart rests on an own ridge by its footprint: an axle and the crest carry it, and nothing enters', async ({
  page,
}) => {
  const wheels = [-1.5, 1.5].flatMap((z) =>
    [-0.8, 0.8].map((x) => boxBetween([x - 0.1, 0, z - 0.15], [x + 0.1, 0.6, z + 0.15])),
  );
  const cart = together(boxBetween([-0.7, 0.35, -1.9], [0.7, 1, 1.9]), ...wheels);
  // Its crest runs across the path, 0.8 m high.
  const ridge = field(40, 12, (x) => Math.max(0, 0.8 - Math.abs(x) * 2));
  const bringIn = async (name: string, places: Float64Array, as: string) => {
    await page.getByRole('button', { name: 'Bring in', exact: true }).click();
    await give(page, name, 'model/gltf-binary', await glbOf(places));
    const dialog = page.getByRole('dialog');
    await dialog.getByRole('radio', { name: as }).click();
    await dialog.getByRole('button', { name: /^Put in the/ }).click();
    await settled(page);
  };
  await bringIn('ridge.glb', ridge, 'A surface');
  await bringIn('cart.glb', cart, 'A prop');
  await pathByNumbers(page, [
    [-3, 0.2],
    [3, 0.2],
  ]);
  await hang(page, 'cart');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByLabel('Count', { exact: true }), '13');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land', exact: true }).click();
  await type(ground.getByLabel('From above'), '5');
  await ground.getByRole('radio', { name: 'Footprint' }).click();
  await settled(page);
  await expect(ground.getByLabel('Lean', { exact: true })).toHaveValue('100');
  const metres = Float64Array.from(Float32Array.from(ridge));
  const list = await rows(page);
  expect(list).toHaveLength(13);
  for (const r of list) {
    const stands = posed(cart, rowsOf([r.qx, r.qy, r.qz, r.qw], [r.sx, r.sy, r.sz]), [r.x, r.y, r.z]);
    expect(Math.abs(roomByPairs(stands, metres))).toBeLessThan(1e-5);
  }
  // Over the crest it is held by its belly and by the wheels of one axle: its other axle hangs.
  const over = list[6];
  expect(over.x).toBeCloseTo(0, 6);
  const { up } = axes(over);
  expect(Math.abs(up[0])).toBeGreaterThan(0.2);
  await page.keyboard.press('Control+z');
  await settled(page);
  await expect(ground.getByRole('radio', { name: 'Foot', exact: true })).toBeChecked();
  await expect(ground.getByLabel('Lean', { exact: true })).toHaveValue('0');
});

test('the look of an own mesh goes out as it came in: holes, relief and picture, once for all its bent places', async ({
  page,
}) => {
  const pixels = (channels: 3 | 4) =>
    encode({ width: 4, height: 4, channels, data: new Uint8Array(16 * channels).map((_, i) => i * 3) });
  const d = new Document();
  const buffer = d.createBuffer();
  const accessor = (type: 'VEC2' | 'VEC3', list: number[]) =>
    d.createAccessor().setType(type).setArray(new Float32Array(list)).setBuffer(buffer);
  const picture = (channels: 3 | 4) => d.createTexture().setImage(pixels(channels)).setMimeType('image/png');
  const net = d
    .createMaterial('net')
    .setAlphaMode('MASK')
    .setAlphaCutoff(0.4)
    .setBaseColorTexture(picture(4))
    .setNormalTexture(picture(3))
    .setNormalScale(0.7)
    .setDoubleSided(true);
  net.getBaseColorTextureInfo()!.setWrapS(33071);
  const primitive = d
    .createPrimitive()
    .setAttribute(
      'POSITION',
      accessor('VEC3', [0, 0, -0.5, 0, 0, 0.5, 0, 1, 0.5, 0, 0, -0.5, 0, 1, 0.5, 0, 1, -0.5]),
    )
    .setAttribute('TEXCOORD_0', accessor('VEC2', [0, 1, 1, 1, 1, 0, 0, 1, 1, 0, 0, 0]))
    .setMaterial(net);
  const camera = d.createNode().setCamera(d.createCamera().setType('perspective').setYFov(1).setZNear(0.1));
  d.createScene()
    .addChild(d.createNode().setMesh(d.createMesh().addPrimitive(primitive)))
    .addChild(camera);
  await page.getByRole('button', { name: 'Bring in' }).click();
  await give(page, 'net.glb', 'model/gltf-binary', await new WebIO().writeBinary(d));
  await expect(page.getByText('Not kept: cameras. Everything else comes in.')).toBeVisible();
  await page.getByRole('button', { name: 'Put in the basket' }).click();
  await choose(page, 'New path or surface', 'Circle');
  await hang(page, 'net');
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await settled(page);
  const placed = (await rows(page)).length;
  expect(placed).toBeGreaterThan(5);
  const root = (
    await new WebIO()
      .registerExtensions(ALL_EXTENSIONS)
      .readBinary(new Uint8Array(await sendOut(page, 'glb')))
  ).getRoot();
  const nets = root.listMaterials().filter((m) => m.getName() === 'net');
  expect(nets).toHaveLength(1);
  const [out] = nets;
  expect([out.getAlphaMode(), out.getAlphaCutoff(), out.getNormalScale(), out.getDoubleSided()]).toEqual([
    'MASK',
    expect.closeTo(0.4, 6),
    expect.closeTo(0.7, 6),
    true,
  ]);
  expect(out.getBaseColorTextureInfo()!.getWrapS()).toBe(33071);
  expect([...out.getBaseColorTexture()!.getImage()!]).toEqual([...pixels(4)]);
  expect([...out.getNormalTexture()!.getImage()!]).toEqual([...pixels(3)]);
  expect(root.listTextures()).toHaveLength(2);
});
