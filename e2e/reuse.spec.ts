import { expect } from '@playwright/test';
import {
  newScene,
  openStep,
  pathByNumbers,
  hang,
  rows,
  scene,
  settled,
  takeProps,
  type,
  undo,
} from './support/app';
import { test } from './support/test';

/** Recipes that several runs share, and groups of the basket dropped and swapped as one. */

const lines = async (page: Parameters<typeof rows>[0]) => {
  await pathByNumbers(page, [
    [-4, 0],
    [4, 0],
  ]);
};

test('runs that share one recipe change together, each on its own path, until one leaves', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel');
  await lines(page);
  await hang(page, 'Crate');
  await pathByNumbers(page, [
    [-4, 3],
    [2, 3],
  ]);
  await hang(page, 'Barrel');
  const row = (name: string) =>
    page.getByRole('region', { name: 'Contents' }).getByRole('button', { name: new RegExp(`^${name} Run`) });
  await row('Barrel').click();
  await row('Crate').click({ modifiers: ['Control'] });
  await page.getByRole('button', { name: 'Share one recipe' }).click();
  await settled(page);
  const of = async (name: string) => (await rows(page)).filter((r) => r.arrangement === name);
  // Both hang crates now, each along its own line.
  expect(new Set((await rows(page)).map((r) => r.prop))).toEqual(new Set(['Crate']));
  await row('Barrel').click();
  await expect(page.getByText('One recipe with Crate')).toBeVisible();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '2');
  await settled(page);
  expect((await of('Crate')).map((r) => Number(r.x.toFixed(6)))).toEqual([-4, -2, 0, 2, 4]);
  expect((await of('Barrel')).map((r) => Number(r.x.toFixed(6)))).toEqual([-4, -2, 0, 2]);
  await undo(page);
  await settled(page);
  expect((await of('Crate')).length).toBeGreaterThan(5);
  await page.getByRole('button', { name: 'Leave it' }).click();
  await type(page.getByRole('region', { name: 'Spacing' }).getByLabel('Pitch', { exact: true }), '3');
  await settled(page);
  expect((await of('Barrel')).length).toBe(3);
  expect((await of('Crate')).length).toBeGreaterThan(5);
});

test('a group of the basket is dropped as one mix, and another group takes all of its places', async ({
  page,
}) => {
  await newScene(page);
  await takeProps(page, 'Crate', 'Barrel', 'Tin', 'Jar');
  await lines(page);
  const basket = page.getByRole('region', { name: 'Basket' });
  const group = async (names: string[], title: string) => {
    await basket.getByRole('button', { name: names[0], exact: true }).click();
    await basket.getByRole('button', { name: names[1], exact: true }).click({ modifiers: ['Control'] });
    await page.keyboard.press('Control+g');
    await page.getByLabel(/^Name of the group/).fill(title);
    await page.keyboard.press('Enter');
  };
  await group(['Crate', 'Barrel'], 'Large');
  await group(['Tin', 'Jar'], 'Small');
  const head = (await basket.getByRole('button', { name: /^Large ·/ }).boundingBox())!;
  const to = (await scene(page).boundingBox())!;
  await page.mouse.move(head.x + 20, head.y + 8);
  await page.mouse.down();
  await page.mouse.move(head.x + 60, head.y - 40, { steps: 4 });
  await page.mouse.move(to.x + to.width * 0.5, to.y + to.height * 0.5, { steps: 6 });
  await page.mouse.up();
  await settled(page);
  const mixed = await rows(page);
  expect(new Set(mixed.map((r) => r.prop))).toEqual(new Set(['Crate', 'Barrel']));
  await basket.getByRole('button', { name: /^Large ·/ }).click({ button: 'right' });
  await page.getByRole('menuitem', { name: 'Small', exact: true }).click();
  await settled(page);
  const swapped = await rows(page);
  expect(new Set(swapped.map((r) => r.prop))).toEqual(new Set(['Tin', 'Jar']));
  await undo(page);
  await settled(page);
  expect(await rows(page)).toEqual(mixed);
});

test('a chosen few settings stand on top by names of one’s own, and work from there', async ({ page }) => {
  await newScene(page);
  await takeProps(page, 'Crate');
  await lines(page);
  await hang(page, 'Crate');
  await page.keyboard.press('Control+k');
  await page.keyboard.type('pin own names');
  await page.keyboard.press('Enter');
  const dialog = page.getByRole('dialog', { name: /^On top of/ });
  await dialog.getByRole('textbox', { name: 'Search settings' }).fill('pitch');
  await dialog.getByRole('switch', { name: 'Pitch', exact: true }).click();
  await type(dialog.getByRole('textbox', { name: 'Pitch is called' }), 'How far apart');
  await dialog.getByRole('textbox', { name: 'Search settings' }).fill('turn');
  await dialog.getByRole('switch', { name: 'Turn', exact: true }).last().click();
  await dialog.getByRole('textbox', { name: 'Search settings' }).fill('chance');
  await dialog.getByRole('switch', { name: 'Chance', exact: true }).click();
  await page.keyboard.press('Escape');
  const top = page.getByRole('group', { name: 'On top' });
  await type(top.getByLabel('How far apart', { exact: true }), '2');
  await settled(page);
  expect((await rows(page)).map((r) => Number(r.x.toFixed(6)))).toEqual([-4, -2, 0, 2, 4]);
  await type(top.getByRole('textbox', { name: 'Turn, most' }), '90');
  await settled(page);
  expect(new Set((await rows(page)).map((r) => r.qy.toFixed(4))).size).toBe(5);
  // Held to the bounds that it has in its own step.
  await type(top.getByLabel('Chance', { exact: true }), '250');
  await expect(top.getByText('Held to 100')).toBeVisible();
  await settled(page);
  expect(new Set((await rows(page)).map((r) => r.reason))).toEqual(new Set(['chance']));
  await top.getByRole('button', { name: 'Take “How far apart” off the top' }).click();
  await expect(top.getByLabel('How far apart', { exact: true })).toHaveCount(0);
  await undo(page);
  await expect(top.getByLabel('How far apart', { exact: true })).toHaveCount(1);
});
