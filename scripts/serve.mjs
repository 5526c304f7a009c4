import './prepare.mjs';
import { spawn } from 'node:child_process';
import { chromium } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from './chromium.mjs';

/**
 * Serves the production build and opens a browser on it, for scripts that look at the real application.
 * @param {number} port
 * @param {(browser: import('@playwright/test').Browser, base: string) => Promise<void>} work all is closed after it
 */
export async function withApplication(port, work) {
  const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(port)], {
    stdio: 'ignore',
  });
  const base = `http://localhost:${port}`;
  let browser;
  try {
    for (let i = 0; ; i++) {
      const up = await fetch(base).then(
        (r) => r.ok,
        () => false,
      );
      if (up) break;
      if (i === 150) throw new Error('The application did not start. Run "npm run build" first.');
      await new Promise((r) => setTimeout(r, 200));
    }
    browser = await chromium.launch({
      executablePath: chromiumPath(),
      args: CHROMIUM_ARGS,
    });
    await work(browser, base);
  } finally {
    await browser?.close();
    server.kill();
  }
}

/**
 * Starts a page with the harness of tests and benches.
 * @param {import('@playwright/test').Browser} browser
 * @param undrawn nothing is drawn @param develops the picture develops while nothing moves
 */
export async function harnessPage(browser, undrawn = false, develops = false) {
  const page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
  await page.addInitScript((harness) => void (window.clothesline = harness), { undrawn, develops });
  return page;
}

/**
 * Waits until the picture of the open scene has developed, or has been added up from so many frames.
 * @param {import('@playwright/test').Page} page
 */
export async function developed(page, frames = Infinity) {
  await settled(page);
  if (frames === Infinity) await page.evaluate(() => window.clothesline.developed());
  else await page.waitForFunction((n) => window.clothesline.added() >= n, frames, { timeout: 240_000 });
}

/**
 * Waits until the open scene has settled.
 * @param {import('@playwright/test').Page} page
 */
export async function settled(page) {
  await page.getByRole('application', { name: 'Scene' }).waitFor();
  await page.evaluate(() => window.clothesline.settled());
}
