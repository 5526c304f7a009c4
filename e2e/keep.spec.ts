import { expect, type Page } from '@playwright/test';
import {
  alerts,
  counts,
  newScene,
  openExample,
  openQuay,
  openStep,
  settled,
  type,
  undo,
} from './support/app';
import { ownTest as test } from './support/test';

const pitch = (page: Page) => page.getByLabel('Pitch', { exact: true });

test('undo and redo go by name, through every kind of change', async ({ page }) => {
  await openQuay(page);
  const top = page.getByRole('banner');
  await type(pitch(page), '2.4');
  await expect(top.getByRole('button', { name: 'Undo pitch 1.8 → 2.4' })).toBeVisible();
  await page.locator('[data-slot="3"]').click();
  await page.getByRole('button', { name: 'Hide Lamp posts' }).click();
  const name = page.getByLabel('Name of the run');
  await name.fill('Edge bollards');
  await name.press('Enter');
  const names = [
    'Quay bollards: name Quay bollards → Edge bollards',
    'Lamp posts: visible on → off',
    'remove #3',
    'pitch 1.8 → 2.4',
  ];
  for (const n of names) await top.getByRole('button', { name: `Undo ${n}` }).click();
  await settled(page);
  expect(await counts(page)).toEqual({ placed: 25, gaps: 2 });
  await expect(top.getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
  for (const n of names.toReversed()) await top.getByRole('button', { name: `Redo ${n}` }).click();
  await expect(name).toHaveValue('Edge bollards');
  await expect(pitch(page)).toHaveValue('2.40');
});

test('a reload brings everything back that was said to be saved, the undo list too', async ({ page }) => {
  await openExample(page);
  await type(pitch(page), '2.4');
  await settled(page);
  await page.reload();
  await settled(page);
  await expect(pitch(page)).toHaveValue('2.40');
  await undo(page);
  await settled(page);
  await expect(pitch(page)).toHaveValue('1.80');
  await page.goto('/');
  await page.getByRole('button', { name: 'Open Tern Quay, lantern evening', exact: true }).click();
  await settled(page);
  await expect(pitch(page)).toHaveValue('1.80');
});

test('a tab that is killed loses nothing that was said to be saved', async ({ page, context }) => {
  await openExample(page);
  const url = page.url();
  await type(pitch(page), '3');
  await settled(page);
  const next = await context.newPage();
  const session = await context.newCDPSession(page);
  const crashed = page.waitForEvent('crash');
  void session.send('Page.crash').catch(() => undefined);
  await crashed;
  await next.goto(url);
  await settled(next);
  // The dead tab does not answer, so this one holds the scene at once.
  await expect(next.getByText('open in another tab')).toHaveCount(0);
  await expect(pitch(next)).toHaveValue('3.00');
});

test('a second tab on the same scene only looks, until it takes over; then the first only looks', async ({
  page,
  context,
}) => {
  await newScene(page);
  await page.getByLabel('Scene name').fill('Shared');
  await page.keyboard.press('Enter');
  await settled(page);
  const second = await context.newPage();
  await second.goto(page.url());
  await settled(second);
  await expect(alerts(second)).toContainText('open in another tab');
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared');
  await second.getByLabel('Scene name').fill('Not this');
  await second.keyboard.press('Enter');
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared');
  // The first changes something that is not yet saved when the second takes over.
  await page.bringToFront();
  await page.getByLabel('Scene name').fill('Shared, later');
  await page.keyboard.press('Enter');
  await second.bringToFront();
  await second.getByRole('button', { name: 'Take over' }).click();
  await expect(second.getByLabel('Scene name')).toHaveValue('Shared, later');
  await expect(alerts(page)).toContainText('open in another tab');
  await second.getByLabel('Scene name').fill('From the second');
  await second.keyboard.press('Enter');
  await settled(second);
  await second.reload();
  await settled(second);
  await expect(second.getByLabel('Scene name')).toHaveValue('From the second');
});

test('when the storage is full, that is said, and nothing on the screen is lost', async ({ page }) => {
  await openExample(page);
  await page.evaluate(() => {
    IDBObjectStore.prototype.put = function full() {
      throw new DOMException('full', 'QuotaExceededError');
    };
  });
  await type(pitch(page), '2.2');
  await expect(page.getByText('Not saved', { exact: true })).toBeVisible();
  await expect(alerts(page).filter({ hasText: 'storage is full' })).toContainText(
    'Send the scene out as a .clothesline',
  );
  await expect(pitch(page)).toHaveValue('2.20');
});

test('the command list finds by words, shows keys, and runs', async ({ page }) => {
  await openExample(page);
  await page.keyboard.press('Control+k');
  const list = page.getByRole('dialog', { name: 'All commands' });
  await expect(list.getByText('Shift+Mod+Z')).toBeVisible();
  await page.getByLabel('Search the commands').fill('from top');
  await page.keyboard.press('Enter');
  await expect(page.getByRole('button', { name: 'Top', exact: true })).toHaveAttribute(
    'aria-pressed',
    'true',
  );
  await page.keyboard.press('Control+d');
  await settled(page);
  await expect(page.getByLabel('Name of the run')).toHaveValue('Quay bollards 2');
  await page.keyboard.press('Delete');
  await settled(page);
  await expect(page.getByText('Quay bollards 2')).toHaveCount(0);
});

test('several open steps, dusk, and hiding are kept apart from the undo list', async ({ page }) => {
  await openExample(page);
  await openStep(page, 'Gaps');
  await page.keyboard.press('Control+k');
  await page.getByLabel('Search the commands').fill('dusk');
  await page.keyboard.press('Enter');
  await expect(page.locator('html')).toHaveAttribute('data-theme', 'dusk');
  await expect(page.getByRole('banner').getByRole('button', { name: 'Undo', exact: true })).toBeDisabled();
});
