import { spawn, type ChildProcess } from 'node:child_process';
import { existsSync } from 'node:fs';
import { createServer, type AddressInfo } from 'node:net';
import type { Page } from 'playwright-core';
import { CHROMIUM_ARGS, chromiumPath } from '../../scripts/chromium.mjs';

/** Still pictures from a shell: made by the application's own page, in a browser without a window. */

export interface WantedStill {
  /** Name of a viewpoint; absent: the view that the scene was left in. */
  view?: string;
  /** Longer side, pixels. */
  size: number;
  /** Frames that are added up; null: until it is quiet. */
  frames: number | null;
  background: 'scene' | 'transparent' | 'plain';
  color: string;
  format: 'png8' | 'png16' | 'exr';
  /** Seconds. */
  time: number;
}

/** Of the page, pixels: wide enough that nothing of the interface is folded away. */
const WINDOW = { width: 1280, height: 800 };
const START_MS = 60_000;

/**
 * Makes a still picture of a scene file.
 * @throws Error with a sentence where there is no browser or no built application, or the page refuses it
 */
export async function stillOf(path: string, wanted: WantedStill): Promise<Uint8Array> {
  const executablePath = chromiumPath() as string | undefined;
  if (!executablePath)
    throw new Error(
      'Pictures are drawn by Chromium, which is not on this machine. Install it (apt-get install -y chromium), or say where it is by CHROMIUM_PATH.',
    );
  if (!existsSync('.next/BUILD_ID'))
    throw new Error(
      'Pictures are drawn by the built application. Run "npm run build" once, then this again.',
    );
  const { chromium } = await import('playwright-core');
  const { server, base } = await serve();
  const browser = await chromium.launch({ executablePath, args: CHROMIUM_ARGS });
  try {
    const page = await browser.newPage({ viewport: WINDOW });
    await page.addInitScript(() => void (window.clothesline = { undrawn: false, develops: false }));
    await page.goto(base);
    await page.getByLabel('Scene file').setInputFiles(path);
    return await make(page, wanted);
  } finally {
    await browser.close();
    server.kill();
  }
}

async function make(page: Page, { view, time, ...choices }: WantedStill): Promise<Uint8Array> {
  page.setDefaultTimeout(0);
  await page.getByRole('application', { name: 'Scene' }).waitFor({ timeout: START_MS });
  await page.evaluate(() => window.clothesline!.settled!());
  const { ok, text } = await page.evaluate(
    ([name, seconds, how]) => window.clothesline!.still!(name, seconds, how),
    [view ?? null, time, choices] as const,
  );
  if (!ok) throw new Error(text);
  return new Uint8Array(Buffer.from(text, 'base64'));
}

/** Starts the built application on a port that is free. */
async function serve(): Promise<{ server: ChildProcess; base: string }> {
  const port = await new Promise<number>((done) => {
    const probe = createServer().listen(0, () => {
      const { port: free } = probe.address() as AddressInfo;
      probe.close(() => done(free));
    });
  });
  const server = spawn(process.execPath, ['node_modules/next/dist/bin/next', 'start', '-p', String(port)], {
    stdio: 'ignore',
  });
  const base = `http://localhost:${port}`;
  for (const until = Date.now() + START_MS; Date.now() < until;) {
    const up = await fetch(base).then(
      (r) => r.ok,
      () => false,
    );
    if (up) return { server, base };
    await new Promise((done) => setTimeout(done, 200));
  }
  server.kill();
  throw new Error('The application did not start within a minute. Run "npm run build", then this again.');
}
