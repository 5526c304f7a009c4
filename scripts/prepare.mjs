import { existsSync, statSync } from 'node:fs';
import { spawnSync } from 'node:child_process';
import { chromiumPath, HEADLESS } from './chromium.mjs';

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

if (process.argv.includes('--browser') && !process.env.CHROMIUM_PATH && !existsSync(HEADLESS)) {
  if (process.getuid?.() === 0 && existsSync('/usr/bin/apt-get')) {
    console.log('Installing Chromium…');
    const install = (name) => run('apt-get', ['install', '-y', '-qq', name]);
    run('apt-get', ['update', '-qq']);
    // Older releases have no headless package of its own.
    if (!install('chromium-headless-shell') && !chromiumPath()) install('chromium');
  }
  if (!chromiumPath()) {
    console.error(
      'Chromium is needed for the browser tests. Install it (Debian: apt-get install chromium, as root),',
    );
    console.error('or set CHROMIUM_PATH to a Chromium or Chrome, then run this again.');
    process.exit(1);
  }
}
