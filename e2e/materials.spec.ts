import { expect, type Page } from '@playwright/test';
import { WebIO } from '@gltf-transform/core';
import { ALL_EXTENSIONS } from '@gltf-transform/extensions';
import { encode } from 'fast-png';
import { unzipSync } from 'fflate';
import {
  choose,
  hang,
  make,
  newScene,
  openStep,
  pathByNumbers,
  pickOption,
  sendOut,
  takeProps,
  type,
  undo,
} from './support/app';
import { command } from './support/pixels';
import { test } from './support/test';

/** Materials made by hand, by the files that a scene is sent out as. */

const panelOf = (page: Page) => page.getByRole('dialog', { name: 'Materials' });

/** By node: what it wears, as a file has it. */
async function worn(
  page: Page,
): Promise<Record<string, { name: string; color: number[]; metal: number; picture: boolean }>> {
  const bytes = await sendOut(page, 'glb', async () => {
    const surfaces = page.getByRole('dialog').getByLabel(/surfaces/i);
    if (!(await surfaces.isChecked())) await surfaces.click();
  });
  const root = (
    await new WebIO().registerExtensions(ALL_EXTENSIONS).readBinary(new Uint8Array(bytes))
  ).getRoot();
  const nodes = root.listNodes().filter((n) => n.getMesh());
  return Object.fromEntries(
    nodes.map((n) => {
      const m = n.getMesh()!.listPrimitives()[0].getMaterial()!;
      const color = m.getBaseColorFactor().slice(0, 3);
      const picture = m.getBaseColorTexture() !== null;
      return [n.getName(), { name: m.getName(), color, metal: m.getMetallicFactor(), picture }];
    }),
  );
}
const kept = async (page: Page) =>
  JSON.parse(new TextDecoder().decode(unzipSync(await sendOut(page, 'clothesline'))['scene.json']));

async function twoRows(page: Page): Promise<void> {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel');
  await pathByNumbers(page, [
    [-2, 0],
    [2, 0],
  ]);
  await hang(page, 'Crate');
  await page.getByRole('button', { name: /^Path/ }).first().click();
  await hang(page, 'Barrel');
}

test('a prop, an arrangement and a surface wear a material by its name; changed once, it is another on all', async ({
  page,
}) => {
  await twoRows(page);
  await page.getByRole('button', { name: /^Crate Run/ }).click();
  const before = await worn(page);
  expect(before.Crate.metal).toBe(0);
  await choose(page, 'More for this run', 'Give it a material');
  const panel = panelOf(page);
  await expect(panel.getByText('Worn by Crate')).toBeVisible();
  const step = await openStep(page, 'Material');
  await choose(page, step.getByRole('button', { name: 'New material' }), 'Brass');
  await expect(panel.getByText('Worn by Crate')).toBeVisible();
  await expect(page.getByRole('region', { name: 'Material', exact: true })).toContainText('Brass');
  // By keyboard: the number, and its steps.
  await panel.getByLabel('Metal').focus();
  await page.keyboard.press('ArrowDown');
  await expect(panel.getByLabel('Metal')).toHaveValue('95');
  await type(panel.getByLabel('Metal'), '100');
  await type(panel.getByLabel('Name'), 'Old brass');
  await make(page, 'Plane');
  await pickOption(page, page, 'Worn material', 'Old brass');
  let now = await worn(page);
  expect(now.Crate).toMatchObject({ name: 'Old brass', metal: 1 });
  expect(now.Plane).toMatchObject({ name: 'Old brass', metal: 1 });
  expect(now.Barrel).toEqual(before.Barrel);

  await command(page, 'shader texture');
  await panel.getByLabel('Colour of the material').fill('#ff0000');
  now = await worn(page);
  expect([now.Crate.color, now.Plane.color]).toEqual([
    [1, 0, 0],
    [1, 0, 0],
  ]);
  // A number that is none is told, and nothing is lost.
  await command(page, 'shader texture');
  await type(panel.getByLabel('Roughness'), '900');
  await expect(panel.getByLabel('Roughness')).toHaveValue('100');
  await panel.getByRole('button', { name: 'Remove Old brass' }).click();
  expect(await worn(page)).toMatchObject({ Crate: before.Crate });
  await undo(page);
  expect((await worn(page)).Crate.name).toBe('Old brass');
});

test('a prop of the basket wears a picture and glows; copies that are pasted elsewhere bring their material', async ({
  page,
}) => {
  await twoRows(page);
  await page.getByRole('button', { name: 'Barrel', exact: true }).click();
  await choose(page, 'New material', 'Paint');
  const panel = panelOf(page);
  const picture = encode({ width: 4, height: 4, data: new Uint8Array(64).fill(180), channels: 4 });
  await panel
    .getByLabel('Picture of the material')
    .setInputFiles({ name: 'planks.png', mimeType: 'image/png', buffer: Buffer.from(picture) });
  await expect(panel.getByRole('button', { name: 'planks.png' })).toBeVisible();
  await type(panel.getByLabel('Times along u'), '3');
  await panel.getByRole('switch', { name: 'Glows' }).click();
  await panel.getByLabel('Picture of the material').setInputFiles({
    name: 'none.png',
    mimeType: 'image/png',
    buffer: Buffer.from('nothing'),
  });
  await expect(page.getByText(/“none.png” is not a PNG picture/)).toBeVisible();
  const { materials, props } = await kept(page);
  expect(materials).toMatchObject([
    { name: 'Paint', repeatU: 3, picture: { fileName: 'planks.png' }, glow: { color: '#ffb765' } },
  ]);
  expect(props.map((p: { material: string | null }) => p.material)).toEqual([null, materials[0].id]);

  await page.getByRole('button', { name: /^Barrel Run/ }).click();
  await page.keyboard.press('Control+c');
  await expect(page.getByText(/copied/)).toBeVisible();
  await newScene(page);
  await page.keyboard.press('Control+v');
  await expect(page.getByRole('button', { name: /^Barrel Run/ })).toBeVisible();
  const there = await kept(page);
  expect(there.materials).toHaveLength(1);
  expect(there.props[0].material).toBe(there.materials[0].id);
  const zip = unzipSync(await sendOut(page, 'clothesline'));
  expect(zip[`meshes/${there.materials[0].picture.hash}.png`]).toEqual(picture);
});
