import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { expect, test } from '@playwright/test';
import {
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
