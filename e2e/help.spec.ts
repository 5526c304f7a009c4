import { expect, type Page } from '@playwright/test';
import {
  hang,
  make,
  newScene,
  openStep,
  pathByNumbers,
  rows,
  sendOut,
  settled,
  takeProps,
  type,
} from './support/app';
import { ownTest as test } from './support/test';

const helpers = async (page: Page) => {
  const names = await Promise.all(page.workers().map((w) => w.evaluate(() => self.name).catch(() => '')));
  return names.filter((name) => name === 'helper').length;
};
const isolated = (page: Page) => page.evaluate(() => crossOriginIsolated);

test('many that come to rest are shared among threads: they stand as in a page that has one thread alone', async ({
  page,
  browser,
  baseURL,
}) => {
  await newScene(page);
  expect(await isolated(page)).toBe(true);
  await make(page, 'Hills', { Width: '60', Depth: '60' });
  await pathByNumbers(page, [
    [-25, -8],
    [25, 11],
  ]);
  await takeProps(page, 'Crate');
  await hang(page, 'Crate');
  const spacing = await openStep(page, 'Spacing');
  await spacing.getByRole('radio', { name: 'Count' }).click();
  await type(spacing.getByRole('textbox', { name: 'Count' }), '300');
  const ground = await openStep(page, 'Ground');
  await ground.getByRole('radio', { name: 'Land' }).click();
  await settled(page);
  expect(await helpers(page)).toBe(0);
  await ground.getByRole('radio', { name: 'Footprint' }).click();
  await settled(page);
  const cores = await page.evaluate(() => navigator.hardwareConcurrency);
  await expect.poll(() => helpers(page)).toBe(Math.min(3, cores - 1));
  // By now they are there, and share what changes.
  const count = spacing.getByRole('textbox', { name: 'Count' });
  for (let i = 0; i < 3; i++) {
    await count.press('ArrowUp');
    await settled(page);
  }
  const shared = await rows(page);
  expect(shared.filter((r) => r.state === 'placed')).toHaveLength(303);
  // They lean by the hills, each otherwise.
  expect(new Set(shared.map((r) => r.qx.toFixed(4))).size).toBeGreaterThan(150);

  const buffer = await sendOut(page, 'clothesline');
  const alone = await browser.newPage({ baseURL });
  await alone.addInitScript(() => void (window.clothesline = { undrawn: true }));
  await alone.route('**/*', async (route) => {
    const response = await route.fetch();
    const headers = { ...response.headers(), 'cross-origin-embedder-policy': 'unsafe-none' };
    await route.fulfill({ response, headers });
  });
  await alone.goto('/');
  const name = 'hills.clothesline';
  await alone.getByLabel('Scene file').setInputFiles({ name, mimeType: 'application/zip', buffer });
  await settled(alone);
  expect(await isolated(alone)).toBe(false);
  expect(await rows(alone)).toEqual(shared);
  expect(await helpers(alone)).toBe(0);
  await alone.close();
});
