import { existsSync } from 'node:fs';

/** The browser of the tests and of the scripts that look at the real application. */

/** Debian's headless one: half as heavy as the whole browser. */
export const HEADLESS = '/usr/bin/chromium-headless-shell';

/** Where a Chromium is on this machine; undefined where there is none. */
export const chromiumPath = () =>
  process.env.CHROMIUM_PATH ??
  [HEADLESS, '/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((p) =>
    existsSync(p),
  );

export const CHROMIUM_ARGS = [
  '--use-angle=swiftshader',
  '--enable-unsafe-swiftshader',
  '--ignore-gpu-blocklist',
  // The page itself is put together without the software GPU, which is slower at that than the processor.
  '--disable-gpu-compositing',
  // Few cores: what runs side by side here only waits for each other.
  '--in-process-gpu',
  '--disable-features=ScriptStreaming',
  '--js-flags=--single-threaded-gc',
  '--no-sandbox',
];
