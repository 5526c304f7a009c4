import './prepare.mjs';
import { spawn } from 'node:child_process';
import { mkdirSync } from 'node:fs';
import { chromium } from '@playwright/test';
import { chromiumPath } from './prepare.mjs';

/** Takes the pictures in docs/screenshots, and the example's picture for the start page, from the demo data. */

const PORT = 4188;
const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(PORT)], {
  stdio: 'ignore',
});
const base = `http://localhost:${PORT}`;
for (let i = 0; i < 100; i++) {
  if (
    await fetch(base).then(
      (r) => r.ok,
      () => false,
    )
  )
    break;
  await new Promise((r) => setTimeout(r, 200));
}
const browser = await chromium.launch({
  executablePath: chromiumPath(),
  args: ['--use-angle=swiftshader', '--enable-unsafe-swiftshader', '--ignore-gpu-blocklist', '--no-sandbox'],
});
mkdirSync('docs/screenshots', { recursive: true });
mkdirSync('public/examples', { recursive: true });
const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
const settled = async () => {
  await page.waitForTimeout(200);
  await page.waitForSelector('[aria-label="Scene"][data-settled="true"]', { timeout: 60000 });
};
const shot = (name) => page.screenshot({ path: `docs/screenshots/${name}.png` });

await page.goto(base);
await page.getByRole('button', { name: /Open the example Tern Quay/ }).click();
await settled();

// The example's own picture: the scene alone, nothing selected.
await page.keyboard.press('Escape');
await settled();
await page.evaluate(() =>
  document
    .querySelectorAll('[aria-label="Scene"] > :not(:first-child)')
    .forEach((e) => (e.style.visibility = 'hidden')),
);
await page
  .locator('[aria-label="Scene"]')
  .screenshot({ path: 'public/examples/tern-quay.jpg', type: 'jpeg', quality: 82 });
await page.reload();
await settled();

await page.getByRole('button', { name: 'Point 4', exact: true }).click();
await page.locator('[data-slot="13"]').hover();
await settled();
await shot('main');

await page.keyboard.press('Escape');
await page.getByRole('button', { name: 'Send out' }).first().click();
await page.waitForTimeout(400);
await shot('send-out');
await page.keyboard.press('Escape');

await page.getByRole('button', { name: 'Add props' }).click();
await settled();
await shot('library');
await page.keyboard.press('Escape');

await page.getByRole('link', { name: 'Scenes', exact: true }).click();
await page.getByRole('button', { name: 'New scene' }).waitFor();
await page.waitForTimeout(1200);
await shot('start');

await browser.close();
server.kill();
