import { existsSync } from 'node:fs';

/** Where Chromium is on this machine. */
export function chromiumPath(): string {
  const found = [
    process.env.CHROMIUM_PATH,
    '/usr/bin/chromium-headless-shell',
    '/usr/bin/chromium',
    '/usr/bin/chromium-browser',
    '/usr/bin/google-chrome',
  ].find((p) => p && existsSync(p));
  if (!found) throw new Error('No Chromium was found. Run "node scripts/prepare.mjs --browser" first.');
  return found;
}
