import { expect } from '@playwright/test';
import { cratesAlong, make, openStep, settled, type } from './support/app';
import { test } from './support/test';

/** What things cost, as it is told beside the scene. */

test('triangles, memory and file size, the worst first, follow the scene; a click selects', async ({
  page,
}) => {
  await cratesAlong(
    page,
    [
      [-4, 0],
      [4, 0],
    ],
    '2',
  );
  await make(page, 'Plane', { Columns: '10', Rows: '10' });
  await page.keyboard.press('Control+k');
  await page.keyboard.type('polycount');
  await page.keyboard.press('Enter');
  const panel = page.getByRole('dialog', { name: 'What things cost' });
  const surfaces = panel.getByRole('region', { name: 'Surfaces' });
  await expect(surfaces.getByRole('button')).toContainText('200');
  const arrangements = panel.getByRole('region', { name: 'Arrangements' });
  const crates = arrangements.getByRole('button', { name: /Crate/ });
  const number = async () => Number((await crates.locator('.num').innerText()).replace(/\D/g, ''));
  await expect(crates).toContainText('5 props');
  const five = await number();
  expect(five % 5).toBe(0);
  await expect(panel).toContainText(`${(five + 200).toLocaleString('en')} triangles in all`);
  await crates.click();
  await type((await openStep(page, 'Spacing')).getByLabel('Pitch', { exact: true }), '1');
  await settled(page);
  await expect(crates).toContainText('9 props');
  expect(await number()).toBe((five / 5) * 9);
  await expect(panel.getByRole('region', { name: 'Props' }).getByRole('button')).toContainText(
    'placed 9 times',
  );
  await panel.getByRole('button', { name: 'File', exact: true }).click();
  await expect(crates).toContainText('kB');
  await page.keyboard.press('Escape');
  await expect(panel).toHaveCount(0);
  // By pointer too: from what is drawn.
  await page.getByTestId('drawn').click();
  await expect(panel).toBeVisible();
});
