import { expect, type Page } from '@playwright/test';
import { drawPath, hang, newScene, openExample, openStep, settled, takeProps, type } from './support/app';
import { test } from './support/test';

/** Whatever is typed, the scene is still there after a reload. */

/** Every number field of the screen, found by what it is: a text box that takes measures. */
const fields = (page: Page) =>
  page.getByLabel('Recipe', { exact: true }).locator('input[data-clean]:visible:enabled');

async function openAll(page: Page): Promise<void> {
  const closed = page
    .getByLabel('Recipe', { exact: true })
    .locator('section button[aria-expanded="false"]:not([aria-haspopup])');
  while ((await closed.count()) > 0) await closed.first().click();
}

test('a number beyond its bounds is held, and that is said beside the field; a word is no number', async ({
  page,
}) => {
  await newScene(page);
  await drawPath(page, [
    [0.3, 0.5],
    [0.7, 0.5],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Divide' }).click();
  await type(spacing.getByRole('textbox', { name: 'Parts' }), '0');
  await expect(spacing.getByRole('status').filter({ hasText: 'Held to 1' })).toBeVisible();
  await expect(spacing.getByRole('textbox', { name: 'Parts' })).toHaveValue('1');
  await type(spacing.getByRole('textbox', { name: 'Parts' }), 'abc');
  await expect(spacing.getByText('Type a number, e.g. 1.8, 40 cm, 2.4/3')).toBeVisible();
  await page.keyboard.press('Escape');
  await type(spacing.getByRole('textbox', { name: 'Parts' }), '6');
  await expect(spacing.getByText(/^Held to/)).toHaveCount(0);
});

for (const [example, nodes] of [
  ['Rope fence', ['Tufts along', 'Upper rails Spans', 'Fence line Path', 'Dunes Surface']],
  ['Tiles of the beacon', ['Tiles, rigid Sheet']],
  ['Ferry loop', ['Cargo Riders', 'Mooring rings Pegs']],
] as const)
  // Proving, every node; otherwise one of a run and one of riders, with every field that it has.
  for (const node of process.env.PROVE ? nodes : example === 'Tiles of the beacon' ? [] : nodes.slice(0, 1))
    test(`0, −1, 1e16 and words in every number of ${node}: after a reload the scene is there`, async ({
      page,
    }) => {
      test.slow();
      await openExample(page, example);
      const button = page.getByRole('button', { name: new RegExp(`^${node}`) }).first();
      if ((await button.count()) === 0) throw new Error(`There is no ${node} in ${example}.`);
      await button.click();
      await openAll(page);
      const count = await fields(page).count();
      expect(count).toBeGreaterThan(2);
      // Proving, every word in every field; otherwise each field gets one, and its neighbours the others.
      const texts = ['0', '-1', '1e16', 'abc'];
      for (let n = 0; n < (process.env.PROVE ? texts.length : 1); n++)
        for (let i = 0; i < (await fields(page).count()); i++) {
          const field = fields(page).nth(i);
          await field.fill(texts[(i + n) % texts.length]);
          await field.press('Enter');
          // A word stays in the field until it is given up.
          if (texts[(i + n) % texts.length] === 'abc') await field.press('Escape');
        }
      await settled(page);
      await page.reload();
      await settled(page);
      await expect(page.getByRole('heading', { name: 'The scene cannot be opened' })).toHaveCount(0);
      await expect(page.getByText(/^Mended so that it opens/)).toHaveCount(0);
      await expect(button).toBeVisible();
    });
