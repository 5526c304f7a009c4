import { execFileSync } from 'node:child_process';
import { mkdtempSync, readdirSync, rmSync, symlinkSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join, resolve } from 'node:path';
import Papa from 'papaparse';

/**
 * Holds what every example comes to against another revision: the same slots, states and reasons, and numbers that
 * are equal, or within 1e-12 of each other's size.
 *
 *   npm run compare -- <revision> [<example> …]
 */

const [revision, ...only] = process.argv.slice(2);
if (!revision) throw new Error('Say which revision to compare with: npm run compare -- <revision>');

const TIMES = [0, 1.7];
const NUMBERS = new Set(['x', 'y', 'z', 'qx', 'qy', 'qz', 'qw', 'sx', 'sy', 'sz', 's', 'u', 'v']);
const examples = readdirSync('examples')
  .filter((f) => f.endsWith('.clothesline'))
  .filter((f) => only.length === 0 || only.some((name) => f.startsWith(name)));

const csv = (root: string, example: string, time: number) =>
  execFileSync(
    process.execPath,
    [
      'node_modules/.bin/tsx',
      'src/cli/main.ts',
      resolve('examples', example),
      '--out',
      '-',
      '--gaps',
      '--time',
      `${time}`,
    ],
    { cwd: root, encoding: 'utf8', maxBuffer: 1 << 30, stdio: ['ignore', 'pipe', 'ignore'] },
  );
const rows = (text: string) =>
  Papa.parse<Record<string, string>>(text, { header: true, skipEmptyLines: true }).data;

const tree = mkdtempSync(join(tmpdir(), 'compare-'));
execFileSync('git', ['worktree', 'add', '--detach', '--force', tree, revision], { stdio: 'ignore' });
symlinkSync(resolve('node_modules'), join(tree, 'node_modules'));
let differ = false;
try {
  for (const example of examples)
    for (const time of TIMES) {
      const [before, now] = [rows(csv(tree, example, time)), rows(csv('.', example, time))];
      let [other, worst] = [Math.abs(before.length - now.length), 0];
      let first = other > 0 ? `${before.length} rows, now ${now.length}` : '';
      before.slice(0, now.length).forEach((was, i) => {
        for (const [field, value] of Object.entries(was)) {
          const is = now[i][field];
          if (is === value) continue;
          const off = NUMBERS.has(field) && value && is ? Math.abs(Number(is) - Number(value)) : Infinity;
          worst = Math.max(worst, off);
          if (off <= 1e-12 * Math.max(1, Math.abs(Number(value)))) continue;
          other++;
          first ||= `${was.arrangement} #${was.slot} ${field}: ${value}, now ${is}`;
        }
      });
      differ ||= other > 0;
      console.log(
        `${other > 0 ? 'DIFFERS' : 'same'}  ${example} at ${time} s: ${now.length} rows, at most ${worst} off${first && `; ${first}`}`,
      );
    }
} finally {
  execFileSync('git', ['worktree', 'remove', '--force', tree], { stdio: 'ignore' });
  rmSync(tree, { recursive: true, force: true });
}
process.exitCode = differ ? 1 : 0;
