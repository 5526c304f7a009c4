import { defineConfig } from '@playwright/test';
import { CHROMIUM_ARGS, chromiumPath } from './scripts/chromium.mjs';

const PORT = Number(process.env.E2E_PORT ?? 4173);

/** Those that draw keep both cores busy by themselves: one at a time, so that none waits for the others. */
const DRAWN = /(develop|drawn|lamps|light|stamps|still|surround)\.spec/;

/** Browser tests drive the production build, with as many browsers side by side as pay on two cores. */
export default defineConfig({
  testDir: 'e2e',
  fullyParallel: true,
  workers: Number(process.env.E2E_WORKERS ?? 3),
  // A loaded machine may take several times as long as a free one.
  timeout: 240_000,
  // A loaded machine may drop a frame that a test waits for; a second try tells a fault from that.
  retries: process.env.CI ? 1 : 0,
  expect: { timeout: 60_000 },
  outputDir: 'test-results/browser',
  reporter: [['list'], ['json', { outputFile: 'test-results/browser.json' }]],
  use: {
    baseURL: `http://localhost:${PORT}`,
    viewport: { width: 1280, height: 800 },
    acceptDownloads: true,
    screenshot: 'only-on-failure',
    launchOptions: {
      executablePath: chromiumPath(),
      args: CHROMIUM_ARGS,
    },
  },
  projects: [
    { name: 'drawn', testMatch: DRAWN, workers: 1 },
    { name: 'undrawn', testIgnore: DRAWN },
  ],
  webServer: {
    command: `node node_modules/next/dist/bin/next start -p ${PORT}`,
    url: `http://localhost:${PORT}`,
    reuseExistingServer: !process.env.CI,
    timeout: 60_000,
  },
});
