import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect } from '@playwright/test';
import {
  axes,
  choose,
  hang,
  newScene,
  openStep,
  pathByNumbers,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
} from './support/app';
import { test } from './support/test';
import { standing, type P3 } from './support/glb';
import { hangOnLine, laySheet } from './support/sheets';

/** Props bent along their path. */

test('rails bent round a circle lie on it with their whole length, and are sent out so, each shape once', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Circle');
  await settled(page);
  await type(page.getByLabel('Radius', { exact: true }), '3');
  for (const axis of ['X', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  await takeProps(page, 'Rail');
  await hang(page, 'Rail');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Touch' }).click();
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await settled(page);
  const list = await rows(page);
  // Along the arc, not by chords: as many as the round has room for.
  expect(list.length).toBe(Math.round((2 * Math.PI * 3) / 1.6));
  expect(list[0].sz * 1.6 * list.length).toBeCloseTo(2 * Math.PI * 3, 3);
  const out = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(await sendOut(page, 'glb'));
  const meshes = out.getRoot().listMeshes();
  expect(meshes.length).toBe(1);
  expect(meshes[0].getName()).toBe('Rail, bent');
  // Every vertex of the shape, put in the first rail's place, is near the circle, to the rail's own width.
  const position = meshes[0].listPrimitives().map((p) => p.getAttribute('POSITION')!);
  const { x, z, qx, qy, qz, qw } = list[0];
  let [inner, outer] = [Infinity, 0];
  for (const accessor of position)
    for (let i = 0; i < accessor.getCount(); i++) {
      const [a, b, c] = accessor.getElement(i, [] as number[]);
      const [u, v, w] = [2 * (qy * c - qz * b), 2 * (qz * a - qx * c), 2 * (qx * b - qy * a)];
      const r = Math.hypot(x + a + qw * u + qy * w - qz * v, z + c + qw * w + qx * v - qy * u);
      inner = Math.min(inner, r);
      outer = Math.max(outer, r);
    }
  expect(outer - inner).toBeLessThan(0.14);
  expect((outer + inner) / 2).toBeCloseTo(3, 2);

  // Rigid again they sit on chords.
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await settled(page);
  const rigid = await rows(page);
  expect(rigid[0].sz * 1.6).toBeCloseTo(2 * 3 * Math.sin(Math.PI / rigid.length), 4);
});

test('an open end is filled with a rail that is cut there; over a corner one is mitred', async ({ page }) => {
  await newScene(page);
  await pathByNumbers(page, [
    [-3, 0],
    [2, 0],
    [2, 4.4],
  ]);
  for (const n of [1, 2, 3]) {
    await page.getByRole('button', { name: `Select point ${n}` }).click();
    await page.getByRole('radio', { name: 'Corner', exact: true }).click();
  }
  await takeProps(page, 'Rail');
  await hang(page, 'Rail');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Touch' }).click();
  await spacing.getByRole('radio', { name: 'At end' }).click();
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await settled(page);
  // 9.4 m of path hold five rails of 1.6 m, and 1.4 m are left.
  expect((await rows(page)).length).toBe(5);
  await facing.getByRole('switch', { name: 'Fill the end' }).click();
  await facing.getByRole('radio', { name: 'Mitred' }).click();
  await settled(page);
  expect((await rows(page)).length).toBe(6);
  const out = await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(await sendOut(page, 'glb'));
  const names = out
    .getRoot()
    .listMeshes()
    .map((m) => m.getName());
  // Straight rails are the rail itself; the mitred one and the cut one are shapes of their own.
  expect(names.sort()).toEqual(['Rail', 'Rail, bent', 'Rail, bent']);
});

test('a band round a closed rounded path lies on it all the way, however finely its length is divided', async ({
  page,
}) => {
  await newScene(page);
  await choose(page, 'New path or surface', 'Rounded rectangle');
  await settled(page);
  for (const axis of ['X', 'Z']) await type(page.getByLabel(`Position ${axis}`, { exact: true }), '0');
  for (const [label, value] of [
    ['Width', '5'],
    ['Depth', '3'],
    ['Fillet', '1'],
  ])
    await type(page.getByLabel(label, { exact: true }), value);
  await takeProps(page, 'Rail');
  await hang(page, 'Rail');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Touch' }).click();
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await type(facing.getByLabel('To within', { exact: true }), '0.001');
  await settled(page);
  const round = 2 * 3 + 2 * 1 + 2 * Math.PI;
  const list = await rows(page);
  expect(list.length).toBe(Math.round(round / 1.6));
  expect(list.reduce((sum, r) => sum + r.sz * 1.6, 0)).toBeCloseTo(round, 3);
  /** How far outside the rounded rectangle a place is: straight to its sides, or to the corners' middles. */
  const outside = ([x, , z]: P3) => {
    const [dx, dz] = [Math.abs(x) - 1.5, Math.abs(z) - 0.5];
    return Math.hypot(Math.max(dx, 0), Math.max(dz, 0)) + Math.min(Math.max(dx, dz), 0) - 1;
  };
  const rails = (await standing(await sendOut(page, 'glb'))).filter((s) => s.mesh.startsWith('Rail'));
  expect(rails.length).toBe(list.length);
  // A rail is 0.06 m wide: its sides run along the path, round the corners too.
  for (const { points } of rails) {
    const off = points.map(outside);
    expect(Math.max(...off)).toBeCloseTo(0.03, 3);
    expect(Math.min(...off)).toBeCloseTo(-0.03, 3);
  }
  // Round a corner of a radius of a metre a millimetre is kept by pieces of 0.09 m; a straight rail has none.
  const vertices = rails.map((s) => s.points.length);
  expect(Math.max(...vertices)).toBeGreaterThan(4 * Math.min(...vertices));
});

test('rails along a line over a ball, bent, stand square to it with their whole length', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Rail');
  await choose(page, 'New path or surface', 'Sphere');
  await settled(page);
  for (const [label, value] of [
    ['Position X', '0'],
    ['Position Y', '0'],
    ['Position Z', '0'],
    ['Radius', '3'],
    ['Columns', '128'],
    ['Rows', '64'],
  ])
    await type(page.getByLabel(label, { exact: true }), value);
  await laySheet(page, 'Sphere');
  await hangOnLine(page, 'Rail', [
    [0.42, 0.3],
    [0.58, 0.45],
  ]);
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Touch' }).click();
  const facing = await openStep(page, 'Facing');
  await facing.getByRole('radio', { name: 'Surface', exact: true }).click();
  await facing.getByRole('switch', { name: 'Bent' }).click();
  await settled(page);
  const list = (await rows(page)).filter((r) => r.state === 'placed');
  expect(list.length).toBeGreaterThan(2);
  for (const r of list) {
    const far = Math.hypot(r.x, r.y, r.z);
    [r.x, r.y, r.z].forEach((v, k) => expect(axes(r).up[k]).toBeCloseTo(v / far, 1));
  }
  const rails = (await standing(await sendOut(page, 'glb'))).filter((s) => s.mesh.startsWith('Rail'));
  // From the ball up to the rail's height of 0.09 m, wherever along it.
  for (const { points } of rails) {
    const far = points.map((p) => Math.hypot(...p) - 3);
    expect(Math.abs(Math.min(...far))).toBeLessThan(0.003);
    expect(Math.abs(Math.max(...far) - 0.09)).toBeLessThan(0.003);
  }
});
