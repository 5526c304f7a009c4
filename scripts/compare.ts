import { execFileSync } from 'node:child_process';
import { existsSync, mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import { slotsThatDiffer } from '@/core/testing/slots';

/**
 * Holds what every example comes to against another revision: the same slots, states and reasons, and numbers that
 * are equal, or within 1e-12 of each other's size.
 *
 *   npm run compare -- <revision> [<example> …]
 */

const [revision, ...only] = process.argv.slice(2);
if (!revision) throw new Error('Say which revision to compare with: npm run compare -- <revision>');

const TIMES = [0, 1.7];
const examples = readdirSync('examples')
  .filter((f) => f.endsWith('.clothesline'))
  .filter((f) => only.length === 0 || only.some((name) => f.startsWith(name)));

const csv = (root: string, example: string, time: number) =>
  execFileSync(
    process.execPath,
    [
      'node_modules/.bin/tsx',
      'src/cli/main.ts',
      join('examples', example),
      '--out',
      '-',
      '--gaps',
      '--time',
      `${time}`,
    ],
    { cwd: root, encoding: 'utf8', maxBuffer: 1 << 30, stdio: ['ignore', 'pipe', 'ignore'] },
  );
const tree = mkdtempSync(join(tmpdir(), 'compare-'));
execFileSync('git', ['worktree', 'add', '--detach', '--force', tree, revision], { stdio: 'ignore' });
symlinkSync(resolve('node_modules'), join(tree, 'node_modules'));
let any = false;
try {
  for (const example of examples)
    for (const time of TIMES) {
      if (!existsSync(join(tree, 'examples', example))) {
        console.log(`new   ${example}`);
        break;
      }
      const { differ, worst, count } = slotsThatDiffer(csv(tree, example, time), csv('.', example, time));
      any ||= differ.length > 0;
      const word = differ.length > 0 ? 'DIFFERS' : 'same';
      console.log(`${word}  ${example} at ${time} s: ${count} rows, at most ${worst} off ${differ[0] ?? ''}`);
    }
} finally {
  execFileSync('git', ['worktree', 'remove', '--force', tree], { stdio: 'ignore' });
  rmSync(tree, { recursive: true, force: true });
}
process.exitCode = any ? 1 : 0;
