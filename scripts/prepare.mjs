import { existsSync, statSync } from 'node:fs';
import { spawnSync } from 'node:child_process';

/** Installs what a fresh clone is missing: the packages, and for `--browser` a Chromium for the browser tests. */

const run = (command, args) => spawnSync(command, args, { stdio: 'inherit' }).status === 0;
const stale = () =>
  !existsSync('node_modules/.package-lock.json') ||
  statSync('node_modules/.package-lock.json').mtimeMs < statSync('package-lock.json').mtimeMs;

const [major, minor] = process.versions.node.split('.').map(Number);
if (major < 20 || (major === 20 && minor < 9)) {
  console.error(`Node ${process.versions.node} is too old: version 20.9 or newer is needed.`);
  process.exit(1);
}

if (stale()) {
  console.log('Installing packages…');
  // Not `npm ci`: it refuses a lock file that names no versions of packages for other systems.
  if (!run('npm', ['install', '--no-save', '--no-audit', '--no-fund'])) process.exit(1);
}

export const chromiumPath = () =>
  process.env.CHROMIUM_PATH ??
  ['/usr/bin/chromium', '/usr/bin/chromium-browser', '/usr/bin/google-chrome'].find((p) => existsSync(p));

if (process.argv.includes('--browser') && !chromiumPath()) {
  const root = process.getuid?.() === 0;
  console.log('Installing Chromium…');
  const done =
    root && run('apt-get', ['update', '-qq']) && run('apt-get', ['install', '-y', '-qq', 'chromium']);
  if (!done || !chromiumPath()) {
    console.error(
      'Chromium is needed for the browser tests. Install it (Debian: apt-get install chromium, as root),',
    );
    console.error('or set CHROMIUM_PATH to a Chromium or Chrome, then run this again.');
    process.exit(1);
  }
}
