import { expect } from '@playwright/test';
import { ownTest as test, rows } from './support/test';
test.use({ drawn: true });
test('look', async ({ page }) => {
  await page.setViewportSize({ width: 1280, height: 800 });
  await page.addInitScript(() => {
    (window as any).clothesline = { undrawn: false, develops: false };
  });
  await page.goto('/');
  await page.getByRole('button', { name: 'New scene' }).click();
  await page.getByRole('button', { name: 'Add props' }).first().click();
  for (const n of ['Rack to stock', 'Tin of tar', 'Tin', 'Jar', 'Coil of line'])
    await page.getByRole('dialog').getByRole('button', { name: n, exact: true }).click();
  await page.keyboard.press('Escape');
  await page.screenshot({ path: '/tmp/s0.png' });
  await page.getByRole('button', { name: /Rack to stock/ }).first().click();
  await page.getByRole('button', { name: 'Stock its boards' }).click();
  for (const n of ['Tin of tar', 'Tin', 'Jar', 'Coil of line']) {
    await page.getByRole('button', { name: n, exact: true }).hover();
    await page.getByRole('button', { name: `Hang ${n}`, exact: true }).click();
  }
  await page.keyboard.press('Home');
  await page.waitForTimeout(3000);
  await page.screenshot({ path: '/tmp/s1.png' });
  await page.getByRole('button', { name: /^Filling/ }).click();
  await page.getByRole('button', { name: /^Shelves/ }).click();
  await page.getByRole('radio', { name: 'Units' }).click();
  await page.waitForTimeout(1000);
  await page.screenshot({ path: '/tmp/s2.png' });
});
